/** Lists and the plane: what single letters and arrows belong to. */
export const HOLDERS = 'canvas[tabindex="0"], [role="grid"], [role="treegrid"], [role="listbox"]';
const DIALOGS = '[role="dialog"], [role="alertdialog"], [role="menu"]';

/** An element and all it lies in, the innermost first. */
function around(element: Element | null): Element[] {
  const found: Element[] = [];
  for (let at = element; at; at = at.parentElement) found.push(at);
  return found;
}

export const isFocusable = (element: Element): element is HTMLElement =>
  element instanceof HTMLElement && element.tabIndex >= 0 && !element.matches(':disabled');

/** The plane, or else the first list, in an element. */
const homeIn = (element: Element): HTMLElement | null =>
  element.querySelector<HTMLElement>('canvas[tabindex="0"]') ??
  [...element.querySelectorAll<HTMLElement>(HOLDERS)].find(isFocusable) ??
  null;

/**
 * The element that takes over the focus from the first of `trail`: its closest focusable ancestor, or the plane or list
 * within the closest ancestor that has one. Null inside a dialog that has none.
 */
function nearest(trail: readonly Element[]): HTMLElement | null {
  for (const element of trail.slice(1)) {
    if (!element.isConnected) continue;
    if (isFocusable(element)) return element;
    const home = homeIn(element);
    if (home) return home;
    // Out of an open dialog nothing goes.
    if (element.matches(DIALOGS)) return null;
  }
  return null;
}

/**
 * Focus that would fall to the page, because its field was ended or its button is gone, goes to the nearest list or plane
 * around it, so that the next key means what it meant there. After a click on a button beside the plane the plane has the
 * keys again. Answers what ends it.
 */
export function keepFocus(): () => void {
  let trail: Element[] = [];
  /** The last one that was in no dialog or menu: where one was before it was opened. */
  let before: Element[] = [];
  let pressed = false;
  const focused = ({ target }: FocusEvent) => {
    if (!(target instanceof Element)) return;
    trail = around(target);
    if (!target.closest(DIALOGS)) before = trail;
  };
  const look = () => {
    const { activeElement } = document;
    if (pressed || !document.hasFocus() || (activeElement && activeElement !== document.body)) return;
    if (trail.some((each) => each.isConnected && each.matches(DIALOGS))) nearest(trail)?.focus({ preventScroll: true });
    else (nearest(trail) ?? nearest(before) ?? homeIn(document.body))?.focus({ preventScroll: true });
  };
  const left = ({ relatedTarget }: FocusEvent) => {
    if (relatedTarget === null) queueMicrotask(look);
  };
  const down = () => {
    pressed = true;
  };
  const up = () => {
    pressed = false;
  };
  const clicked = ({ target, detail }: MouseEvent) => {
    const button = target instanceof Element ? target.closest('button') : null;
    if (detail === 0 || !button || button.closest(`${DIALOGS}, ${HOLDERS}`) || button.ariaHasPopup) return;
    // What it does may open something that takes the focus.
    setTimeout(() => {
      if (document.activeElement === button || document.activeElement === document.body)
        nearest(around(button))?.focus({ preventScroll: true });
    });
  };
  // Nothing had it yet, or a click on empty ground took it away: the key is for where one was, or for the plane.
  const key = ({ target }: KeyboardEvent) => {
    if (target === document.body) look();
  };
  const listeners: [keyof WindowEventMap, (event: never) => void][] = [
    ['focusin', focused],
    ['focusout', left],
    ['pointerdown', down],
    ['pointerup', up],
    ['pointercancel', up],
    ['click', clicked],
    ['keydown', key],
  ];
  for (const [name, listener] of listeners) window.addEventListener(name, listener as EventListener, true);
  return () => {
    for (const [name, listener] of listeners) window.removeEventListener(name, listener as EventListener, true);
  };
}

/**
 * Calls back once the focus that leaves a field has come to where it goes; at once where it goes nowhere. What is changed
 * before, while nothing has it, makes a dialog take it for lost, and the next letter with it.
 */
export function onceThere({ relatedTarget }: { relatedTarget: EventTarget | null }, done: () => void): void {
  if (relatedTarget === null) return done();
  let isDone = false;
  const now = () => {
    if (isDone) return;
    isDone = true;
    window.removeEventListener('focusin', now, true);
    done();
  };
  window.addEventListener('focusin', now, true);
  setTimeout(now);
}

/** Whether a key alone, a letter or an arrow, is meant for the plane or a list: not for a control beside them. */
export const meansPlaneOrList = (target: EventTarget | null): boolean =>
  !(target instanceof Element) ||
  target === document.body ||
  target.closest(`${HOLDERS}, section[aria-label="Plane"]`) !== null ||
  target.closest('a, button, input, select, textarea, [role="tab"], [tabindex="0"]') === null;
