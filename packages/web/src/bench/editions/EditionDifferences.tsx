import {
  copyDifference,
  type Difference,
  differences,
  type Edition,
  layersWithin,
  layerTitle,
  lostDifferences,
  pushToBase,
  takeBack,
} from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/context';
import { Button } from '../../ui/controls';
import { PickOne } from '../../ui/PickOne';
import { Sheet } from '../../ui/Sheet';
import { Tick } from '../../ui/Tick';
import { toggled } from '../../ui/toggled';
import { count } from '../../ui/words';
import { act } from '../act';

type Given = Difference;

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

/** Differences for layers that went when the artwork was replaced: each is attached to another layer, in all editions at once. */
function LostDifferences({ edition }: { edition: Edition }) {
  const session = useSession();
  const { doc } = session;
  const lost = lostDifferences(edition);
  const base = doc.find('artboard', edition.artboardId);
  if (lost.length === 0 || !base) return null;
  const layers = layersWithin(doc, base);
  return (
    <ul className="mb-2 flex flex-col gap-1.5 border-bad border-l-2 pl-2">
      {lost.map(({ layerId, was }) => (
        <li key={layerId}>
          <label className="block">
            <span className="text-bad">{was} is gone.</span> Its difference goes to
            <PickOne
              className="mt-0.5 w-full"
              label={`Layer in place of ${was}`}
              value=""
              empty={{ value: '', title: 'choose a layer…' }}
              options={layers.map((layer) => ({ value: layer.id, title: layerTitle(layer) }))}
              onChange={(to) => to && act(session, 'attach-differences', { from: layerId, to })}
            />
          </label>
        </li>
      ))}
    </ul>
  );
}

/** Differences of an edition, or those of one of its layers; each can be taken back, pushed to the base, or given to others. */
export function DifferenceList({ edition, ofLayer }: { edition: Edition; ofLayer?: string }) {
  const session = useSession();
  const { doc } = session;
  const [given, setGiven] = useState<Given | null>(null);
  const list = differences(doc, edition).filter(({ layerId }) => !ofLayer || layerId === ofLayer);
  const others = doc
    .list('edition')
    .filter((other) => other.artboardId === edition.artboardId && other.id !== edition.id);
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {list.map(({ layerId, title, field, words }) => {
          const exists = !!doc.find('layer', layerId);
          const push = field === 'tint' ? null : pushToBase(doc, edition, layerId);
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
                  onClick={() =>
                    session.commit({
                      label: `take a difference of ${edition.name} back`,
                      puts: [takeBack(edition, layerId, field)],
                      removes: [],
                    })
                  }
                >
                  Take back
                </button>
                {push && (
                  <button type="button" onClick={() => session.commit(push)}>
                    Push to the base
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

/** Which other editions get a difference as well. */
function GiveSheet({
  edition,
  others,
  given,
  onClose,
}: {
  edition: Edition;
  others: readonly Edition[];
  given: Given;
  onClose(): void;
}) {
  const session = useSession();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const apply = () => {
    const puts = copyDifference(
      session.doc,
      edition,
      given.layerId,
      given.field,
      others.filter((other) => chosen.has(other.id)),
    );
    session.commit({ label: `give a difference to ${count(puts.length, 'edition')}`, puts, removes: [] });
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${given.title}: ${given.words}`}
      about={`From ${edition.name} to other editions.`}
      footer={
        <>
          <Button
            className="mr-auto"
            onClick={() => setChosen(new Set(chosen.size === others.length ? [] : others.map((other) => other.id)))}
          >
            {chosen.size === others.length ? 'None' : 'All'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={chosen.size === 0} onClick={apply}>
            Give to {count(chosen.size, 'edition')}
          </Button>
        </>
      }
    >
      <ul className="grid grid-cols-2 gap-x-4">
        {others.map((other) => (
          <li key={other.id}>
            <label className="flex items-center gap-2 py-0.5">
              <Tick
                checked={chosen.has(other.id)}
                onChange={(on) => setChosen(toggled(chosen, other.id, on))}
                label={other.name}
              />
              <span className="truncate">{other.name}</span>
            </label>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
