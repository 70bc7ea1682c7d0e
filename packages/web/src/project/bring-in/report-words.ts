import { toldInWords } from '@tolvik/core';
import type { Report } from '../../api/types';
import { count } from '../../ui/words';

/** In one sentence: what came, and what was left out; and whether there is more to read of it. */
export function reportWords(report: Report): { words: string; bad: boolean; more: boolean } {
  const refused = report.filter((line) => line.problem);
  const came = report.length - refused.length;
  const changed = report.filter((line) => line.dropped.length > 0);
  const parts: string[] = [];
  if (came > 0) parts.push(`${count(came, 'file')} brought in`);
  if (refused.length === 1) parts.push(refused[0].problem?.message ?? '');
  else if (refused.length > 1)
    parts.push(`${refused.length} refused, the first because ${refused[0].problem?.message}`);
  if (changed.length > 0) {
    const what =
      changed.length === 1
        ? changed[0].dropped.map(toldInWords)
        : [...new Set(changed.flatMap((line) => line.dropped.map((each) => each.what)))];
    parts.push(
      `Left out of ${count(changed.length, 'file')}: ${what.slice(0, 3).join(', ')}${what.length > 3 ? ` and ${what.length - 3} more` : ''}`,
    );
  }
  return { words: `${parts.join('. ')}.`, bad: refused.length > 0, more: refused.length + changed.length > 0 };
}
