import { type Artboard, acts, groupsOn, isOffGrid, isPlainLockup, type Piece } from '@tolvik/core';
import { type ReactNode, useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { act } from '../act';
import { useBench } from '../bench-state';

/** Of more artboards at once it is not looked how many groups they hold. */
const MOST_LOOKED_AT = 12;

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
  const groups =
    own.length > MOST_LOOKED_AT ? 0 : own.reduce((sum, artboard) => sum + groupsOn(session.doc, artboard).length, 0);
  return (
    <>
      {own.length > 0 && (
        <Family title="Fit">
          <Button small onClick={() => act(session, acts.trimToArtwork, { marginPx: margin })}>
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
            className="w-[104px]"
          />
          <Button small onClick={() => act(session, acts.centreArtwork, {})}>
            Centre artwork
          </Button>
          {off > 0 && (
            <Button small onClick={() => act(session, acts.wholePixels, {})}>
              Whole pixels{off > 1 ? ` (${off})` : ''}
            </Button>
          )}
        </Family>
      )}
      {(pieces.length > 1 || canCopy) && (
        <Family title="Order">
          {artboards.length > 1 && (
            <Button small onClick={() => set({ sheet: 'rows' })}>
              Lay out in rows…
            </Button>
          )}
          {pieces.length > 1 && (
            <Button small onClick={() => set({ sheet: 'rename' })}>
              Names…
            </Button>
          )}
          {canCopy && (
            <Button small onClick={() => act(session, acts.duplicate, {})}>
              Duplicate
            </Button>
          )}
        </Family>
      )}
      <Family title="More of it">
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
        {groups > 0 && (
          <Button small onClick={() => set({ sheet: 'groups' })}>
            {groups} artboards for its groups…
          </Button>
        )}
        {canCut && (
          <Button small onClick={() => set({ sheet: 'tiles' })}>
            Cut into tiles…
          </Button>
        )}
        {own.length > 1 && (
          <Button small onClick={() => act(session, acts.sliceArtboards, {})}>
            One page of {own.length}
          </Button>
        )}
        {canConvert && (
          <Button small onClick={() => act(session, acts.convert, {})}>
            {pieces[0].kind === 'slice' ? 'To artboard' : 'To slice'}
          </Button>
        )}
      </Family>
    </>
  );
}

/** Buttons for one kind of work, under its name. */
function Family({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-2.5 first:mt-0">
      <legend className="mb-1 text-ink-2 text-note">{title}</legend>
      <div className="flex flex-wrap items-center gap-2">{children}</div>
    </fieldset>
  );
}
