import * as z from 'zod';
import { count } from '../../basics/words';
import { ProjectDocument } from '../../document/document';
import type { Artboard } from '../../document/records';
import { VARIANT_KEYS, variantChoices } from '../../variants/proposals';
import { defineAct } from '../act';
import { chosenArtboards } from '../doing/chosen';
import { measuredMeetings } from './measured-meetings';
import { variantsOf } from './variants-of';

export const makeVariants = defineAct({
  name: 'make-variants',
  title: 'Variants of artboards',
  group: 'Pieces',
  needs: 'artboards',
  /** Artboards that follow each source, recoloured; what is chosen holds for all, by the variant. */
  settings: z.object({
    variants: z.array(z.enum(VARIANT_KEYS)).min(1).max(VARIANT_KEYS.length),
    naming: z.string().min(1).max(300).default('{source}-{variant}'),
    choices: z.partialRecord(z.enum(VARIANT_KEYS), variantChoices).default({}),
    meetings: measuredMeetings,
  }),
  nothing: 'There is nothing to make variants of',
  run: (doc, { selection }, { variants, naming, choices, meetings }) => {
    // One source after the other: the variants of each stand below what is there by then.
    const scratch = new ProjectDocument(doc.all());
    const puts = chosenArtboards(doc, selection).flatMap((source): Artboard[] => {
      const artboards = variantsOf(scratch, source, { keys: variants, meetings, naming, choices });
      scratch.apply({ puts: artboards, removes: [] });
      return artboards;
    });
    return {
      label: `make ${count(puts.length, 'variant')}`,
      puts,
      removes: [],
      selected: puts.map(({ id }) => id),
    };
  },
});
