import { refuse } from '../../basics/problem';
import type { ProjectDocument } from '../../document/document';
import type { Output, Spec } from '../../document/records';

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
  const siblings = outputsOfSpec(doc, output.specId);
  return { output, siblings, at: siblings.findIndex((each) => each.id === id) };
}

/** The spec that an act names. Throws a `Refusal` when it is gone. */
export const specOf = (doc: ProjectDocument, id: string): Spec =>
  doc.find('spec', id) ??
  refuse('spec.missing', 'there is no such spec in the project', {
    where: 'specId',
    accepted: 'a spec of the project',
  });

export const outputsOfSpec = (doc: ProjectDocument, specId: string): Output[] =>
  doc.list('output').filter((output) => output.specId === specId);
