/** Numbers, weights and times as the interface says them. */
export { count, few } from '@tolvik/core';

/** Words as a sentence or a title begins. */
export const upper = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** Bytes as "412 B", "1.3 KB", "38 MB"; 1 KB is 1,024 bytes. */
export function weight(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const kb = bytes / 1024;
  if (kb < 1000) return `${kb < 100 ? kb.toFixed(1) : Math.round(kb).toLocaleString('en')} KB`;
  const mb = kb / 1024;
  if (mb < 1000) return `${mb < 100 ? mb.toFixed(1) : Math.round(mb)} MB`;
  return `${(mb / 1024).toFixed(1)} GB`;
}

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
