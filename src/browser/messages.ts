import type { Control } from './controls.js';

const idOf = ({ id, name }: Control) => `${id || name}-message`;

/** What stands at a control; '' where nothing does. */
export function messageAt(control: Control): string {
  return control.ownerDocument.getElementById(idOf(control))?.textContent ?? '';
}

/** The place of a control's message: what it is described by, or one that is made behind it. */
function placeOf(control: Control): HTMLElement {
  const id = idOf(control);
  const there = control.ownerDocument.getElementById(id);
  if (there !== null) return there;
  const place = control.ownerDocument.createElement('span');
  place.id = id;
  place.className = 'message';
  place.ariaLive = 'polite';
  if (control instanceof HTMLFieldSetElement) control.append(place);
  else control.after(place);
  const described = control.getAttribute('aria-describedby');
  control.setAttribute('aria-describedby', described === null ? id : `${described} ${id}`);
  return place;
}

/** Shows a message at its control, or takes it away; to screen readers too. */
export function show(control: Control, message: string): void {
  if (messageAt(control) !== message) placeOf(control).textContent = message;
  if (message === '') control.removeAttribute('aria-invalid');
  else if (!(control instanceof HTMLFieldSetElement)) control.setAttribute('aria-invalid', 'true');
}
