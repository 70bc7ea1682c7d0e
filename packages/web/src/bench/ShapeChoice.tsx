import { SHAPE_KINDS, type ShapeKind } from '@tolvik/core';
import { Circle, Hexagon, Minus, Square } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { ColourPick } from '../ui/ColourPick';
import { Hint } from '../ui/Hint';
import { NumberField } from '../ui/NumberField';
import { useBench } from './bench-state';

const SHAPES: Record<ShapeKind, typeof Square> = { rectangle: Square, ellipse: Circle, line: Minus, polygon: Hexagon };

/** Which shape is drawn next, and what only that shape has. */
export function ShapeChoice() {
  const { shape, shapeLook, set } = useBench();
  return (
    <>
      <RadioGroup.Root
        value={shape}
        onValueChange={(next) => set({ shape: next as typeof shape })}
        aria-label="Shape to draw"
        className="flex gap-0.5"
      >
        {SHAPE_KINDS.map((kind) => {
          const Icon = SHAPES[kind];
          return (
            <Hint key={kind} text={kind}>
              <RadioGroup.Item
                value={kind}
                aria-label={kind}
                className={`rounded-sm p-1 ${shape === kind ? 'bg-spruce-pale text-spruce' : 'hover:bg-rail'}`}
              >
                <Icon size={16} />
              </RadioGroup.Item>
            </Hint>
          );
        })}
      </RadioGroup.Root>
      {shape === 'rectangle' && (
        <NumberField
          label="corner radius"
          showLabel="radius"
          value={shapeLook.radiusPx}
          min={0}
          max={1000}
          onChange={(radiusPx) => set({ shapeLook: { ...shapeLook, radiusPx } })}
          className="w-[104px]"
        />
      )}
      {shape === 'polygon' && (
        <NumberField
          label="corners"
          showLabel="corners"
          whole
          value={shapeLook.corners}
          min={3}
          max={60}
          onChange={(corners) => set({ shapeLook: { ...shapeLook, corners } })}
          className="w-[104px]"
        />
      )}
      <ColourPick
        label={shape === 'line' ? 'Colour of the line' : 'Fill of new shapes'}
        value={shapeLook.fill}
        alpha
        onChange={(fill) => set({ shapeLook: { ...shapeLook, fill } })}
      />
    </>
  );
}
