import { z } from 'zod';
import { refuse } from '../basics/problem';
import { editionsOf, MAX_EDITIONS, makeEditions } from '../editions/make';
import { readEditionTable } from '../editions/table/read';
import { defineAct } from './act';
import { chosenArtboards } from './chosen';

export const editionsFromTable = defineAct({
  name: 'editions-from-table',
  title: 'Editions from a table',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({
    /** The cells of a table: a row of titles, then one for each edition; the first column names it. */
    table: z.array(z.array(z.string().max(10_000)).max(1000)).max(MAX_EDITIONS + 1),
    /** Whether editions without a row go. */
    takeOutMissing: z.boolean().default(false),
    /** Whether what can be used is done where something cannot. */
    partly: z.boolean().default(false),
  }),
  nothing: 'The editions are as the table says',
  run: (doc, { selection }, { table, takeOutMissing, partly }) => {
    const [artboard, ...others] = chosenArtboards(doc, selection);
    if (others.length > 0)
      refuse('table.several', 'a table is of the editions of one artboard', { accepted: 'one artboard' });
    const { drafts, changed, missing, trouble } = readEditionTable(doc, artboard, table);
    if (trouble.length > 0 && !partly) {
      const [{ row, column, message }, ...more] = trouble;
      refuse(
        'table.trouble',
        `row ${row}, column ${column}: ${message}${more.length > 0 ? `; and ${more.length} more like it` : ''}`,
        { accepted: 'a table of which every cell can be used, or "partly"' },
      );
    }
    const gone = takeOutMissing ? missing : [];
    if (editionsOf(doc, artboard).length - gone.length + drafts.length > MAX_EDITIONS)
      refuse('table.many', `${artboard.name} would have more than ${MAX_EDITIONS.toLocaleString('en')} editions`, {
        accepted: `${MAX_EDITIONS.toLocaleString('en')} editions on one artboard`,
      });
    const parts = [
      [drafts.length, 'new'],
      [changed.length, 'changed'],
      [gone.length, 'taken out'],
    ].flatMap(([n, what]) => (n ? [`${n.toLocaleString('en')} ${what}`] : []));
    return {
      label: `editions of ${artboard.name}: ${parts.join(', ')}`,
      puts: [...makeEditions(doc, artboard, drafts), ...changed],
      removes: gone.map(({ id }) => id),
    };
  },
});
