import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import type { Layer } from '../../document/records';
import { chosenLayers } from '../doing/chosen';

/** The texts among what is selected. Throws a `Refusal` when there is none. */
export function textsOf(doc: ProjectDocument, ids: Iterable<string>): Layer[] {
  const texts = chosenLayers(doc, ids).filter(({ tag }) => tag === 'text');
  return texts.length > 0
    ? texts
    : refuse('act.text', 'no text is selected', { where: 'ids', accepted: 'a layer of text' });
}
