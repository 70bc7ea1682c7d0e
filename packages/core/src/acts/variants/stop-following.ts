import * as z from 'zod';
import { ProjectDocument } from '../../document/document';
import type { ProjectRecord } from '../../document/records';
import { stopFollowing as stopped } from '../../variants/following';
import { defineAct } from '../act';
import { nameOfPieces } from '../doing/chosen';
import { followingOf } from './following-of';

export const stopFollowing = defineAct({
  name: 'stop-following',
  title: 'Stop following',
  group: 'Pieces',
  needs: 'artboards',
  settings: z.object({}),
  nothing: 'They follow nothing',
  run: (doc, { selection }) => {
    const following = followingOf(doc, selection);
    // One after the other, so that each copy lies in front of the one before.
    const scratch = new ProjectDocument(doc.all());
    const puts = following.flatMap((artboard): readonly ProjectRecord[] => {
      const change = stopped(scratch, artboard);
      scratch.apply(change);
      return change.puts;
    });
    const name = nameOfPieces(following);
    return { label: `stop ${name} following`, puts, removes: [] };
  },
});
