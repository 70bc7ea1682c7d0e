import { READABLE } from '@tolvik/core';

/** A contrast ratio as "contrast 4.6 : 1" (WCAG 2.2); marked where it cannot be read. */
export const contrastWords = (ratio: number): string =>
  `${ratio < READABLE ? '! ' : ''}contrast ${ratio.toFixed(1)} : 1`;
