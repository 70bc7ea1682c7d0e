/** Numbers, weights and times as the interface says them. */
export { count, few, weight } from '@tolvik/core';

/** Words as a sentence or a title begins. */
export const upper = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** "today 11:20", "23 Nov 16:41". */
export function when(iso: string | Date): string {
  const date = new Date(iso);
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const today = new Date().toDateString() === date.toDateString();
  return today ? `today ${time}` : `${date.getDate()} ${date.toLocaleString('en', { month: 'short' })} ${time}`;
}

export const clock = (date: Date): string => date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** A number for a field: at most three digits behind the point. */
export const plain = (n: number): string => String(+n.toFixed(3));
