import { type ActSettings, acts, type Piece, type Region, type Slice } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { NumberField } from '../../ui/NumberField';
import { Ticked } from '../../ui/Tick';
import { plain } from '../../ui/words';
import { act } from '../act';
import { SliceShapeFields } from './SliceShapeFields';

/** Where a slice is cut from, its margin and its shape; one whose layer is gone says so. */
export function SliceNumbers({ slice, piece }: { slice: Slice; piece: Piece }) {
  const session = useSession();
  const { region } = piece;
  const { source } = slice;
  const set = (rect: Partial<Region>) => act(session, acts.setRect, rect, [slice.id]);
  const put = (said: ActSettings<typeof acts.setSlice>) => act(session, acts.setSlice, said, [slice.id]);
  return (
    <>
      {source.kind === 'region' ? (
        <div className="grid grid-cols-2 gap-2">
          <NumberField label="x" value={source.x} onChange={(n) => set({ x: n })} />
          <NumberField label="y" value={source.y} onChange={(n) => set({ y: n })} />
          <NumberField
            label="width"
            showLabel="w"
            value={source.width}
            min={0.01}
            onChange={(n) => set({ width: n })}
          />
          <NumberField
            label="height"
            showLabel="h"
            value={source.height}
            min={0.01}
            onChange={(n) => set({ height: n })}
          />
        </div>
      ) : (
        <p className="text-ink-2 text-note">
          {piece.problem ? (
            <span className="text-bad">! {piece.problem}</span>
          ) : (
            `${plain(region.width)} × ${plain(region.height)} at ${plain(region.x)}, ${plain(region.y)}`
          )}
        </p>
      )}
      <NumberField
        label="margin of the slice"
        showLabel="margin"
        value={slice.margin}
        min={-10_000}
        max={10_000}
        onChange={(margin) => put({ margin })}
        className="mt-2"
      />
      {source.kind !== 'region' && (
        <div className="mt-2 flex gap-4">
          <Ticked checked={slice.square ?? false} onChange={(square) => put({ square })} label="Square" />
          <Ticked checked={slice.wholePx ?? false} onChange={(wholePx) => put({ wholePx })} label="On whole px" />
        </div>
      )}
      <SliceShapeFields slice={slice} put={put} />
    </>
  );
}
