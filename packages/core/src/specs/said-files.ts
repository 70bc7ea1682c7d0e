import { outputsInWords, type SaidOutput } from './outputs-in-words';

/** Which pieces, as they are picked in lists ("3-9, 12" or a name), null for all others; and what each makes, nothing when it is switched off. */
export type SaidFiles = { who: string | null; outputs: SaidOutput[] };

const MOST_CLAUSES = 100;

/**
 * Outputs in words (`outputsInWords`), and of some pieces alone: "1-3: png 1x 2x; mark: svg; 7, 9: none; pdf". With a
 * colon anywhere, semicolons and lines part who from who; what stands without one is for all others. A sentence where
 * something is not understood.
 */
export function filesInWords(text: string): SaidFiles[] | string {
  const clauses = text.includes(':') ? text.split(/[;\n]+/) : [text];
  if (clauses.length > MOST_CLAUSES) return `needs up to ${MOST_CLAUSES} parts`;
  const said: SaidFiles[] = [];
  for (const clause of clauses) {
    if (clauses.length > 1 && clause.trim() === '') continue;
    const [, before, words] = /^(?:([^:]*):)?(.*)$/s.exec(clause) ?? [];
    const who = before === undefined ? null : before.trim();
    if (who === '') return 'needs a number or a name before the colon, such as “1-3: png”';
    if (who === null && said.some((each) => each.who === null))
      return 'says twice what all others make; a part for some begins with their numbers and a colon';
    const outputs = /^\s*none\s*$/i.test(words) ? [] : outputsInWords(words);
    if (typeof outputs === 'string') return who === null ? outputs : `${who}: ${outputs}`;
    said.push({ who, outputs });
  }
  return said.length > 0 ? said : (outputsInWords('') as string);
}
