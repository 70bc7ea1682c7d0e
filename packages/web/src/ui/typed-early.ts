/** A key that writes a letter, and nothing that is held with it means a command. */
const isLetter = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey;

const isTextField = (element: Element | null): element is HTMLInputElement | HTMLTextAreaElement =>
  element instanceof HTMLTextAreaElement ||
  (element instanceof HTMLInputElement && ['text', 'search', 'url', 'email'].includes(element.type));

/** Waits until what was done so far is drawn. */
const settled = () => new Promise((resolve) => setTimeout(resolve));

const MOST_TURNS = 20;

/** Writes letters into what has the focus, as typing does, and presses Enter as it was pressed; nowhere without a text field. */
async function play(keys: readonly KeyboardEvent[]): Promise<void> {
  // What a dialog begins with may be drawn a step after the dialog.
  for (let turn = 0; turn < MOST_TURNS && !isTextField(document.activeElement); turn++) await settled();
  let letters = '';
  const write = () => {
    const field = document.activeElement;
    if (letters === '' || !isTextField(field)) return;
    field.setRangeText(letters, field.selectionStart ?? 0, field.selectionEnd ?? 0, 'end');
    field.dispatchEvent(new InputEvent('input', { bubbles: true, inputType: 'insertText', data: letters }));
    letters = '';
  };
  for (const event of keys) {
    if (isLetter(event)) letters += event.key;
    else {
      write();
      await settled();
      if (!isTextField(document.activeElement)) return;
      const { key, ctrlKey, metaKey, shiftKey } = event;
      document.activeElement.dispatchEvent(
        new KeyboardEvent('keydown', { key, ctrlKey, metaKey, shiftKey, bubbles: true, cancelable: true }),
      );
      // Enter may go on to the next field.
      await settled();
    }
  }
  write();
}

/**
 * Keeps what is typed while a dialog is on its way, until it is here: then its field has it. Answers what to call when it
 * is; without a field, nothing comes of it.
 */
export function keepTyped(): () => void {
  const keys: KeyboardEvent[] = [];
  const keep = (event: KeyboardEvent) => {
    if (event.isComposing || !(isLetter(event) || event.key === 'Enter')) return;
    keys.push(event);
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  window.addEventListener('keydown', keep, true);
  return () => {
    window.removeEventListener('keydown', keep, true);
    // The dialog takes the focus among what is done right now.
    if (keys.length > 0) queueMicrotask(() => void play(keys));
  };
}
