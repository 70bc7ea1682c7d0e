import * as z from 'zod';
import { count } from '../../basics/words';
import { type ProjectRecord, recordId } from '../../document/records';
import { defineAct } from '../act';
import { chosenPieces } from '../doing/chosen';

export const switchFiles = defineAct({
  name: 'switch-files',
  title: 'Switch files on or off',
  group: 'Files',
  needs: 'pieces',
  /**
   * The files that these outputs make of the selected pieces. With `alone`, a piece that does not follow an output's
   * spec gets that output of it and no other.
   */
  settings: z.object({
    on: z.boolean(),
    outputIds: z.array(recordId).min(1).max(500),
    alone: z.boolean().optional(),
  }),
  nothing: 'They are so already',
  /** A piece that was off as a whole comes on with only these. */
  run: (doc, { selection }, { on, outputIds, alone }) => {
    const chosen = chosenPieces(doc, selection);
    const named = outputIds.flatMap((id) => doc.find('output', id) ?? []);
    let files = 0;
    const puts = chosen.flatMap((piece): ProjectRecord[] => {
      const outputs = named.filter((output) => (on && alone) || piece.specIds.includes(output.specId));
      if (outputs.length === 0) return [];
      files += outputs.length;
      const off = new Set(piece.offOutputIds);
      const before = [...off].sort().join();
      const joined = new Set(outputs.map(({ specId }) => specId).filter((id) => !piece.specIds.includes(id)));
      for (const output of doc.list('output'))
        if (joined.has(output.specId) || (on && !piece.on && piece.specIds.includes(output.specId))) off.add(output.id);
      for (const { id } of outputs) on ? off.delete(id) : off.add(id);
      if ((piece.on || !on) && joined.size === 0 && [...off].sort().join() === before) return [];
      return [{ ...piece, on: on ? true : piece.on, specIds: [...piece.specIds, ...joined], offOutputIds: [...off] }];
    });
    return {
      label: `switch ${count(files, 'file')} ${on ? 'on' : 'off'}`,
      puts,
      removes: [],
    };
  },
});
