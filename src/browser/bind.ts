import { withoutSecrets } from './concealed.js';
import { type Control, controlAt, controlsOf, entriesOf } from './controls.js';
import { bindLeaving } from './leaving.js';
import { messageAt, show } from './messages.js';
import { bindMoments } from './moments.js';
import { bindRows } from './rows.js';
import { summarise } from './summary.js';
import type { Checked, How, Rules, Violation } from './types.js';

export interface BindOptions<T> extends Pick<How, 'clock' | 'messages'> {
  /** Called with what the form is now, at each change: the canonical record without secrets, or what is wrong with it. */
  readonly live?: (checked: Checked<T>) => void;
  /**
   * Sends the record in place of the form's own sending, and gives what the server finds wrong; `violationsIn` reads that
   * from an answer. What was typed stays, whatever comes back.
   */
  readonly send?: (value: T, form: HTMLFormElement) => Promise<readonly Violation[] | undefined>;
  /** What can be chosen for references, by ruleset: keys, and the texts that people read. */
  readonly options?: { readonly [ruleset: string]: readonly (readonly [key: string | number, called: string])[] };
  /** Of a form that changes a part of a stored record: that record, in canonical form, and the fields that it shows. */
  readonly existing?: object;
  readonly shown?: readonly string[];
  /** What stands over the summary of so many faults. */
  readonly heading?: (count: number) => string;
  /** What is said where nothing could be sent. */
  readonly unsent?: string;
}

/** A form that is bound to its rules. */
export interface Bound<T> {
  /** Checks the form as it is, and shows everything that is wrong. */
  check(): Checked<T>;
  /** Shows violations from elsewhere, such as a server's, until their controls are changed. */
  show(violations: readonly Violation[]): void;
  unbind(): void;
}

const things = (count: number) => `${count} ${count === 1 ? 'thing' : 'things'} to mend`;
const NOT_SENT = 'This could not be sent. Nothing is lost: try again.';

/** Puts a message behind those that are there already. */
function add<K>(messages: Map<K, string>, control: K, message: string): void {
  const before = messages.get(control);
  messages.set(control, before === undefined ? message : `${before} ${message}`);
}

/**
 * Binds a form to its rules. A field is checked when it is left, and while it is mended; the whole form when it is sent.
 * Nothing that was typed is ever changed.
 *
 * @param rules the compiled module of the form's ruleset
 */
export function bind<T>(form: HTMLFormElement, rules: Rules<T>, options: BindOptions<T> = {}): Bound<T> {
  const { live, send, heading = things, unsent = NOT_SENT } = options;
  const { clock, messages, existing, shown } = options;
  const how = {
    wire: 'form',
    on: 'client',
    ...(clock && { clock }),
    ...(messages && { messages }),
    ...(existing && { partial: true, existing, shown }),
  } as How & { readonly partial?: false };
  const ending = new AbortController();
  const { signal } = ending;
  /** Controls that were left, or sent: what is wrong with them is shown. */
  const left = new Set<Control>();
  /** What somebody else found wrong, until it is mended. */
  const told = new Map<Control, string>();
  const controls = () => controlsOf(form);
  const faulty = () => controls().filter((one) => messageAt(one) !== '');

  const refresh = (among: Iterable<Control>, submitter?: HTMLElement | null): Checked<T> => {
    const checked = rules.check(entriesOf(form, submitter), how);
    const words = new Map<Control | undefined, string>(told);
    for (const { pointer, message } of checked.ok ? [] : checked.violations)
      add(words, controlAt(form, pointer), message);
    // The browser's own validity says the truth of every control, so that styles and screen readers do.
    for (const control of controls()) control.setCustomValidity(words.get(control) ?? '');
    for (const control of among) show(control, words.get(control) ?? '');
    live?.(withoutSecrets(checked, rules));
    return checked;
  };

  const showAll = (violations: readonly Violation[]) => {
    for (const { pointer, message } of violations) {
      const control = controlAt(form, pointer);
      if (control !== undefined) add(told, control, message);
    }
    refresh(controls().filter((one) => left.has(one) || told.has(one)));
    summarise(form, violations, heading(violations.length));
  };

  const checkAll = (submitter?: HTMLElement | null): Checked<T> => {
    told.clear();
    for (const control of controls()) left.add(control);
    const checked = refresh(controls(), submitter);
    const violations = checked.ok ? [] : checked.violations;
    summarise(form, violations, heading(violations.length));
    return checked;
  };

  bindLeaving(
    form,
    (control) => left.add(control),
    () => refresh(controls().filter((one) => left.has(one))),
    signal,
  );
  const listen = (name: string, does: (event: Event) => void) =>
    form.addEventListener(name, does, { signal, capture: true });
  listen('input', ({ target }) => {
    for (const one of told.keys()) if (one.contains(target as Control)) told.delete(one);
    refresh(faulty());
  });
  listen('reset', () => {
    left.clear();
    told.clear();
    setTimeout(() => refresh(controls()));
  });

  let isBusy = false;
  listen('submit', async (event) => {
    const { submitter } = event as SubmitEvent;
    if (submitter?.hasAttribute('formnovalidate')) return;
    if (isBusy) return event.preventDefault();
    const checked = checkAll(submitter);
    if (!checked.ok || send !== undefined) event.preventDefault();
    if (!checked.ok || send === undefined) return;
    isBusy = true;
    form.ariaBusy = 'true';
    try {
      showAll((await send(checked.value, form)) ?? []);
    } catch {
      summarise(form, [{ pointer: '', rule: '', message: unsent }], heading(1));
    }
    isBusy = false;
    form.ariaBusy = null;
  });

  for (const select of form.querySelectorAll<HTMLSelectElement>('select[data-refers-to]')) {
    const { value } = select;
    for (const [key, called] of options.options?.[select.dataset.refersTo ?? ''] ?? [])
      select.add(new Option(called, `${key}`));
    select.value = value;
  }
  bindRows(form, () => refresh(faulty()), signal);
  bindMoments(form, signal);
  // What a server has found wrong stands in the page already.
  for (const control of faulty()) told.set(control, messageAt(control));
  const { noValidate } = form;
  form.noValidate = true;
  refresh([]);
  return {
    check: () => checkAll(),
    show: showAll,
    unbind() {
      ending.abort();
      form.noValidate = noValidate;
      for (const control of controls()) control.setCustomValidity('');
    },
  };
}
