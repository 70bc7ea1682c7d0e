import type { Arrangement, Artboard } from '@tolvik/core';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { useDraftPictures } from '../sheets/draft-pictures';

const TITLES: Record<Arrangement, string> = {
  wide: 'Wide',
  stacked: 'Stacked',
  emblem: 'Emblem only',
  wordmark: 'Wordmark only',
};

/** A card for each arrangement, with what it would look like and whether it is made. */
export function LockupCards({
  drafts,
  ground,
  chosen,
  onChosen,
}: {
  /** Artboards as they would be; their ids are their arrangements. */
  drafts: readonly Artboard[];
  ground: string | null;
  chosen: ReadonlySet<Arrangement>;
  onChosen(chosen: ReadonlySet<Arrangement>): void;
}) {
  const pictures = useDraftPictures(drafts);
  return (
    <ul className="grid grid-cols-2 gap-3">
      {drafts.map((draft) => {
        const arrangement = draft.id as Arrangement;
        const on = chosen.has(arrangement);
        return (
          <li key={arrangement} className={`border-2 bg-white ${on ? 'border-spruce' : 'border-line'}`}>
            <span
              className="flex h-[150px] items-center justify-center p-3"
              style={{ background: ground ?? undefined }}
            >
              {pictures.has(arrangement) && (
                <img
                  src={pictures.get(arrangement)}
                  alt={TITLES[arrangement]}
                  className="max-h-full max-w-full border border-ochre border-dashed"
                  style={{ objectFit: 'contain' }}
                />
              )}
            </span>
            <label className="flex items-center gap-2 border-line border-t px-3 py-1.5">
              <Tick
                checked={on}
                onChange={(next) => onChosen(toggled(chosen, arrangement, next))}
                label={`Make ${TITLES[arrangement]}`}
              />
              <strong className="font-semibold">{TITLES[arrangement]}</strong>
              <span className="ml-auto font-mono text-[11.5px] text-ink-3">
                {draft.width} × {draft.height}
              </span>
            </label>
          </li>
        );
      })}
    </ul>
  );
}
