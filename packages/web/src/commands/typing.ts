/** Whether keys belong to something being typed into. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target.tagName === 'TEXTAREA' ||
    target.tagName === 'SELECT' ||
    (target instanceof HTMLInputElement && !/^(checkbox|radio|button|color|range)$/.test(target.type)));

/** Takes over what is being typed, as leaving its field does: before a key goes elsewhere, or the page is left. */
export function settleTyped(): void {
  const field = document.activeElement;
  if (isTyping(field)) (field as HTMLElement).blur();
}
