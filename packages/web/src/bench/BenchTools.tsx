import { Redo2, Undo2 } from 'lucide-react';
import { useOpenSession, useSessionPart } from '../project/session/context';
import { idleWhen, Key } from '../ui/controls';
import { Hint } from '../ui/Hint';
import { TOOLS, type Tool, useBench } from './bench-state';
import { ShapeChoice } from './ShapeChoice';
import { WholeSheet } from './sheets/WholeSheet';

const TITLES: Record<Tool, string> = {
  select: 'Select',
  artboard: 'Artboard',
  slice: 'Slice',
  shape: 'Shape',
  text: 'Text',
};
/** The strip above the plane: the tools, and what the one in hand makes next. */
export function BenchTools() {
  const session = useOpenSession();
  const [undoLabel, redoLabel] = [useSessionPart('undoLabel'), useSessionPart('redoLabel')];
  const { tool, set } = useBench();
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
      {tool === 'shape' ? <ShapeChoice /> : tool === 'select' && <WholeSheet />}
      {tool === 'text' && <span className="text-ink-2 text-note">Click where the first line stands</span>}
      <span className="ml-auto" />
      <Hint text={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'}>
        <button
          type="button"
          className="rounded-sm p-1 hover:bg-rail aria-disabled:text-line-strong"
          {...idleWhen(!undoLabel, () => session.undo())}
          aria-label={undoLabel ? `Undo: ${undoLabel}` : 'Undo'}
        >
          <Undo2 size={16} />
        </button>
      </Hint>
      <Hint text={redoLabel ? `Redo: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}>
        <button
          type="button"
          className="rounded-sm p-1 hover:bg-rail aria-disabled:text-line-strong"
          {...idleWhen(!redoLabel, () => session.redo())}
          aria-label={redoLabel ? `Redo: ${redoLabel}` : 'Redo'}
        >
          <Redo2 size={16} />
        </button>
      </Hint>
    </div>
  );
}
