import { REFERENCES, Refusal, resizeTo } from '@tolvik/core';
import { FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw } from 'lucide-react';
import { useSession } from '../../project/context';
import { Hint, Tick } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { useNotice } from '../../ui/notices';
import { mirrorSelected, selectionFrame, shiftSelected, transformSelected, turnSelected } from '../acts';
import { useBench } from '../bench-state';

/** Exact place, size and turn of the selected layers, told from a chosen point of their box. */
export function LayerNumbers() {
  const session = useSession();
  const tell = useNotice();
  const { reference, scaleStrokes, set } = useBench();
  const frame = selectionFrame(session);
  if (!frame) return <p className="text-ink-3 text-note">Draws nothing, so it has no size.</p>;
  const { box, x, y } = frame;
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const size = (width: number, height: number) => {
    try {
      const factor = w > 0 && h > 0 && Math.abs(width / w - height / h) < 1e-9 ? width / w : 1;
      transformSelected(session, 'resize …', resizeTo(box, width, height, reference), scaleStrokes ? 1 : factor);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      tell(`${error.message}.`, { bad: true });
    }
  };
  return (
    <>
      <div className="flex gap-3">
        <div className="grid flex-1 grid-cols-2 gap-2 [&_input]:px-1.5">
          <NumberField label="x" value={x} onChange={(next) => shiftSelected(session, next - x, 0)} />
          <NumberField label="y" value={y} onChange={(next) => shiftSelected(session, 0, next - y)} />
          <NumberField label="width" showLabel="w" value={w} min={0} onChange={(next) => size(next, h)} />
          <NumberField label="height" showLabel="h" value={h} min={0} onChange={(next) => size(w, next)} />
        </div>
        <Hint text="The point that numbers are told from, and that stays when the size changes">
          <div
            role="radiogroup"
            aria-label="Reference point"
            className="grid size-[62px] shrink-0 grid-cols-3 border border-line-strong bg-white"
          >
            {REFERENCES.map((each) => (
              <button
                key={each}
                type="button"
                role="radio"
                aria-checked={reference === each}
                aria-label={`Reference point ${each}`}
                onClick={() => set({ reference: each })}
                className="flex items-center justify-center hover:bg-rail focus-visible:-outline-offset-2"
              >
                <span className={reference === each ? 'size-2 bg-spruce' : 'size-1 bg-ink-3'} />
              </button>
            ))}
          </div>
        </Hint>
      </div>
      <div className="mt-2 flex items-center gap-1">
        <NumberField
          label="turn by degrees"
          showLabel="turn"
          value={0}
          min={-3600}
          max={3600}
          onChange={(degrees) => turnSelected(session, degrees)}
          className="w-[98px]"
        />
        {[
          { title: 'Turn by 90° the other way (Shift+T)', icon: RotateCcw, run: () => turnSelected(session, -90) },
          { title: 'Turn by 90° clockwise (T)', icon: RotateCw, run: () => turnSelected(session, 90) },
          {
            title: 'Mirror left and right (Shift+H)',
            icon: FlipHorizontal2,
            run: () => mirrorSelected(session, 'horizontally'),
          },
          {
            title: 'Mirror top and bottom (Shift+V)',
            icon: FlipVertical2,
            run: () => mirrorSelected(session, 'vertically'),
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
