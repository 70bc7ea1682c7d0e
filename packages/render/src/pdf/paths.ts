import type { PathStep } from '@tolvik/core';
import { num } from './content';

/** Path construction operators (ISO 32000-1 §8.5.2). */
export function pathOperators(steps: readonly PathStep[], decimals: number): string {
  let text = '';
  let start = '';
  let closed = false;
  for (const { op, n } of steps) {
    if (op === 'Z') {
      text += 'h\n';
      closed = true;
      continue;
    }
    // After a closed subpath the next begins where that one began, unless it says otherwise (SVG 2 §9.3.4).
    if (closed && op !== 'M') text += start;
    closed = false;
    let line = '';
    for (const value of n) line += `${num(value, decimals)} `;
    line += op === 'M' ? 'm\n' : op === 'L' ? 'l\n' : 'c\n';
    if (op === 'M') start = line;
    text += line;
  }
  return text;
}
