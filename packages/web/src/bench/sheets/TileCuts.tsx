import { Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';

/** How a piece is cut into tiles: by how many or by how large, and how far apart. */
export type Cuts = {
  by: 'count' | 'size';
  columns: number;
  rows: number;
  tileWidthPx: number;
  tileHeightPx: number;
  gapPx: number;
};

/** The numbers of the cuts, of the way that is chosen. */
export function TileCuts({
  by,
  columns,
  rows,
  tileWidthPx,
  tileHeightPx,
  gapPx,
  onChange,
}: Cuts & { onChange(fields: Partial<Cuts>): void }) {
  return (
    <>
      <Choice
        label="Cut by"
        value={by}
        onChange={(next) => onChange({ by: next })}
        options={[
          { value: 'count', title: 'By count' },
          { value: 'size', title: 'By size' },
        ]}
      />
      {by === 'count' ? (
        <div className="grid grid-cols-2 gap-2">
          <NumberField
            label="columns"
            showLabel="cols"
            whole
            min={1}
            max={1000}
            value={columns}
            onChange={(next) => onChange({ columns: next })}
          />
          <NumberField
            label="rows"
            whole
            min={1}
            max={1000}
            value={rows}
            onChange={(next) => onChange({ rows: next })}
          />
        </div>
      ) : (
        <div className="grid grid-cols-2 gap-2">
          <NumberField
            label="tile width"
            showLabel="w"
            whole
            min={1}
            max={100_000}
            value={tileWidthPx}
            onChange={(next) => onChange({ tileWidthPx: next })}
          />
          <NumberField
            label="tile height"
            showLabel="h"
            whole
            min={1}
            max={100_000}
            value={tileHeightPx}
            onChange={(next) => onChange({ tileHeightPx: next })}
          />
        </div>
      )}
      <NumberField
        label="gap between tiles"
        showLabel="gap"
        whole
        min={0}
        max={10_000}
        value={gapPx}
        onChange={(next) => onChange({ gapPx: next })}
      />
    </>
  );
}
