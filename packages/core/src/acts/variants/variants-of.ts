import type { z } from 'zod';
import type { ProjectDocument } from '../../document/document';
import type { Artboard } from '../../document/records';
import { sourcesOf } from '../../pieces/placements';
import {
  colourFacts,
  handoverVariants,
  makeVariants,
  type VariantChoices,
  type VariantKey,
  withChoices,
} from '../../variants/proposals';
import type { measuredMeetings } from './measured-meetings';

export type Wanted = {
  keys: readonly VariantKey[];
  meetings: z.output<typeof measuredMeetings>;
  naming: string;
  choices?: Partial<Record<VariantKey, VariantChoices>>;
};

/** The variants of an artboard or lockup as they are proposed from its colours, or chosen otherwise. */
export function variantsOf(doc: ProjectDocument, source: Artboard, { keys, meetings, naming, choices }: Wanted) {
  const measured = sourcesOf(doc, source).flatMap(({ id }) => meetings[id] ?? []);
  const facts = colourFacts(doc, source, measured);
  const proposals = handoverVariants(facts)
    .filter(({ key }) => keys.includes(key))
    .map((each) => withChoices(facts, each, choices?.[each.key] ?? {}));
  return makeVariants(doc, source, proposals, naming);
}
