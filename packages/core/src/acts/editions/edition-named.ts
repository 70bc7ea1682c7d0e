import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import { type Edition, layerOverride, recordId } from '../../document/records';

/** What says which difference of which edition is meant; all of its layer where no field is said. */
export const differenceOf = {
  editionId: recordId,
  layerId: recordId,
  field: layerOverride.omit({ was: true }).keyof().optional(),
};

/** The edition that an act names, which differs in that layer. Throws a `Refusal` when it does not. */
export function editionWith(doc: ProjectDocument, editionId: string, layerId: string): Edition {
  const edition =
    doc.find('edition', editionId) ??
    refuse('act.gone', 'there is no such edition', { where: 'editionId', accepted: 'an edition of the project' });
  if (!(layerId in edition.overrides))
    refuse('difference.none', `${edition.name} is as the base there`, {
      where: 'layerId',
      accepted: 'a layer in which it differs',
    });
  return edition;
}
