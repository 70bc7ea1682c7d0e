import { acts, type Difference, differences, type Edition } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { act } from '../act';
import { GiveSheet } from './GiveSheet';
import { LostDifferences } from './LostDifferences';

/** Everything in which an edition differs from its base. */
export function EditionDifferences({ edition }: { edition: Edition }) {
  const { doc } = useSession();
  return (
    <section className="border-line border-b px-3.5 py-3">
      <h3 className="heading mb-1.5">What it changes from the base</h3>
      {differences(doc, edition).length === 0 && <p className="text-ink-2">Nothing: it is the same as the base.</p>}
      <LostDifferences edition={edition} />
      <DifferenceList edition={edition} />
    </section>
  );
}

/** Differences of an edition, or those of one of its layers; each can be taken back, given to the base, or given to others. */
export function DifferenceList({ edition, ofLayer }: { edition: Edition; ofLayer?: string }) {
  const session = useSession();
  const { doc } = session;
  const [given, setGiven] = useState<Difference | null>(null);
  const list = differences(doc, edition).filter(({ layerId }) => !ofLayer || layerId === ofLayer);
  const others = doc
    .list('edition')
    .filter((other) => other.artboardId === edition.artboardId && other.id !== edition.id);
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {list.map(({ layerId, title, field, words }) => {
          const exists = !!doc.find('layer', layerId);
          const canGive = field !== 'tint' && exists;
          return (
            <li key={`${layerId} ${field}`} className="grid grid-cols-[1fr_auto] items-center gap-x-2">
              {!ofLayer && (
                <button
                  type="button"
                  className="truncate text-left hover:underline"
                  onClick={() => exists && session.select([layerId])}
                  title={title}
                >
                  {title}
                </button>
              )}
              <span className="max-w-[150px] truncate font-mono text-[11px] text-ochre" title={words}>
                {words}
              </span>
              <span className="col-span-2 flex flex-wrap gap-x-3 text-note [&>button]:text-ink-2 [&>button]:underline [&>button]:hover:text-ink">
                <button
                  type="button"
                  onClick={() => act(session, acts.takeBackDifference, { editionId: edition.id, layerId, field })}
                >
                  Take back
                </button>
                {canGive && (
                  <button
                    type="button"
                    onClick={() => act(session, acts.giveToBase, { editionId: edition.id, layerId })}
                  >
                    To the base, too
                  </button>
                )}
                {exists && others.length > 0 && (
                  <button type="button" onClick={() => setGiven({ layerId, field, title, words })}>
                    To others…
                  </button>
                )}
              </span>
            </li>
          );
        })}
      </ul>
      {given && <GiveSheet edition={edition} others={others} given={given} onClose={() => setGiven(null)} />}
    </>
  );
}
