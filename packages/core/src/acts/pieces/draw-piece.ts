import * as z from 'zod';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { artboardRecord, COORDINATE_LIMIT, recordName, sliceRecord } from '../../document/records';
import { defineAct } from '../act';
import { startingSpecs } from '../outputs/starting-specs';

const place = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT);
const side = z.number().positive().max(COORDINATE_LIMIT);

export const drawPiece = defineAct({
  name: 'draw-piece',
  title: 'A new artboard or slice',
  group: 'Pieces',
  needs: 'nothing',
  /** In px of the plane; without a name it is called "artboard 4", by the lowest number that no other has. */
  settings: z.object({
    what: z.enum(['artboard', 'slice']),
    x: place,
    y: place,
    width: side,
    height: side,
    name: recordName.optional(),
  }),
  nothing: 'There is nothing to draw',
  run: (doc, _intent, { what, name, ...rect }) => {
    const list = doc.list(what);
    const [order] = ordersAfter(lastOrder(list), 1);
    const base = { id: newId(), order, name: name ?? freshName(what, list), specIds: startingSpecs(doc) };
    const record =
      what === 'artboard'
        ? artboardRecord.parse({ ...base, kind: 'artboard', ...rect })
        : sliceRecord.parse({ ...base, kind: 'slice', source: { kind: 'region', ...rect } });
    return { label: `draw ${what}`, puts: [record], removes: [], selected: [record.id] };
  },
});

function freshName(what: string, list: readonly { name: string }[]): string {
  const taken = new Set(list.map(({ name }) => name));
  let n = list.length + 1;
  while (taken.has(`${what} ${n}`)) n++;
  return `${what} ${n}`;
}
