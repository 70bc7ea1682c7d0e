import * as z from 'zod';
import { pasteClip, stepAside, takeCopy } from '../../arrange/copies';
import { defineAct } from '../act';
import { nameOfChosen } from '../doing/chosen';

export const duplicate = defineAct({
  name: 'duplicate',
  title: 'Duplicate',
  group: 'Arrange',
  needs: 'anything',
  settings: z.object({}),
  nothing: 'There is nothing to copy: editions and slices of layers stand for what they show',
  /** Layers a little aside, artboards with what lies on them below all others. */
  run: (doc, { selection }) => {
    const label = `duplicate ${nameOfChosen(doc, selection)}`;
    const clip = takeCopy(doc, selection);
    if (!clip) return { label, puts: [], removes: [] };
    const { puts, selected } = pasteClip(doc, clip, [stepAside(doc, clip)]);
    return { label, puts, removes: [], selected };
  },
});
