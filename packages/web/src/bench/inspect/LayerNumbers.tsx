import { acts, REFERENCES } from '@tolvik/core';
import { FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { useSession } from '../../project/session/context';
import { Hint } from '../../ui/Hint';
import { NumberField } from '../../ui/NumberField';
import { Tick } from '../../ui/Tick';
import { act, selectionFrame } from '../act';
import { useBench } from '../bench-state';

/** Exact place, size and turn of the selected layers, told from a chosen point of their box. */
export function LayerNumbers() {
  const session = useSession();
  const { reference, scaleStrokes, set } = useBench();
  const frame = selectionFrame(session);
  if (!frame) return <p className="text-ink-3 text-note">Draws nothing, so it has no size.</p>;
  const { box, x, y } = frame;
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const size = (widthPx: number, heightPx: number) =>
    act(session, acts.resize, { widthPx, heightPx, around: reference, strokes: scaleStrokes ? 'scaled' : 'kept' });
  return (
    <>
      <div className="flex gap-3">
        <div className="grid flex-1 grid-cols-2 gap-2 [&_input]:px-1.5">
          <NumberField label="x" value={x} onChange={(next) => act(session, acts.move, { dx: next - x })} />
          <NumberField label="y" value={y} onChange={(next) => act(session, acts.move, { dy: next - y })} />
          <NumberField label="width" showLabel="w" value={w} min={0} onChange={(next) => size(next, h)} />
          <NumberField label="height" showLabel="h" value={h} min={0} onChange={(next) => size(w, next)} />
        </div>
        <Hint text="The point that numbers are told from, and that stays when the size changes">
          <RadioGroup.Root
            value={reference}
            onValueChange={(next) => set({ reference: next as typeof reference })}
            aria-label="Reference point"
            className="grid size-[62px] shrink-0 grid-cols-3 border border-line-strong bg-white"
          >
            {REFERENCES.map((each) => (
              <RadioGroup.Item
                key={each}
                value={each}
                aria-label={`Reference point ${each}`}
                className="flex items-center justify-center hover:bg-rail focus-visible:-outline-offset-2"
              >
                <span className={reference === each ? 'size-2 bg-spruce' : 'size-1 bg-ink-3'} />
              </RadioGroup.Item>
            ))}
          </RadioGroup.Root>
        </Hint>
      </div>
      <div className="mt-2 flex items-center gap-1">
        <NumberField
          label="turn by degrees"
          showLabel="turn"
          value={0}
          min={-3600}
          max={3600}
          onChange={(degrees) => act(session, acts.turn, { degrees, around: reference })}
          className="w-[98px]"
        />
        {[
          {
            title: 'Turn by 90° anticlockwise (Shift+T)',
            icon: RotateCcw,
            run: () => act(session, acts.turn, { degrees: -90, around: reference }),
          },
          {
            title: 'Turn by 90° clockwise (T)',
            icon: RotateCw,
            run: () => act(session, acts.turn, { degrees: 90, around: reference }),
          },
          {
            title: 'Mirror left and right (M)',
            icon: FlipHorizontal2,
            run: () => act(session, acts.mirror, { across: 'horizontally' }),
          },
          {
            title: 'Mirror top and bottom (Shift+M)',
            icon: FlipVertical2,
            run: () => act(session, acts.mirror, { across: 'vertically' }),
          },
        ].map(({ title, icon: Icon, run }) => (
          <Hint key={title} text={title}>
            <button type="button" aria-label={title} onClick={run} className="rounded-sm p-1.5 hover:bg-rail">
              <Icon size={15} />
            </button>
          </Hint>
        ))}
      </div>
      <label className="mt-1.5 flex items-center gap-1.5 text-ink-2">
        <Tick checked={scaleStrokes} onChange={(on) => set({ scaleStrokes: on })} label="Strokes grow along" /> Strokes
        grow along
      </label>
    </>
  );
}
