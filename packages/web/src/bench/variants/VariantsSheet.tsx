import {
  type Artboard,
  artboardRecord,
  artworkIndex,
  boundsOf,
  handoverVariants,
  makeVariants,
  READABLE,
  sourcesOf,
  type VariantKey,
  variantName,
} from '@tolvik/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../project/context';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { useDraftPictures } from '../draft-pictures';
import { NamedFooter } from './NamedFooter';

/** The handover set of artboards, ticked and named before it is made; each follows its source. */
export function VariantsSheet({ sources, onClose }: { sources: readonly Artboard[]; onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const [first] = sources;
  // biome-ignore lint/correctness/useExhaustiveDependencies: proposed once, when the sheet opens
  const proposals = useMemo(() => handoverVariants(doc, first), []);
  const drafts = proposals.map(({ key, rule, background }) =>
    artboardRecord.parse({
      ...first,
      id: key,
      background,
      follows: first.follows ? { ...first.follows, rule } : { artboardId: first.id, rule },
    }),
  );
  const previews = useDraftPictures(drafts);
  const pictures = sourcesOf(doc, first).some((source) =>
    artworkIndex(doc)
      .search(boundsOf(source))
      .some(({ layer, visible }) => visible && layer.tag === 'image'),
  );
  const [chosen, setChosen] = useState<ReadonlySet<VariantKey>>(new Set(['reversed', 'mono-dark', 'mono-light']));
  const [naming, setNaming] = useState('{source}-{variant}');
  const total = chosen.size * sources.length;
  const apply = () => {
    const made: Artboard[] = [];
    for (const source of sources)
      made.push(
        ...makeVariants(
          doc,
          source,
          handoverVariants(doc, source).filter(({ key }) => chosen.has(key)),
          naming,
        ),
      );
    session.commit({ label: `make ${made.length} variants`, puts: made, removes: [] });
    session.select(made.map((artboard) => artboard.id));
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Make variants of ${sources.length === 1 ? first.name : `${sources.length} artboards`}`}
      about="Each follows its source: change one curve there, and all of these change."
      footer={
        <NamedFooter
          naming={naming}
          onNaming={setNaming}
          go={`Make ${total} variants`}
          disabled={total === 0}
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
      <ul className="grid grid-cols-3 gap-4">
        {proposals.map(({ key, title, about, background, contrast }) => {
          const on = chosen.has(key);
          return (
            <li key={key} className={`border-2 bg-white ${on ? 'border-spruce' : 'border-line'}`}>
              <span
                className="flex h-[130px] items-center justify-center p-4"
                style={{ background: background ?? '#ffffff' }}
              >
                {previews.has(key) && (
                  <img src={previews.get(key)} alt={`${first.name}, ${title}`} className="max-h-full max-w-full" />
                )}
              </span>
              <label className="flex items-start gap-2 border-line border-t px-3 py-2">
                <Tick
                  checked={on}
                  onChange={(next) => setChosen(toggled(chosen, key, next))}
                  label={`Make ${title}`}
                  className="mt-0.5"
                />
                <span className="min-w-0 flex-1">
                  <span className="block">
                    <strong className="font-semibold">{title}</strong> <span className="text-ink-2">{about}</span>
                  </span>
                  <span className="block truncate font-mono text-[11px] text-ink-2">
                    {variantName(naming, first.name, key)}
                  </span>
                </span>
                <span
                  className={`font-mono text-[11.5px] ${contrast !== null && contrast < READABLE ? 'font-semibold text-bad' : ''}`}
                  title="Contrast against its ground; 4.5 can be read"
                >
                  {contrast === null ? 'a picture' : `${contrast < READABLE ? '! ' : ''}${contrast.toFixed(1)} : 1`}
                </span>
              </label>
            </li>
          );
        })}
      </ul>
    </Sheet>
  );
}
