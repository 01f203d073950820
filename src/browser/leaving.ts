import type { Control } from './controls.js';

/**
 * Notes which controls are left, and tells when it is time to show what is wrong with them. A message that came while a
 * button is pressed would move the button away from under the pointer: it waits until the pointer is up.
 */
export function bindLeaving(
  form: HTMLFormElement,
  leave: (control: Control) => void,
  show: () => void,
  signal: AbortSignal,
): void {
  let isPressed = false;
  let isWaiting = false;
  const settle = () => {
    if (isWaiting && !isPressed) show();
    isWaiting &&= isPressed;
  };
  const listen = (target: EventTarget, name: string, does: (event: Event) => void) =>
    target.addEventListener(name, does, { signal, capture: true });
  const press = (pressed: boolean) => {
    isPressed = pressed;
    // The press itself is dealt with first.
    if (!pressed) setTimeout(settle);
  };
  listen(form.ownerDocument, 'pointerdown', () => press(true));
  listen(form.ownerDocument, 'pointerup', () => press(false));
  listen(form.ownerDocument, 'pointercancel', () => press(false));
  const left = ({ target }: Event) => {
    leave(target as Control);
    isWaiting = true;
    settle();
  };
  listen(form, 'focusout', left);
  listen(form, 'change', (event) => {
    // A day is not chosen until it is left: it changes with every digit.
    if (/select|checkbox|radio/.test((event.target as Control).type)) left(event);
  });
}
