import {
  type Artboard,
  acts,
  artboardRecord,
  artworkIndex,
  boundsOf,
  colourFacts,
  handoverVariants,
  sourcesOf,
  type VariantChoices,
  type VariantKey,
  variantName,
  withChoices,
} from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../project/session/context';
import { Sheet } from '../../ui/Sheet';
import { toggled } from '../../ui/toggled';
import { count } from '../../ui/words';
import { act } from '../act';
import { useDraftPictures } from '../sheets/draft-pictures';
import { NamedFooter } from './NamedFooter';
import { useMeetings } from './use-meetings';
import { VariantCard } from './VariantCard';
import { VariantColours } from './VariantColours';

type AllChoices = Readonly<Partial<Record<VariantKey, VariantChoices>>>;

/** The handover set of artboards, ticked and named before it is made; each follows its source. */
export function VariantsSheet({ sources, onClose }: { sources: readonly Artboard[]; onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const [first] = sources;
  const meetings = useMeetings(sources);
  const [choices, setChoices] = useState<AllChoices>({});
  const [open, setOpen] = useState<VariantKey | null>(null);
  const known = meetings !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at once, when it is measured
  const facts = useMemo(() => colourFacts(doc, first, meetings?.of(first) ?? []), [known]);
  const proposals = handoverVariants(facts).map((each) => withChoices(facts, each, choices[each.key] ?? {}));
  const drafts = proposals.map(({ key, rule, background }) =>
    artboardRecord.parse({
      ...first,
      id: key,
      background,
      follows: first.follows ? { ...first.follows, rule } : { artboardId: first.id, rule },
    }),
  );
  const previews = useDraftPictures(known ? drafts : []);
  const pictures = sourcesOf(doc, first).some((source) =>
    artworkIndex(doc)
      .search(boundsOf(source))
      .some(({ layer, visible }) => visible && layer.tag === 'image'),
  );
  const [chosen, setChosen] = useState<ReadonlySet<VariantKey>>(new Set(['reversed', 'mono-dark', 'mono-light']));
  const [naming, setNaming] = useState('{source}-{variant}');
  const total = chosen.size * sources.length;
  const apply = () => {
    const settings = { variants: [...chosen], naming, choices, meetings: meetings?.bySource };
    const ids = sources.map(({ id }) => id);
    if (act(session, acts.makeVariants, settings, ids)) onClose();
  };
  const edited = proposals.find(({ key }) => key === open);
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Make variants of ${sources.length === 1 ? first.name : count(sources.length, 'artboard')}`}
      about="Each follows its source: change one curve there, and all of these change. Grounds are to look at; files are transparent."
      footer={
        <NamedFooter
          naming={naming}
          onNaming={setNaming}
          go={`Make ${count(total, 'variant')}`}
          disabled={total === 0 || !known}
          onGo={apply}
          onClose={onClose}
        />
      }
    >
      {pictures && (
        <p className="mb-3 border-warn border-l-2 bg-warn-pale px-3 py-1.5">
          There is a picture in {first.name}. In one ink it covers where it is dark and stays open where it is light; a
          map of colours leaves it as it is. Drawn as vectors it would come out exactly.
        </p>
      )}
      <ul className="grid auto-rows-[minmax(214px,auto)] grid-cols-3 gap-4">
        {proposals.map((proposal) => (
          <VariantCard
            key={proposal.key}
            proposal={proposal}
            source={first.name}
            name={variantName(naming, first.name, proposal.key)}
            picture={previews.get(proposal.key)}
            on={chosen.has(proposal.key)}
            onTick={(on) => setChosen(toggled(chosen, proposal.key, on))}
            open={proposal.key === open}
            onColours={() => setOpen(proposal.key === open ? null : proposal.key)}
          />
        ))}
        <li className="contents">
          {edited ? (
            <VariantColours
              doc={doc}
              sources={sourcesOf(doc, first)}
              facts={facts}
              proposal={edited}
              choices={choices[edited.key] ?? {}}
              onChoices={(next) => setChoices({ ...choices, [edited.key]: next })}
            />
          ) : (
            <p className="self-center px-3 text-ink-2 text-note">
              In one ink, what lay on another colour is knocked out, and what lay beside it is set apart by a gap, so
              that no part melts into the next. Colours shows each and changes it.
            </p>
          )}
        </li>
      </ul>
    </Sheet>
  );
}
