/** Results of the long proofs, put into the documents that keep them. */
import { readFileSync, writeFileSync } from 'node:fs';

/** Puts Markdown between the markers `<!-- part -->` and `<!-- /part -->` of the document at `path`. Throws when it has none. */
export function intoDocument(path, part, text) {
  const before = readFileSync(path, 'utf8');
  const [start, end] = [`<!-- ${part} -->`, `<!-- /${part} -->`];
  const [from, to] = [before.indexOf(start), before.indexOf(end)];
  if (from < 0 || to < from) throw new Error(`${path} has no place for ${part}`);
  writeFileSync(path, `${before.slice(0, from + start.length)}\n\n${text}\n\n${before.slice(to)}`);
}
