/** Markup that is safe to put into a page as it is. */
export class Html {
  readonly text: string;
  constructor(text: string) {
    this.text = text;
  }
}

type Part = Html | string | number | null | undefined | readonly Part[];

/** Markup with values in it: each is escaped, unless it is markup itself. */
export function html(texts: TemplateStringsArray, ...values: readonly Part[]): Html {
  return new Html(texts.map((text, at) => (at === 0 ? text : `${written(values[at - 1])}${text}`)).join(''));
}

function written(value: Part): string {
  if (value instanceof Html) return value.text;
  if (Array.isArray(value)) return value.map(written).join('');
  return String(value ?? '')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}
