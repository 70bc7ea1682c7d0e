import { useVirtualizer } from '@tanstack/react-virtual';
import { acts, type Edition } from '@tolvik/core';
import { memo, useEffect, useState } from 'react';
import { PieceThumb } from '../../painter/PieceThumb';
import { useOpenSession, useSession } from '../../project/session/context';
import { Button, Choice, Key } from '../../ui/controls';
import { Tick } from '../../ui/Tick';
import { count } from '../../ui/words';
import { act } from '../act';
import { useBench } from '../bench-state';
import { shownEdition } from '../shown-edition';

/** Of one edition in the strip, in px. */
const WIDTH = 118;

/** The editions of an artboard under the plane: pick one to show it; a plain switch says what changes now. */
export function EditionStrip() {
  const session = useSession();
  const { doc, selection } = session;
  const { changes, set } = useBench();
  const shown = shownEdition(session);
  const board = doc.find('artboard', shown?.artboardId ?? [...selection].find((id) => doc.find('artboard', id)) ?? '');
  if (!board) return null;
  const editions = doc.list('edition').filter((edition) => edition.artboardId === board.id);
  if (editions.length === 0) return null;
  const add = () => act(session, acts.newEdition, {}, [shown?.id ?? board.id]);
  return (
    <section aria-label={`Editions of ${board.name}`} className="flex-none border-line border-t bg-paper">
      <div className="flex h-10 items-center gap-3 px-3.5">
        <h2 className={shown ? 'sr-only' : 'font-semibold'}>Editions</h2>
        {shown ? (
          <>
            <span className="shrink-0 whitespace-nowrap">Showing, moving and tinting now changes</span>
            <Choice
              label="What changes now"
              value={changes}
              onChange={(value) => set({ changes: value })}
              options={[
                { value: 'base', title: 'the base' },
                { value: 'edition', title: `only ${shown.name}`, ochre: true },
              ]}
            />
          </>
        ) : (
          <span className="text-ink-2">
            The base is shown. <Key>[</Key> <Key>]</Key> step through {count(editions.length, 'edition')}.
          </span>
        )}
        <span className="ml-auto flex shrink-0 gap-2">
          <Button small onClick={add} title="New edition">
            New
          </Button>
          <Button small onClick={() => set({ sheet: 'editions' })}>
            Many at once…
          </Button>
        </span>
      </div>
      <Editions editions={editions} shownId={shown?.id} />
    </section>
  );
}

/** All of them side by side; only those in view are there, since hundreds are ordinary. */
function Editions({ editions, shownId }: { editions: readonly Edition[]; shownId: string | undefined }) {
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const list = useVirtualizer({
    horizontal: true,
    count: editions.length,
    getScrollElement: () => scroller,
    estimateSize: () => WIDTH,
    gap: 10,
    paddingStart: 14,
    paddingEnd: 14,
    overscan: 4,
    getItemKey: (index) => editions[index].id,
  });
  const at = editions.findIndex((edition) => edition.id === shownId);
  useEffect(() => {
    if (scroller && at >= 0) list.scrollToIndex(at);
  }, [list, scroller, at]);
  return (
    <div ref={setScroller} className="overflow-x-auto pb-2.5">
      <ul className="relative h-[87px]" style={{ width: list.getTotalSize() }}>
        {list.getVirtualItems().map(({ index, start, key }) => (
          <li
            key={key}
            aria-setsize={editions.length}
            aria-posinset={index + 1}
            className="absolute top-0"
            style={{ left: start, width: WIDTH }}
          >
            <EditionCell edition={editions[index]} on={index === at} />
          </li>
        ))}
      </ul>
    </div>
  );
}

/** One edition with its true picture; drawn again only when it changes itself. */
const EditionCell = memo(function EditionCell({ edition, on }: { edition: Edition; on: boolean }) {
  const session = useOpenSession();
  return (
    <>
      <button
        type="button"
        aria-pressed={on}
        onClick={() => session.select([edition.id])}
        className={`flex w-full justify-center border-2 bg-white ${on ? 'border-ochre' : 'border-line'}`}
      >
        <PieceThumb pieceId={edition.id} side={104} className="!h-[62px] overflow-hidden !border-0" />
        <span className="sr-only">Show {edition.name}</span>
      </button>
      <span className="mt-1 flex items-center gap-1.5">
        <Tick
          checked={edition.on}
          onChange={(on) => act(session, acts.switchPieces, { on }, [edition.id])}
          label={`${edition.name} becomes files`}
        />
        <span className="truncate font-mono text-[10.5px]" title={edition.name}>
          {edition.name}
        </span>
      </span>
    </>
  );
});
