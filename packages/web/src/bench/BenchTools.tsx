import { acts, SHAPE_KINDS, type ShapeKind } from '@tolvik/core';
import { Circle, Hexagon, LayoutGrid, Minus, Redo2, Square, Undo2 } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { useOpenSession, useSessionPart } from '../project/context';
import { ColourPick } from '../ui/ColourPick';
import { Key } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { NumberField } from '../ui/NumberField';
import { Tick } from '../ui/Tick';
import { act } from './act';
import { TOOLS, type Tool, useBench } from './bench-state';

const TITLES: Record<Tool, string> = {
  select: 'Select',
  artboard: 'Artboard',
  slice: 'Slice',
  shape: 'Shape',
  text: 'Text',
};
const SHAPES: Record<ShapeKind, typeof Square> = { rectangle: Square, ellipse: Circle, line: Minus, polygon: Hexagon };

/** The strip above the plane: the tools, and what the one in hand makes next. */
export function BenchTools() {
  const session = useOpenSession();
  const [undoLabel, redoLabel] = [useSessionPart('undoLabel'), useSessionPart('redoLabel')];
  const { tool, carry, set } = useBench();
  return (
    <div
      role="toolbar"
      aria-label="Bench tools"
      className="@container flex h-[38px] flex-none items-center gap-1 overflow-x-auto overflow-y-hidden border-line border-b bg-paper px-2.5"
    >
      {TOOLS.map((each, i) => (
        <button
          key={each}
          type="button"
          aria-pressed={tool === each}
          onClick={() => set({ tool: each })}
          className={`inline-flex h-[26px] shrink-0 items-center gap-1.5 rounded-md px-2 font-semibold text-[12.5px] ${tool === each ? 'bg-ink text-white' : 'hover:bg-rail'}`}
        >
          {TITLES[each]}{' '}
          <span className="@max-[660px]:hidden">
            <Key>{i + 1}</Key>
          </span>
        </button>
      ))}
      <span className="mx-1 h-5 w-px bg-line" />
      {tool === 'shape' ? (
        <ShapeChoice />
      ) : (
        tool === 'select' && (
          <>
            <label className="inline-flex items-center gap-1.5 whitespace-nowrap text-ink-2">
              <Tick
                checked={carry}
                onChange={(on) => set({ carry: on })}
                label="Carry artwork when an artboard moves"
              />{' '}
              <span>
                Carry<span className="@max-[660px]:hidden"> artwork</span>
              </span>
            </label>
            <WholeSheet />
          </>
        )
      )}
      {tool === 'text' && <span className="text-ink-2 text-note">Click where the first line stands</span>}
      <span className="ml-auto" />
      <Hint text={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'}>
        <button
          type="button"
          className="rounded-sm p-1 hover:bg-rail disabled:text-line-strong"
          disabled={!undoLabel}
          onClick={() => session.undo()}
          aria-label={undoLabel ? `Undo: ${undoLabel}` : 'Undo'}
        >
          <Undo2 size={16} />
        </button>
      </Hint>
      <Hint text={redoLabel ? `Redo: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}>
        <button
          type="button"
          className="rounded-sm p-1 hover:bg-rail disabled:text-line-strong"
          disabled={!redoLabel}
          onClick={() => session.redo()}
          aria-label={redoLabel ? `Redo: ${redoLabel}` : 'Redo'}
        >
          <Redo2 size={16} />
        </button>
      </Hint>
    </div>
  );
}

/** One piece of all artboards, cut at their outer edges; shown again when it is there. */
function WholeSheet() {
  const session = useOpenSession();
  const known = session.doc
    .list('slice')
    .find(({ source }) => source.kind === 'everything' && source.to === 'artboards');
  return (
    <Hint
      text={
        known ? `${known.name} is all artboards in one piece` : 'All artboards in one piece, cut at their outer edges'
      }
    >
      <button
        type="button"
        aria-pressed={known ? session.selection.has(known.id) : undefined}
        aria-label="Whole sheet"
        className="inline-flex h-[26px] shrink-0 items-center whitespace-nowrap rounded-md px-2 font-semibold text-[12.5px] hover:bg-rail"
        onClick={() =>
          known ? session.select([known.id]) : act(session, acts.sliceEverything, { name: 'sheet', to: 'artboards' })
        }
      >
        <span className="@max-[660px]:hidden">Whole sheet</span>
        <LayoutGrid size={16} aria-hidden className="@min-[660px]:hidden" />
      </button>
    </Hint>
  );
}

/** Which shape is drawn next, and what only that shape has. */
function ShapeChoice() {
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
