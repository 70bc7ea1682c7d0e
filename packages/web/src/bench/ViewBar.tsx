import { RadioGroup } from 'radix-ui';
import type { RefObject } from 'react';
import { ColourPick } from '../ui/ColourPick';
import { Key } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { BACKDROPS, type Backdrop, useBench } from './bench-state';
import type { Plane } from './plane/plane';

const LOOKS: Record<Exclude<Backdrop, 'own'>, string> = {
  checker: 'checker',
  white: 'bg-white',
  grey: 'bg-[#8f9492]',
  dark: 'bg-[#2a2f30]',
};

function Toggle({
  on,
  title,
  keys,
  label,
  onClick,
}: {
  on: boolean;
  title: string;
  keys: string;
  label: string;
  onClick(): void;
}) {
  return (
    <Hint text={label}>
      <button
        type="button"
        aria-pressed={on}
        onClick={onClick}
        className={`inline-flex h-[22px] items-center gap-1.5 rounded-sm px-1.5 ${on ? 'bg-spruce-pale font-semibold text-spruce' : 'text-ink-2 hover:bg-rail'}`}
      >
        {title} <Key>{keys}</Key>
      </button>
    </Hint>
  );
}

/** The strip below the plane: how one looks. Nothing of it is ever exported. */
export function ViewBar({ scale, plane }: { scale: number; plane: RefObject<Plane | null> }) {
  const { backdrop, ownBackdrop, wireframe, rulers, pixelGrid, pixels, set } = useBench();
  return (
    <div
      role="toolbar"
      aria-label="How one looks"
      className="flex h-[30px] flex-none items-center gap-1 overflow-x-auto overflow-y-hidden whitespace-nowrap border-line border-t bg-paper px-2.5 text-[12px]"
    >
      <RadioGroup.Root
        value={backdrop}
        onValueChange={(next) => set({ backdrop: next as typeof backdrop })}
        aria-label="Backdrop"
        className="mr-1.5 flex items-center gap-1.5"
      >
        {BACKDROPS.map((each) => (
          <Hint key={each} text={`Backdrop: ${each === 'own' ? 'a colour of your own' : each} (Q for the next)`}>
            <RadioGroup.Item
              value={each}
              aria-label={`Backdrop ${each}`}
              style={each === 'own' ? { background: ownBackdrop } : undefined}
              className={`size-4 rounded-full border ${each === 'own' ? '' : LOOKS[each]} ${backdrop === each ? 'border-spruce outline-2 outline-spruce outline-offset-1' : 'border-ink-3'}`}
            />
          </Hint>
        ))}
        {backdrop === 'own' && (
          <ColourPick
            label="Colour of the backdrop"
            value={ownBackdrop}
            onChange={(colour) => set({ ownBackdrop: colour })}
            className="h-5"
          />
        )}
      </RadioGroup.Root>
      <Toggle
        on={wireframe}
        title="Wireframe"
        keys="W"
        label="Outlines only: white on white is found so"
        onClick={() => set({ wireframe: !wireframe })}
      />
      <Toggle
        on={pixels > 0}
        title={pixels > 0 ? `Pixels ${pixels}×` : 'Pixels'}
        keys="P"
        label="The selected piece as the pixels of a PNG, 1× to 4×"
        onClick={() => set({ pixels: (pixels + 1) % 5 })}
      />
      <Toggle on={rulers} title="Rulers" keys="R" label="Rulers in px" onClick={() => set({ rulers: !rulers })} />
      <Toggle
        on={pixelGrid}
        title="Grid"
        keys="X"
        label="The edges of whole pixels, from 800 % on"
        onClick={() => set({ pixelGrid: !pixelGrid })}
      />
      <span className="ml-auto" />
      <Hint text="Fit everything (,)">
        <button
          type="button"
          className="w-16 rounded-sm py-0.5 text-right font-mono text-[11.5px] hover:bg-rail"
          onClick={() => plane.current?.fitAll()}
          aria-label={`Zoom ${Math.round(scale * 100)} percent. Fit all`}
        >
          {Math.round(scale * 100)} %
        </button>
      </Hint>
    </div>
  );
}
