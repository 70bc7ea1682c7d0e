import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import type { Artboard } from '../../document/records';
import { editionsOf, MAX_EDITIONS } from '../../editions/make';
import { chosenArtboards } from '../doing/chosen';

/** The artboard among these ids. Throws a `Refusal` when there are several. */
export function oneArtboard(doc: ProjectDocument, ids: Iterable<string>): Artboard {
  const [artboard, ...others] = chosenArtboards(doc, ids);
  if (others.length > 0)
    refuse('editions.several', 'editions are of one artboard', { accepted: 'one artboard that is selected' });
  return artboard;
}

/** Throws a `Refusal` when an artboard would have more editions than one may have. */
export function withRoomForEditions(doc: ProjectDocument, artboard: Artboard, more: number): void {
  const most = MAX_EDITIONS.toLocaleString('en');
  if (editionsOf(doc, artboard).length + more > MAX_EDITIONS)
    refuse('editions.many', `${artboard.name} would have more than ${most} editions`, {
      accepted: `${most} editions on one artboard`,
    });
}
