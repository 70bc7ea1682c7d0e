import { type ActSettings, type Artboard, acts, artboardsForGroups, groupsOn } from '@tolvik/core';
import { useState } from 'react';
import { useSession } from '../../project/session/context';
import { Button, Choice } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { Ticked } from '../../ui/Tick';
import { count } from '../../ui/words';
import { act } from '../act';
import { ORDER_TITLES } from '../piece-orders';
import { RectsPicture } from './RectsPicture';

type Options = Required<ActSettings<typeof acts.artboardsForGroups>>;

const SHEET: readonly { value: Options['sheet']; title: string }[] = [
  { value: 'goes', title: 'Deleted' },
  { value: 'off', title: 'Kept, no files' },
  { value: 'stays', title: 'Kept' },
];

/** An artboard for each group on some artboards, as they will stand, drawn before it is done. */
export function GroupsSheet({ artboards, onClose }: { artboards: readonly Artboard[]; onClose(): void }) {
  const session = useSession();
  const { doc } = session;
  const [options, setOptions] = useState<Options>({
    marginPx: 0,
    square: false,
    equal: false,
    leastPx: null,
    rows: true,
    order: 'reading',
    gapPx: 16,
    sheet: 'goes',
  });
  const change = (fields: Partial<Options>) => setOptions({ ...options, ...fields });
  const groups = artboards.reduce((sum, artboard) => sum + groupsOn(doc, artboard).length, 0);
  const { puts, made } = artboardsForGroups(doc, artboards, options);
  const ids = new Set(made);
  const rects = puts.flatMap((record) => (record.kind === 'artboard' && ids.has(record.id) ? [record] : []));
  const sheetName = artboards.length === 1 ? artboards[0].name : 'the artboards they were on';
  const apply = () => {
    if (
      act(
        session,
        acts.artboardsForGroups,
        options,
        artboards.map(({ id }) => id),
      )
    )
      onClose();
  };
  const least = options.leastPx ?? { width: 0, height: 0 };
  const side = (name: 'width' | 'height') => (
    <NumberField
      label={`${name} at least, in px`}
      showLabel={`${name} at least`}
      min={0}
      max={100_000}
      value={least[name]}
      onChange={(value) => {
        const next = { width: least.width || 1, height: least.height || 1, [name]: Math.max(1, value) };
        change({ leastPx: value === 0 ? null : next });
      }}
    />
  );
  return (
    <Sheet
      open
      onClose={onClose}
      wide
      title={`An artboard for each of ${count(groups, 'group')}`}
      about="Each is named after its group, on whole px, with the specs of the artboard it was on."
      footer={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="go" disabled={made.length === 0} onClick={apply}>
            Make {count(made.length, 'artboard')}
          </Button>
        </>
      }
    >
      <div className="grid grid-cols-[240px_1fr] gap-6">
        <div className="flex flex-col gap-3">
          <NumberField
            label="margin in px"
            showLabel="margin"
            whole
            min={0}
            max={10_000}
            value={options.marginPx}
            onChange={(marginPx) => change({ marginPx })}
          />
          <Ticked checked={options.square} onChange={(square) => change({ square })} label="Square" />
          <Ticked checked={options.equal} onChange={(equal) => change({ equal })} label="All equal" />
          {side('width')}
          {side('height')}
          <Ticked checked={options.rows} onChange={(rows) => change({ rows })} label="In rows, where there is room" />
          {options.rows && (
            <NumberField
              label="gap in px"
              showLabel="gap"
              whole
              min={0}
              max={10_000}
              value={options.gapPx}
              onChange={(gapPx) => change({ gapPx })}
            />
          )}
          <div>
            <p className="heading mb-1">Their order</p>
            <Choice
              label="Their order"
              value={options.order}
              options={ORDER_TITLES}
              onChange={(order) => change({ order })}
            />
          </div>
          <div>
            <p className="heading mb-1">What becomes of {sheetName}</p>
            <Choice
              label={`What becomes of ${sheetName}`}
              value={options.sheet}
              options={SHEET}
              onChange={(sheet) => change({ sheet })}
            />
          </div>
        </div>
        <RectsPicture rects={rects} label={`${count(rects.length, 'artboard')} as they will stand`} />
      </div>
    </Sheet>
  );
}
