import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { makeEditions } from '../../editions/make';
import { MAX_TABLE_BYTES, readEditionTable } from '../../editions/table/read';
import { defineAct } from '../act';
import { oneArtboard, withRoomForEditions } from './for-editions';

export const editionsFromTable = defineAct({
  name: 'editions-from-table',
  title: 'Editions from a table',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({
    /** The cells of a table: a row of titles, then one for each edition; the first column names it. What is too much of them is told by its place. */
    table: z.array(z.array(z.string().max(MAX_TABLE_BYTES)).max(10_000)).max(100_000),
    /** Whether editions without a row go. */
    takeOutMissing: z.boolean().default(false),
    /** Whether what can be used is done where something cannot. */
    partly: z.boolean().default(false),
  }),
  nothing: 'The editions are as the table says',
  run: (doc, { selection }, { table, takeOutMissing, partly }) => {
    const artboard = oneArtboard(doc, selection);
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
    withRoomForEditions(doc, artboard, drafts.length - gone.length);
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
