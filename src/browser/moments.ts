const WITHOUT_OFFSET = /^\s*\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?\s*$/;

/** A moment that was typed without an offset gets the page's own, at that moment; any other text stays as it is. */
export function withOffset(text: string): string {
  const minutes = WITHOUT_OFFSET.test(text) ? -new Date(text.trim()).getTimezoneOffset() : Number.NaN;
  if (Number.isNaN(minutes)) return text;
  const two = (number: number) => `${Math.trunc(Math.abs(number))}`.padStart(2, '0');
  return `${text.trim()}${minutes < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
}

/** What a form sends of its moments has an offset, by whatever way it is sent. */
export function bindMoments(form: HTMLFormElement, signal: AbortSignal): void {
  const moments = [...form.querySelectorAll<HTMLInputElement>('[data-moment]')];
  // The attribute asks for an offset, as nobody adds one while script is off.
  for (const moment of moments) moment.removeAttribute('pattern');
  if (moments.length === 0) return;
  form.addEventListener(
    'formdata',
    ({ formData }) => {
      for (const { name } of form.querySelectorAll<HTMLInputElement>('[data-moment]')) {
        const texts = formData.getAll(name);
        formData.delete(name);
        for (const text of texts) formData.append(name, withOffset(String(text)));
      }
    },
    { signal },
  );
}
