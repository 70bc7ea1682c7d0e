import { acts } from '@tolvik/core';
import { LayoutGrid } from 'lucide-react';
import { useOpenSession } from '../../project/session/context';
import { Hint } from '../../ui/Hint';
import { act } from '../act';

/** One piece of all artboards, cut at their outer edges; shown again when it is there. */
export function WholeSheet() {
  const session = useOpenSession();
  const known = session.doc
    .list('slice')
    .find(({ source }) => source.kind === 'everything' && source.to === 'artboards');
  return (
    <Hint
      text={
        known ? `${known.name} is all artboards in one piece` : 'All artboards in one piece, cut at their outer edges'
      }
    >
      <button
        type="button"
        aria-pressed={known ? session.selection.has(known.id) : undefined}
        aria-label="Whole sheet"
        className="inline-flex h-[26px] shrink-0 items-center whitespace-nowrap rounded-md px-2 font-semibold text-[12.5px] hover:bg-rail"
        onClick={() =>
          known ? session.select([known.id]) : act(session, acts.sliceEverything, { name: 'sheet', to: 'artboards' })
        }
      >
        <span className="@max-[660px]:hidden">Whole sheet</span>
        <LayoutGrid size={16} aria-hidden className="@min-[660px]:hidden" />
      </button>
    </Hint>
  );
}
