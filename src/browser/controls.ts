/** What a form sends and points at: an input, a select, a textarea, or a fieldset with a name. */
export type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement | HTMLFieldSetElement;

/** A control and the steps of its name: `helpers[0]` and `helpers.0` are `helpers`, `0`. */
interface Placed {
  readonly control: Control;
  readonly steps: readonly string[];
}

/** The controls and groups of a form that have a name, in their order; a control called `elements` hides the form's own. */
export function controlsOf(form: HTMLFormElement): readonly Control[] {
  const controls = form.ownerDocument.querySelectorAll<Control>('input,select,textarea,fieldset');
  return [...controls].filter((one) => one.form === form && one.name !== '' && one.type !== 'submit');
}

/** What a form would send now: each text, or all texts where a name comes several times. */
export function entriesOf(form: HTMLFormElement, submitter?: HTMLElement | null): { [name: string]: unknown } {
  const entries: { [name: string]: unknown } = Object.create(null);
  for (const [name, value] of new FormData(form, submitter)) {
    entries[name] = name in entries ? [entries[name], value].flat() : value;
  }
  return entries;
}

/**
 * The control at a JSON Pointer (RFC 6901); for a record or list its fieldset, or the first control in it. An index counts
 * the rows that are not blank, as whoever reads the form does. Undefined where the form has none, and for the record
 * itself.
 */
export function controlAt(form: HTMLFormElement, pointer: string): Control | undefined {
  if (pointer === '') return undefined;
  let found = controlsOf(form).map((control): Placed => {
    const [first = '', ...rest] = control.name.split(/\.|\]?\[|\]/);
    return { control, steps: [first, ...rest.filter((step) => step !== '')] };
  });
  const steps = pointer.split('/').slice(1);
  for (const [depth, step] of steps.entries()) {
    found = /^\d+$/.test(step) ? row(found, depth, +step) : found.filter(({ steps }) => steps[depth] === step);
  }
  const own = found.filter((one) => one.steps.length <= steps.length && !isHidden(one.control));
  return (own.at(-1) ?? found.find(({ control }) => !isHidden(control)))?.control;
}

/** Of the rows of a list those of the one at an index: numbered rows in order, and then what only has the list's name. */
function row(placed: readonly Placed[], depth: number, index: number): Placed[] {
  const numbers = new Set(placed.flatMap(({ steps }) => steps[depth] ?? []));
  const rows = [...numbers]
    .sort((a, b) => +a - +b)
    .map((number) => placed.filter(({ steps }) => steps[depth] === number));
  const bare = placed.filter(
    ({ steps, control }) => steps.length === depth && !(control instanceof HTMLFieldSetElement),
  );
  return (
    [...rows, ...bare.map((one) => [one])].filter((one) => !one.every(({ control }) => isBlank(control)))[index] ?? []
  );
}

function isHidden(control: Control): boolean {
  return control.type === 'hidden';
}

/** True where a control says nothing: no text, an unticked box, and the hidden `false` that goes with it. */
export function isBlank(control: Control): boolean {
  if (control instanceof HTMLFieldSetElement) return true;
  if (control.type === 'checkbox' || control.type === 'radio') return !(control as HTMLInputElement).checked;
  return (isHidden(control) && control.value === 'false') || control.value.trim() === '';
}
