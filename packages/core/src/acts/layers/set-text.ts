import * as z from 'zod';
import { textWords, withWords } from '../../artwork/text/words';
import { type Layer, layerRecord } from '../../document/records';
import { defineAct } from '../act';
import { differing } from '../editions/differing';
import { textsOf } from './texts-of';

const LABELS = {
  family: 'font of a text',
  weight: 'weight of a text',
  sizePx: 'size of a text',
  anchor: 'alignment of a text',
};

/** Set for the whole text: what single runs say otherwise goes. */
function setWhole(layer: Layer, attrs: Record<string, string>): Layer {
  const text = layer.text?.map((run) => ({
    ...run,
    attrs: Object.fromEntries(Object.entries(run.attrs).filter(([name]) => !(name in attrs))),
  }));
  return { ...layer, attrs: { ...layer.attrs, ...attrs }, text };
}

export const setText = defineAct({
  name: 'set-text',
  title: 'How a text is set',
  group: 'Layers',
  needs: 'layers',
  /** A family by name, a weight as CSS has it, the size in px of the layer, and where lines stand by their point. */
  settings: z.object({
    family: z.string().min(1).max(200).optional(),
    weight: z.string().max(20).optional(),
    sizePx: z.number().min(0.5).max(2000).optional(),
    anchor: z.enum(['start', 'middle', 'end']).optional(),
  }),
  nothing: 'It is set so already',
  run: (doc, { selection }, said) => {
    const { family, weight, sizePx, anchor } = said;
    const attrs = {
      ...(family !== undefined && { 'font-family': family }),
      ...(weight !== undefined && { 'font-weight': weight }),
      ...(anchor !== undefined && { 'text-anchor': anchor }),
    };
    const puts = textsOf(doc, selection).map((layer) => {
      const set = setWhole(layer, attrs);
      if (sizePx === undefined) return layerRecord.parse(set);
      // Lines stand as far apart as their size says.
      const sized = { ...set, attrs: { ...set.attrs, 'font-size': String(sizePx) } };
      return layerRecord.parse(withWords(sized, textWords(layer), sizePx));
    });
    const [what] = Object.keys(said) as (keyof typeof LABELS)[];
    return { label: what ? LABELS[what] : 'a text', puts: differing(doc, puts), removes: [] };
  },
});
