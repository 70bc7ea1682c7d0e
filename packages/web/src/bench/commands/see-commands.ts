import type { RefObject } from 'react';
import type { Command } from '../../commands/commands';
import { planOf } from '../../project/session/context';
import type { Session } from '../../project/session/session';
import { upper } from '../../ui/words';
import { BACKDROPS, TOOLS, useBench } from '../bench-state';
import { stepEdition } from '../editions/step-edition';
import type { Plane } from '../plane/plane';

/** Tools, and everything about how the plane is looked at. */
export function seeCommands(session: Session, plane: RefObject<Plane | null>): Command[] {
  const { set, backdrop, wireframe, rulers, pixelGrid, pixels } = useBench.getState();
  const step = (by: number) => {
    const { pieces } = planOf(session);
    const at = pieces.findIndex((piece) => session.selection.has(piece.id));
    const next = pieces[at < 0 ? (by > 0 ? 0 : pieces.length - 1) : (at + by + pieces.length) % pieces.length];
    if (!next) return;
    session.select([next.id]);
    plane.current?.reveal(next.id);
  };
  const tools = TOOLS.map(
    (tool, i): Command => ({
      id: `tool-${tool}`,
      group: 'Tools',
      title: `${upper(tool)} tool`,
      keys: [String(i + 1)],
      run: () => set({ tool }),
    }),
  );
  const see = (id: string, title: string, keys: readonly string[], run: () => void): Command => ({
    id,
    group: 'See',
    title,
    keys,
    run,
  });
  return [
    ...tools,
    see('backdrop', 'Next backdrop', ['Q'], () =>
      set({ backdrop: BACKDROPS[(BACKDROPS.indexOf(backdrop) + 1) % BACKDROPS.length] }),
    ),
    see('wireframe', wireframe ? 'Show artwork as painted' : 'Wireframe', ['W'], () => set({ wireframe: !wireframe })),
    see('pixels', 'Selected piece as pixels: off, 1× to 4×', ['P'], () => set({ pixels: (pixels + 1) % 5 })),
    see('rulers', rulers ? 'Hide rulers' : 'Show rulers', ['R'], () => set({ rulers: !rulers })),
    see('grid', pixelGrid ? 'Hide the pixel grid' : 'Show the pixel grid', ['X'], () => set({ pixelGrid: !pixelGrid })),
    see('fit-selection', 'Fit what is selected', ['.'], () => plane.current?.fitSelection()),
    see('fit-all', 'Fit everything', [','], () => plane.current?.fitAll()),
    see('zoom-in', 'Zoom in', ['+', '='], () => plane.current?.zoomBy(1.5)),
    see('zoom-out', 'Zoom out', ['-'], () => plane.current?.zoomBy(1 / 1.5)),
    see('true-size', 'True size, 100 %', ['0'], () => plane.current?.zoomTo(1)),
    see('next', 'Next piece', ['E'], () => step(1)),
    see('previous', 'Previous piece', ['Shift+E'], () => step(-1)),
    see('edition-before', 'Previous edition', ['['], () => stepEdition(session, -1)),
    see('edition-after', 'Next edition', [']'], () => stepEdition(session, 1)),
  ];
}
