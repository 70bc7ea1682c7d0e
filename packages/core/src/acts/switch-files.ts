import { z } from 'zod';
import { count } from '../basics/words';
import { type ProjectRecord, recordId } from '../document/records';
import { defineAct } from './act';
import { chosenPieces } from './chosen';

export const switchFiles = defineAct({
  name: 'switch-files',
  title: 'Switch files on or off',
  group: 'Files',
  needs: 'pieces',
  /** The files that these outputs make of the selected pieces. */
  settings: z.object({ on: z.boolean(), outputIds: z.array(recordId).min(1).max(500) }),
  nothing: 'They are so already',
  /** A piece that was off as a whole comes on with only these. */
  run: (doc, { selection }, { on, outputIds }) => {
    const chosen = chosenPieces(doc, selection);
    const named = outputIds.flatMap((id) => doc.find('output', id) ?? []);
    let files = 0;
    const puts = chosen.flatMap((piece): ProjectRecord[] => {
      const outputs = named.filter((output) => piece.specIds.includes(output.specId));
      if (outputs.length === 0) return [];
      files += outputs.length;
      const off = new Set(piece.offOutputIds);
      const before = [...off].sort().join();
      if (on && !piece.on)
        for (const output of doc.list('output')) if (piece.specIds.includes(output.specId)) off.add(output.id);
      for (const { id } of outputs) on ? off.delete(id) : off.add(id);
      if ((piece.on || !on) && [...off].sort().join() === before) return [];
      return [{ ...piece, on: on ? true : piece.on, offOutputIds: [...off] }];
    });
    return {
      label: `switch ${count(files, 'file')} ${on ? 'on' : 'off'}`,
      puts,
      removes: [],
    };
  },
});
