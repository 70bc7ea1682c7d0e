import { isFocusable } from './keep-focus';

/** A key that writes a letter, and nothing that is held with it means a command. */
const isLetter = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey;

/** Keys that a field and what is around it answer to, besides letters. */
const HANDED_ON = ['Enter', 'Tab', 'ArrowDown', 'ArrowUp', 'Backspace'];

const isKept = (event: KeyboardEvent): boolean =>
  !event.isComposing && !event.altKey && (isLetter(event) || HANDED_ON.includes(event.key));

/** Whether keys are a command's, whatever the focus is on. */
let isCommand: (event: KeyboardEvent) => boolean = () => false;

/** Says which keys are commands, so that these are kept, too, and played in their turn. */
export function keepCommands(test: typeof isCommand): void {
  isCommand = test;
}

const isTextField = (element: Element | null): element is HTMLInputElement | HTMLTextAreaElement =>
  element instanceof HTMLTextAreaElement ||
  (element instanceof HTMLInputElement && ['text', 'search', 'url'].includes(element.type));

/** Waits until what was done so far is drawn. */
const settled = () => new Promise((resolve) => setTimeout(resolve));

/** How often is looked for a field: what opens, and what it begins with, may each be drawn a step later. */
const MOST_TURNS = 20;

/** Waits for the field of a dialog to have the focus, as long as the code of one is on its way. */
async function untilField(): Promise<void> {
  const isComing = () => document.querySelector('[role="dialog"][aria-busy="true"]') !== null;
  for (let turns = 0; turns < MOST_TURNS || isComing(); turns++) {
    const { activeElement } = document;
    if (isTextField(activeElement) && activeElement.closest('[role="dialog"]')) return;
    await settled();
  }
}

/** Moves the focus as Tab does within a dialog: behind its last stop comes its first. */
function tab(dialog: Element, from: Element, by: 1 | -1): void {
  const stops = [...dialog.querySelectorAll('*')].filter(isFocusable);
  const next = stops.at((stops.findIndex((stop) => stop.contains(from)) + by) % stops.length);
  if (!next) return;
  next.focus();
  if (isTextField(next)) next.select();
}

/** Writes into a field, or takes the letter before the caret away, as a key does. */
function write(field: HTMLInputElement | HTMLTextAreaElement, letter: string): void {
  const [from, to] = [field.selectionStart ?? 0, field.selectionEnd ?? 0];
  field.setRangeText(letter, letter === '' && from === to ? Math.max(0, from - 1) : from, to, 'end');
  const inputType = letter === '' ? 'deleteContentBackward' : 'insertText';
  field.dispatchEvent(new InputEvent('input', { bubbles: true, inputType, data: letter || null }));
}

/**
 * Does what a kept key would have done, where the focus is now: in the dialog that opened, or as a shortcut where none did.
 * A dialog that came without a field, a question for one, is answered by nothing that was typed before it was seen.
 */
function play(event: KeyboardEvent): void {
  const at = document.activeElement ?? document.body;
  if (isTextField(at) && isLetter(event)) return write(at, event.key);
  const dialog = at.closest('[role="dialog"]');
  if (
    dialog
      ? ![...dialog.querySelectorAll('input, textarea')].some(isTextField)
      : document.querySelector('[role="dialog"]')
  )
    return;
  const { key, ctrlKey, metaKey, shiftKey } = event;
  const pressed = new KeyboardEvent('keydown', { key, ctrlKey, metaKey, shiftKey, bubbles: true, cancelable: true });
  if (!at.dispatchEvent(pressed)) return;
  if (key === 'Tab' && dialog) tab(dialog, at, shiftKey ? -1 : 1);
  else if (isTextField(at)) {
    if (key === 'Backspace') write(at, '');
    else if (ctrlKey && key === 'a') at.select();
  } else if ((key === ' ' || key === 'Enter') && at instanceof HTMLButtonElement) at.click();
}

/** The queue of all keys that were pressed and not played yet; one for all dialogs, so that keys keep their order. */
const keys: KeyboardEvent[] = [];
/** How many things are on their way that keys may be for. */
let holds = 0;
/** Whether something was opened since it was last waited for. */
let opened = false;
let playing = false;

function keep(event: KeyboardEvent): void {
  if (!event.isTrusted) return;
  // Escape cancels the keys that were pressed for a dialog that is not here yet.
  if (event.key === 'Escape') keys.length = 0;
  if (!(isKept(event) || (!event.isComposing && isCommand(event)))) return;
  keys.push(event);
  event.preventDefault();
  event.stopImmediatePropagation();
}

/** Plays what was kept, until nothing is left or something opens again, which the rest may be for. */
async function playAll(): Promise<void> {
  if (playing) return;
  playing = true;
  while (holds === 0) {
    if (opened) {
      opened = false;
      // A dialog takes the focus among what is done right now.
      await Promise.resolve();
      await untilField();
      continue;
    }
    const key = keys.shift();
    if (!key) break;
    play(key);
    if (isCommand(key)) opened = true;
    // What comes of a letter is in the field; other keys act on what is drawn, and change it.
    else if (!isLetter(key) || (keys.length > 0 && !isLetter(keys[0]))) await settled();
  }
  playing = false;
  if (holds === 0) window.removeEventListener('keydown', keep, true);
}

/**
 * Keeps what is typed while something opens, until its field has the focus: then the field has it, and what is typed
 * meanwhile goes behind it, so that all is in the order in which it was typed; so do shortcuts, and what is typed for what
 * they open. In a dialog without a field nothing comes of it; where no dialog opens, keys are shortcuts as ever. Answers
 * what to call once it was asked to open.
 */
export function keepTyped(): () => void {
  if (holds++ === 0) window.addEventListener('keydown', keep, true);
  let held = true;
  return () => {
    if (!held) return;
    held = false;
    holds--;
    opened = true;
    void playAll();
  };
}

/**
 * Does what was chosen in a list that closes, once that has given the focus back, so that what opens next can take it;
 * what is typed meanwhile is for that.
 */
export function afterChoice(run: () => void, hand = keepTyped()): void {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      run();
      hand();
    }),
  );
}
