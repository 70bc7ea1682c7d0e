import { Tabs } from 'radix-ui';
import { Suspense } from 'react';
import { planOf, useSession } from '../project/session/context';
import { PanelEdge, usePanelWidth } from '../ui/PanelEdge';
import { part } from '../ui/part';
import { useBench } from './bench-state';
import { PiecesPanel } from './pieces/PiecesPanel';

const LayersPanel = part(async () => (await import('./layers/LayersPanel')).LayersPanel);

/** The two ways to find one's way: what becomes files, and the artwork itself. */
export function SidePanel({ onReveal }: { onReveal(id: string): void }) {
  const session = useSession();
  const { panel, set } = useBench();
  const pieces = planOf(session).pieces.length;
  const [width, setWidth] = usePanelWidth('index');
  const tabs = [
    { id: 'pieces', title: 'Pieces', count: pieces },
    { id: 'layers', title: 'Layers', count: null },
  ] as const;
  return (
    <aside
      aria-label="Index"
      style={width === null ? undefined : { width }}
      className="relative flex w-[272px] max-[1100px]:w-[236px] max-[900px]:w-[216px] max-[700px]:w-[196px] flex-none flex-col bg-paper"
    >
      <PanelEdge label="Width of the index" side="right" onWidth={setWidth} />
      <Tabs.Root
        value={panel}
        onValueChange={(next) => set({ panel: next as typeof panel })}
        className="flex min-h-0 flex-1 flex-col"
      >
        <Tabs.List
          aria-label="Index"
          className="flex h-[38px] flex-none items-stretch gap-4 border-line border-b px-3.5"
        >
          {tabs.map((tab) => (
            <Tabs.Trigger
              key={tab.id}
              value={tab.id}
              className={`relative font-semibold text-[12.5px] ${panel === tab.id ? 'after:absolute after:inset-x-0 after:-bottom-px after:h-[2px] after:bg-ink' : 'text-ink-2'}`}
            >
              {tab.title} {tab.count !== null && <span className="font-normal text-ink-3">{tab.count}</span>}
            </Tabs.Trigger>
          ))}
          {session.selection.size > 1 && (
            <span className="ml-auto self-center text-ink-3 text-note">{session.selection.size} selected</span>
          )}
        </Tabs.List>
        <Tabs.Content value={panel} tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
          <Suspense fallback={null}>
            {panel === 'pieces' ? <PiecesPanel onReveal={onReveal} /> : <LayersPanel onReveal={onReveal} />}
          </Suspense>
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
