import { acts, type Layer, type PieceOrder } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Tick } from '../../ui/Tick';
import { act } from '../act';
import { ORDER_TITLES } from '../piece-orders';

/** Artboards and slices out of the selected layers, one each. */
export function MakePieces({ layers }: { layers: readonly Layer[] }) {
  const session = useSession();
  const [around, setAround] = useState({ marginPx: 0, square: false, equal: false });
  const [order, setOrder] = useState<PieceOrder>('reading');
  const one = layers.length === 1;
  return (
    <section className="border-line border-b px-3.5 py-3">
      <h3 className="heading mb-1.5">Make pieces of {one ? 'it' : 'them'}</h3>
      <div className="mb-2 flex items-center gap-3 text-ink-2">
        <NumberField
          label="margin"
          value={around.marginPx}
          min={0}
          max={1000}
          whole
          onChange={(marginPx) => setAround({ ...around, marginPx })}
          className="w-[104px]"
          showLabel="margin"
        />
        <label className="flex items-center gap-1.5">
          <Tick checked={around.square} onChange={(square) => setAround({ ...around, square })} label="Square" /> square
        </label>
        {!one && (
          <label className="flex items-center gap-1.5">
            <Tick checked={around.equal} onChange={(equal) => setAround({ ...around, equal })} label="All equal" />{' '}
            equal
          </label>
        )}
      </div>
      {!one && (
        <div className="mb-2">
          <Choice label="Their order" value={order} options={ORDER_TITLES} onChange={setOrder} />
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        <Button small onClick={() => act(session, acts.artboardsAround, { ...around, order })}>
          {one ? 'Artboard around it' : `${layers.length} artboards, one each`}
        </Button>
        <Button small onClick={() => act(session, acts.sliceLayers, { order })}>
          {one ? 'Slice of it' : `${layers.length} slices, one each`}
        </Button>
      </div>
    </section>
  );
}
