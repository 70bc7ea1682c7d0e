import * as z from 'zod';
import { inPieceOrder, PIECE_ORDERS } from '../../arrange/piece-order';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { sliceRecord } from '../../document/records';
import { layerTitle } from '../../document/titles';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { startingSpecs } from '../outputs/starting-specs';

export const sliceLayers = defineAct({
  name: 'slice-layers',
  title: 'A slice of each selected layer',
  group: 'Pieces',
  needs: 'layers',
  settings: z.object({ order: z.enum(PIECE_ORDERS).default('reading') }),
  nothing: 'There is nothing to slice',
  /** Each slice follows its layer. */
  run: (doc, { selection }, { order }) => {
    const layers = inPieceOrder(doc, chosenLayers(doc, selection), order);
    const orders = ordersAfter(lastOrder(doc.list('slice')), layers.length);
    const puts = layers.map((layer, i) =>
      sliceRecord.parse({
        id: newId(),
        kind: 'slice',
        order: orders[i],
        name: layerTitle(layer),
        source: { kind: 'layer', layerId: layer.id },
        specIds: startingSpecs(doc),
      }),
    );
    return {
      label: `slices of ${nameOfChosen(doc, selection)}`,
      puts,
      removes: [],
      selected: puts.map(({ id }) => id),
    };
  },
});
