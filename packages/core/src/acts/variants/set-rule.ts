import * as z from 'zod';
import { recolourRule } from '../../document/records';
import { changeRule } from '../../variants/following';
import { defineAct } from '../act';
import { nameOfPieces } from '../doing/chosen';
import { differing } from '../editions/differing';
import { followingOf } from './following-of';

export const setRule = defineAct({
  name: 'set-rule',
  title: 'Colours of variants',
  group: 'Pieces',
  needs: 'artboards',
  /** By which rule they recolour what they follow. */
  settings: z.object({ rule: recolourRule }),
  nothing: 'They have those colours already',
  run: (doc, { selection }, { rule }) => {
    const following = followingOf(doc, selection);
    const name = nameOfPieces(following);
    const puts = following.flatMap((artboard) => changeRule(artboard, rule).puts);
    return { label: `change the colours of ${name}`, puts: differing(doc, puts), removes: [] };
  },
});
