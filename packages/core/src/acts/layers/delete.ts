import * as z from 'zod';
import { removeLayers } from '../../arrange/layers';
import { layersOn } from '../../arrange/move';
import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import { followersOf, keepFollowers } from '../../variants/following';
import { defineAct } from '../act';
import { chosenPieces, nameOfChosen } from '../doing/chosen';

/** Ids of all that goes with these: what is in groups, editions of artboards, and what lies on them when artwork is carried. */
function allThatGoes(doc: ProjectDocument, ids: ReadonlySet<string>, carry: boolean): Set<string> {
  const removes = new Set<string>(removeLayers(doc, ids));
  for (const record of chosenPieces(doc, ids)) {
    removes.add(record.id);
    if (record.kind !== 'artboard') continue;
    for (const edition of doc.list('edition')) if (edition.artboardId === record.id) removes.add(edition.id);
    if (carry && !record.follows)
      for (const layer of layersOn(doc, record)) for (const inner of doc.descendants(layer.id)) removes.add(inner);
  }
  return removes;
}

export const remove = defineAct({
  name: 'delete',
  title: 'Delete',
  group: 'Arrange',
  needs: 'anything',
  /** What becomes of artboards that follow what goes: they keep what they show as their own, go too, or hold it up. */
  settings: z.object({ followers: z.enum(['refuse', 'keep', 'delete']).default('refuse') }),
  nothing: 'There is nothing to delete',
  run: (doc, { selection, carry }, { followers }) => {
    const following = followersOf(doc, selection);
    if (following.length > 0 && followers === 'refuse')
      refuse('delete.followed', `${following.map(({ name }) => name).join(', ')} would have nothing to follow`, {
        accepted: 'followers kept, or deleted as well',
      });
    const ids = followers === 'delete' ? new Set([...selection, ...following.map(({ id }) => id)]) : selection;
    return {
      label: `delete ${nameOfChosen(doc, ids)}`,
      puts: followers === 'keep' ? keepFollowers(doc, selection) : [],
      removes: [...allThatGoes(doc, ids, carry)],
      selected: [],
    };
  },
});
