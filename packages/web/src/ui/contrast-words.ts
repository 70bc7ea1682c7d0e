/** A contrast ratio as "contrast 4.6 : 1" (WCAG 2.2), cut and not rounded; marked where it is too little. */
export const contrastWords = (ratio: number, faint: boolean): string =>
  `${faint ? '! ' : ''}contrast ${(Math.floor(ratio * 10 + 1e-6) / 10).toFixed(1)} : 1`;
