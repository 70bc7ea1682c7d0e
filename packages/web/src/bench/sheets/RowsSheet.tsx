import { type Artboard, acts, inOrder, type RowsOptions, regionAround, rowPlaces } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { count } from '../../ui/words';
import { act } from '../act';
import { RectsPicture } from './RectsPicture';

const ORDERS: Record<RowsOptions['by'], string> = { number: 'Number', name: 'Name', size: 'Size', place: 'Place now' };

/** Artboards into rows, with the outcome drawn before it is done. */
export function RowsSheet({ artboards, onClose }: { artboards: readonly Artboard[]; onClose(): void }) {
  const session = useSession();
  const [options, setOptions] = useState<RowsOptions>({
    columns: Math.max(1, Math.round(Math.sqrt(artboards.length * 1.4))),
    gapPx: 16,
    by: 'number',
    renumber: false,
  });
  const sorted = inOrder(artboards, options.by);
  const places = rowPlaces(sorted, options);
  const rects = sorted.map((artboard, i) => ({ ...artboard, ...places[i] }));
  const { width = 0, height = 0 } = regionAround(rects) ?? {};
  const apply = () => {
    act(
      session,
      acts.rows,
      options,
      artboards.map((artboard) => artboard.id),
    );
    onClose();
  };
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`Lay out ${count(artboards.length, 'artboard')} in rows`}
      about="What lies on them goes along."
      footer={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" onClick={apply}>
            Lay out {artboards.length}
          </Button>
        </>
      }
    >
      <div className="grid grid-cols-[220px_1fr] gap-6">
        <div className="flex flex-col gap-3">
          <NumberField
            label="columns"
            whole
            min={1}
            max={500}
            value={options.columns}
            onChange={(columns) => setOptions({ ...options, columns })}
            showLabel="columns"
          />
          <NumberField
            label="gap in px"
            whole
            min={0}
            max={10_000}
            value={options.gapPx}
            onChange={(gapPx) => setOptions({ ...options, gapPx })}
            showLabel="gap"
          />
          <label>
            <span className="heading mb-1 block">In the order of</span>
            <select
              className="field w-full"
              value={options.by}
              onChange={(event) => setOptions({ ...options, by: event.target.value as RowsOptions['by'] })}
            >
              {Object.entries(ORDERS).map(([value, title]) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
            </select>
          </label>
          <Ticked
            checked={options.renumber}
            onChange={(renumber) => setOptions({ ...options, renumber })}
            label="Renumber in this order"
          />
          <p className="text-ink-2 text-note">
            {Math.ceil(artboards.length / options.columns)} rows, {Math.round(width)} × {Math.round(height)} in all
          </p>
        </div>
        <RectsPicture rects={rects} label={`${artboards.length} artboards in rows of ${options.columns}`} />
      </div>
    </Sheet>
  );
}
