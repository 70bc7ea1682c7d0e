import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';

/** `count` order keys behind `last` (or from the start), each a plain string that sorts after the one before. */
export const ordersAfter = (last: string | null, count: number): string[] => generateNKeysBetween(last, null, count);

/** `count` keys between two neighbours; null is the open end. */
export const ordersBetween = (before: string | null, after: string | null, count: number): string[] => generateNKeysBetween(before, after, count);

/** One key between two neighbours. */
export const orderBetween = (before: string | null, after: string | null): string => generateKeyBetween(before, after);

/** The order key of the last of a sorted list, or null when it is empty. */
export const lastOrder = (sorted: readonly { order: string }[]): string | null => sorted.at(-1)?.order ?? null;
