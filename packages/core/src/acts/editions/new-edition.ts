import * as z from 'zod';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { editionRecord, recordName } from '../../document/records';
import { defineAct } from '../act';
import { chosenArtboards, chosenPieces } from '../doing/chosen';
import { startingSpecs } from '../outputs/starting-specs';

export const newEdition = defineAct({
  name: 'new-edition',
  title: 'One more edition',
  group: 'Pieces',
  needs: 'pieces',
  /** Like the edition that is selected, or like the last one of the artboard; its first one is as the base. */
  settings: z.object({ name: recordName.optional() }),
  nothing: 'No artboard is selected',
  run: (doc, { selection }, { name }) => {
    const [chosen] = chosenPieces(doc, selection).filter(({ kind }) => kind === 'edition');
    const from = chosen && doc.find('edition', chosen.id);
    const board = from ? doc.find('artboard', from.artboardId) : chosenArtboards(doc, selection)[0];
    if (!board) return { label: 'new edition', puts: [], removes: [] };
    const editions = doc.list('edition').filter(({ artboardId }) => artboardId === board.id);
    const like = from ?? editions.at(-1);
    const made = editionRecord.parse({
      ...(like ?? { kind: 'edition', artboardId: board.id, specIds: startingSpecs(doc) }),
      id: newId(),
      order: ordersAfter(lastOrder(editions), 1)[0],
      name: name ?? (like ? `${like.name}-copy` : `${board.name}-edition`),
    });
    return { label: `new edition of ${board.name}`, puts: [made], removes: [], selected: [made.id] };
  },
});
