import type { Fonts } from '@tolvik/core';

let fonts: Fonts | null = null;

/** The shipped fonts if they were loaded already; what reads them comes with the first text, and not for this. */
export const fontsAtHand = (): Fonts | null => fonts;

export const keepAtHand = (loaded: Fonts): void => {
  fonts = loaded;
};
