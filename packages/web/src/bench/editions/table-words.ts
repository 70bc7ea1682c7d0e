import type { EditionTable } from '@tolvik/core';
import { count } from '../../ui/words';

const WIDEST_COLUMN = 26;

/** Characters between tabs so that columns stand below one another, as far as they are not too wide. */
export const columnWidth = (text: string): number =>
  Math.min(
    WIDEST_COLUMN,
    2 +
      Math.max(
        8,
        ...text
          .slice(0, 4000)
          .split(/[\t\n]/)
          .map((cell) => cell.length),
      ),
  );

/** "12 editions", or "2 new, 3 changed, 7 as they are". */
export function whatBecomes({ drafts, changed, same, missing }: EditionTable): string {
  if (changed.length + same.length + missing.length === 0) return count(drafts.length, 'edition');
  return [
    [drafts.length, 'new'],
    [changed.length, 'changed'],
    [same.length, same.length === 1 ? 'as it is' : 'as they are'],
    [missing.length, 'without a row'],
  ]
    .flatMap(([n, what]) => (n ? [`${n.toLocaleString('en')} ${what}`] : []))
    .join(', ');
}
