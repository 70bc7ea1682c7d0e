import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import type { Artboard } from '../../document/records';
import { chosenArtboards } from '../doing/chosen';

/** The artboards among what is selected that follow another. Throws a `Refusal` when none does. */
export function followingOf(doc: ProjectDocument, ids: Iterable<string>): Artboard[] {
  const following = chosenArtboards(doc, ids).filter(({ follows }) => follows);
  return following.length > 0
    ? following
    : refuse('follow.not', 'no artboard is selected that follows another', {
        where: 'ids',
        accepted: 'a variant or a lockup',
      });
}
