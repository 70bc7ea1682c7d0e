import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import type { Output } from '../document/records';

/** Outputs that one spec may have. */
const MOST_OUTPUTS = 200;

/** Refuses where a spec would have more outputs than it may. */
export function mayHold(outputs: number): void {
  if (outputs > MOST_OUTPUTS)
    refuse('outputs.many', `a spec would have ${outputs} outputs`, { accepted: `up to ${MOST_OUTPUTS} outputs` });
}

/** The output that an act names, among those of its spec. Throws a `Refusal` when it is gone. */
export function outputOf(doc: ProjectDocument, id: string): { output: Output; siblings: Output[]; at: number } {
  const output =
    doc.find('output', id) ??
    refuse('output.gone', 'there is no such output in the project', {
      where: 'outputId',
      accepted: 'an output of a spec',
    });
  const siblings = doc.list('output').filter((each) => each.specId === output.specId);
  return { output, siblings, at: siblings.findIndex((each) => each.id === id) };
}
