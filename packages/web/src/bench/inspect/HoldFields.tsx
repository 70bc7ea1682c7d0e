import { type ActSettings, acts, type Layer } from '@tolvik/core';
import { useSession } from '../../project/session/context';
import { act } from '../act';

const HOLD_X = { left: 'left edge', centre: 'middle', right: 'right edge', both: 'both edges' } as const;
const HOLD_Y = { top: 'top edge', centre: 'middle', bottom: 'bottom edge', both: 'both edges' } as const;

/** What layers keep their distance to when their artboard is resized. */
export function HoldFields({ layers }: { layers: readonly Layer[] }) {
  const session = useSession();
  const same = (axis: 'x' | 'y') =>
    new Set(layers.map((layer) => layer.hold?.[axis])).size === 1 ? (layers[0].hold?.[axis] ?? '') : '';
  const set = (axis: 'x' | 'y', value: string) =>
    act(
      session,
      acts.holdTo,
      { [axis]: value || null } as ActSettings<typeof acts.holdTo>,
      layers.map(({ id }) => id),
    );
  const field = (axis: 'x' | 'y', titles: Record<string, string>) => (
    <select
      className="field min-w-0 flex-1"
      aria-label={axis === 'x' ? 'Keeps across to' : 'Keeps down to'}
      value={same(axis)}
      onChange={(event) => set(axis, event.target.value)}
    >
      <option value="">its place</option>
      {Object.entries(titles).map(([value, title]) => (
        <option key={value} value={value}>
          {title}
        </option>
      ))}
    </select>
  );
  return (
    <section className="grid grid-cols-2 items-center gap-x-2 gap-y-1.5 border-line border-b px-3.5 py-2">
      <h3 className="col-span-2 text-ink-2">When its artboard is resized, keeps to</h3>
      {field('x', HOLD_X)}
      {field('y', HOLD_Y)}
    </section>
  );
}
