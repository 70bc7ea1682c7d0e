import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import { shownArtwork } from '../../editions/shown-artwork';
import type { Intent } from '../act';

export type IntentOptions = { editionId?: string; changes?: Intent['changes']; carry?: boolean };

/**
 * An intent said from outside a window: on which records, in which edition (its artwork is what is seen, and changes go
 * to it), and whether artwork is carried, as it is at first. Throws a `Refusal` for records that are not there.
 */
export function intentOf(
  doc: ProjectDocument,
  ids: Iterable<string>,
  { editionId, changes = 'edition', carry = true }: IntentOptions = {},
): Intent {
  const selection = new Set(ids);
  for (const id of selection)
    if (!doc.get(id)) refuse('act.gone', `there is nothing with the id "${id}" in the project`, { where: 'ids' });
  const edition = editionId === undefined ? undefined : doc.find('edition', editionId);
  if (editionId !== undefined && !edition) refuse('act.gone', 'there is no such edition', { where: 'editionId' });
  return { selection, shown: edition ? { edition, artwork: shownArtwork(doc, edition) } : null, changes, carry };
}
