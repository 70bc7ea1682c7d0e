import * as z from 'zod';
import { layerRecord } from '../../document/records';
import { printNumber } from '../../geometry/matrix';
import { defineAct } from '../act';
import { chosenLayers, nameOfChosen } from '../doing/chosen';
import { differing } from '../editions/differing';

/** Attributes of fill and stroke (SVG 2 §13). */
const PAINT = [
  'fill',
  'fill-opacity',
  'fill-rule',
  'stroke',
  'stroke-opacity',
  'stroke-width',
  'stroke-linejoin',
  'stroke-linecap',
  'stroke-miterlimit',
  'stroke-dasharray',
  'paint-order',
  'vector-effect',
] as const;

export const setPaint = defineAct({
  name: 'set-paint',
  title: 'Paint layers',
  group: 'Layers',
  needs: 'layers',
  /** Attributes as SVG writes them, such as `{ "fill": "#0c6a53" }`; the opacity is that of the whole layer. */
  settings: z.object({
    paint: z.partialRecord(z.enum(PAINT), z.string().max(1000)).default({}),
    opacity: z.number().min(0).max(1).optional(),
  }),
  nothing: 'They look so already',
  run: (doc, { selection }, { paint, opacity }) => {
    // As fine as a file says it.
    const whole = opacity === undefined ? undefined : Number(printNumber(opacity));
    const puts = chosenLayers(doc, selection).map((layer) =>
      layerRecord.parse({ ...layer, attrs: { ...layer.attrs, ...paint }, opacity: whole ?? layer.opacity }),
    );
    const [attribute, another] = Object.keys(paint);
    const what = attribute === undefined ? 'opacity' : another === undefined ? attribute : 'paint';
    return { label: `${what} of ${nameOfChosen(doc, selection)}`, puts: differing(doc, puts), removes: [] };
  },
});
