import { acts } from '@tolvik/core';
import { Suspense, useLayoutEffect, useRef, useState } from 'react';
import { isTyping } from '../commands/typing';
import { planeFirst, useOpenSession } from '../project/session/context';
import { part } from '../ui/part';
import { act } from './act';
import { BenchEmpty } from './BenchEmpty';
import { BenchTools } from './BenchTools';
import { useBench } from './bench-state';
import { CopyAndPaste } from './CopyAndPaste';
import { BenchCommands } from './commands/BenchCommands';
import { Inspector } from './inspect/Inspector';
import { PlaneCanvas } from './plane/PlaneCanvas';
import type { Plane } from './plane/plane';
import { SidePanel } from './SidePanel';
import { BenchSheets } from './sheets/BenchSheets';
import { shownEdition } from './shown-edition';
import { ViewBar } from './ViewBar';

// What nobody sees at once, or not on every Bench, comes a moment after it.
const EditionStrip = part(async () => (await import('./editions/EditionStrip')).EditionStrip);
const FirstHintLine = part(async () => (await import('./first-hints/FirstHintLine')).FirstHintLine);

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The stage where artwork is arranged. */
export function BenchPage() {
  const session = useOpenSession();
  const plane = useRef<Plane | null>(null);
  const [scale, setScale] = useState(1);

  // Keys that mean something else in lists and fields: arrows on the plane, Escape step by step.
  useLayoutEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (
        event.defaultPrevented ||
        isTyping(event.target) ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        document.querySelector('[role="dialog"]')
      )
        return;
      const { key, shiftKey } = event;
      // Where nothing had the focus, it is the plane's by now.
      const at = event.target === document.body ? document.activeElement : event.target;
      const inPlane = at instanceof HTMLCanvasElement;
      const arrow = ARROWS[key];
      if (key === 'Escape') {
        if (plane.current?.isBusy) plane.current.cancel();
        else if (useBench.getState().tool !== 'select') useBench.getState().set({ tool: 'select' });
        else if (!plane.current?.picking.goOut()) {
          // Out of the artwork step by step; from an edition back to its base first, then to nothing.
          const edition = shownEdition(session);
          session.select(edition ? [edition.artboardId] : []);
        }
      } else if (arrow && inPlane && session.selection.size > 0) {
        const step = shiftKey ? 10 : 1;
        planeFirst(() => act(session, acts.move, { dx: arrow[0] * step, dy: arrow[1] * step }));
      } else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [session]);

  return (
    <main className="flex min-h-0 flex-1">
      <SidePanel onReveal={(id) => plane.current?.reveal(id)} />
      <section aria-label="Plane" className="relative flex min-w-0 flex-1 flex-col border-line border-x">
        <BenchTools />
        <div className="relative min-h-0 flex-1">
          <PlaneCanvas planeRef={plane} onScale={setScale} />
          <BenchEmpty />
          <Suspense fallback={null}>
            <FirstHintLine />
          </Suspense>
        </div>
        <ViewBar scale={scale} plane={plane} />
        <Suspense fallback={null}>
          <EditionStrip />
        </Suspense>
      </section>
      <Inspector />
      <BenchSheets />
      <CopyAndPaste plane={plane} />
      <BenchCommands plane={plane} />
    </main>
  );
}
