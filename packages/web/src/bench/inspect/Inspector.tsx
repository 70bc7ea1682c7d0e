import { Suspense } from 'react';
import { planOf, useSession } from '../../project/session/context';
import { PanelEdge, usePanelWidth } from '../../ui/PanelEdge';
import { part } from '../../ui/part';
import { NothingSelected } from './NothingSelected';
import { OnePiece } from './OnePiece';

// What is selected first comes a moment later than the plane.
const LayerInspector = part(async () => (await import('./LayerInspector')).LayerInspector);
const ManyPieces = part(async () => (await import('./ManyPieces')).ManyPieces);

/** What is selected, its exact numbers, and the files it becomes. */
export function Inspector() {
  const session = useSession();
  const plan = planOf(session);
  const selected = plan.pieces.filter((piece) => session.selection.has(piece.id));
  const layers = [...session.selection].flatMap((id) => session.doc.find('layer', id) ?? []);
  const [width, setWidth] = usePanelWidth('selection');
  return (
    <aside
      aria-label="Selection"
      style={width === null ? undefined : { width }}
      className="relative flex w-[272px] max-[1100px]:w-[236px] max-[900px]:w-[216px] flex-none flex-col bg-paper"
    >
      <PanelEdge label="Width of what is selected" side="left" onWidth={setWidth} />
      <div className="flex min-h-0 flex-1 flex-col overflow-y-auto">
        {selected.length === 0 && layers.length === 0 && <NothingSelected />}
        <Suspense fallback={null}>
          {selected.length === 0 && layers.length > 0 && (
            <LayerInspector key={layers.map((layer) => layer.id).join()} layers={layers} />
          )}
          {selected.length === 1 && <OnePiece piece={selected[0]} />}
          {selected.length > 1 && <ManyPieces pieces={selected} />}
        </Suspense>
      </div>
    </aside>
  );
}
