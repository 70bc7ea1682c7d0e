import { type Artboard, isOffGrid, isPlainLockup, type Piece } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';
import { useBench } from '../bench-state';

/** What can be done with the selected pieces at once. */
export function ArrangeActions({ pieces }: { pieces: readonly Piece[] }) {
  const session = useSession();
  const [margin, setMargin] = useState(0);
  const { set } = useBench();
  const artboards = pieces.flatMap(({ record }) => (record.kind === 'artboard' ? [record] : []));
  const own = artboards.filter((artboard: Artboard) => !artboard.follows);
  const off = artboards.filter(isOffGrid).length;
  const canCut = pieces.length === 1 && !pieces[0].problem && pieces[0].kind !== 'edition';
  const kinds = new Set(pieces.map((piece) => piece.kind));
  const canConvert =
    kinds.size === 1 &&
    !kinds.has('edition') &&
    pieces.every((piece) => !piece.problem && (piece.record.kind !== 'artboard' || !piece.record.follows));
  const canCopy = pieces.every(
    ({ record }) => record.kind === 'artboard' || (record.kind === 'slice' && record.source.kind === 'region'),
  );
  return (
    <>
      {own.length > 0 && (
        <div className="mt-2.5 flex items-center gap-2">
          <Button small onClick={() => act(session, 'trim-to-artwork', { marginPx: margin })}>
            Trim to artwork
          </Button>
          <NumberField
            label="margin when trimming"
            showLabel="margin"
            whole
            value={margin}
            min={0}
            max={1000}
            onChange={setMargin}
            className="min-w-0 flex-1"
          />
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {own.length > 0 && (
          <Button small onClick={() => act(session, 'centre-artwork', {})}>
            Centre artwork
          </Button>
        )}
        {off > 0 && (
          <Button small onClick={() => act(session, 'whole-pixels', {})}>
            Whole pixels{off > 1 ? ` (${off})` : ''}
          </Button>
        )}
        {artboards.length > 1 && (
          <Button small onClick={() => set({ sheet: 'rows' })}>
            Lay out in rows…
          </Button>
        )}
        {pieces.length > 1 && (
          <Button small onClick={() => set({ sheet: 'rename' })}>
            Rename…
          </Button>
        )}
        {artboards.some((artboard) => !artboard.follows || isPlainLockup(artboard)) && (
          <Button small onClick={() => set({ sheet: 'variants' })}>
            Variants…
          </Button>
        )}
        {own.length === 2 && (
          <Button small onClick={() => set({ sheet: 'lockups' })}>
            Lockups…
          </Button>
        )}
        {own.length === 1 && (
          <Button small onClick={() => set({ sheet: 'editions' })}>
            Editions…
          </Button>
        )}
        {canCut && (
          <Button small onClick={() => set({ sheet: 'tiles' })}>
            Cut into tiles…
          </Button>
        )}
        {own.length > 1 && (
          <Button small onClick={() => act(session, 'slice-artboards', {})}>
            One page of {own.length}
          </Button>
        )}
        {canConvert && (
          <Button small onClick={() => act(session, 'convert', {})}>
            {pieces[0].kind === 'slice' ? 'To artboard' : 'To slice'}
          </Button>
        )}
        {canCopy && (
          <Button small onClick={() => act(session, 'duplicate', {})}>
            Duplicate
          </Button>
        )}
      </div>
    </>
  );
}
