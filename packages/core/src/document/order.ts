import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';

/** `count` order keys behind `last` (or from the start), each a plain string that sorts after the one before. */
export const ordersAfter = (last: string | null, count: number): string[] => generateNKeysBetween(last, null, count);

/** `count` keys between two neighbours; null is the open end. */
export const ordersBetween = (before: string | null, after: string | null, count: number): string[] =>
  generateNKeysBetween(before, after, count);

/** One key between two neighbours. */
export const orderBetween = (before: string | null, after: string | null): string => generateKeyBetween(before, after);

/** The order key of the last of a sorted list, or null when it is empty. */
export const lastOrder = (sorted: readonly { order: string }[]): string | null => sorted.at(-1)?.order ?? null;

const DIGITS = /^[0-9A-Za-z]+$/;
const SMALLEST_INTEGER = `A${'0'.repeat(26)}`;

/** Whether text is an order key: an integer part whose first letter says how long it is, and a fraction that does not end in 0. */
export function isOrderKey(key: string): boolean {
  const head = key.charCodeAt(0);
  const length = head >= 97 && head <= 122 ? head - 97 + 2 : head >= 65 && head <= 90 ? 90 - head + 2 : 0;
  return (
    length > 0 &&
    key.length >= length &&
    DIGITS.test(key) &&
    key !== SMALLEST_INTEGER &&
    (key.length === length || !key.endsWith('0'))
  );
}
