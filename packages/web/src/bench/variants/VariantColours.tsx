import {
  asMap,
  type ColourFacts,
  coloursUsed,
  inkOf,
  type ProjectDocument,
  type Region,
  type VariantChoices,
  type VariantProposal,
} from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { Button } from '../../ui/controls';
import { ColourMap } from './ColourMap';
import { InkParts, partOf } from './InkParts';

type Props = {
  doc: ProjectDocument;
  sources: readonly Region[];
  facts: ColourFacts;
  proposal: VariantProposal;
  choices: VariantChoices;
  onChoices(choices: VariantChoices): void;
};

/** The colours of a variant before it is made: its ground, and what each colour of the source becomes. */
export function VariantColours({ doc, sources, facts, proposal, choices, onChoices }: Props) {
  const colours = coloursUsed(doc, sources);
  const ink = inkOf(proposal.rule);
  return (
    <section aria-label={`Colours of ${proposal.title}`} className="min-h-0 overflow-y-auto border-2 border-ink p-3">
      <div className="mb-1.5 flex items-center justify-between">
        <h3 className="heading">Colours of {proposal.title}</h3>
        <Button small disabled={Object.keys(choices).length === 0} onClick={() => onChoices({})}>
          As proposed
        </Button>
      </div>
      <div className="flex items-center gap-2 text-ink-2">
        Ground
        <ColourField
          label="Ground"
          value={proposal.background ?? 'none'}
          onChange={(ground) => onChoices({ ...choices, ground: ground === 'none' ? null : ground })}
        />
      </div>
      {ink ? (
        <InkParts
          colours={colours}
          rule={ink}
          gap={facts.gapPx}
          onChange={(rule) =>
            onChoices({
              ...choices,
              ink: rule.colour,
              gap: rule.gap,
              parts: Object.fromEntries(colours.map(({ colour }) => [colour, partOf(rule, colour)])),
            })
          }
        />
      ) : (
        <ColourMap
          colours={colours}
          rule={asMap(facts, proposal.rule)}
          ground={proposal.background ?? '#ffffff'}
          onChange={(rule) =>
            rule.kind === 'map' &&
            onChoices({
              ...choices,
              becomes: Object.fromEntries(
                colours.map(({ colour }) => [colour, rule.colours.find(({ from }) => from === colour)?.to ?? colour]),
              ),
            })
          }
        />
      )}
    </section>
  );
}
