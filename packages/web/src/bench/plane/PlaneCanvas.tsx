import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { usePainter } from '../../painter/use-painter';
import { useFindings } from '../../project/findings/findings';
import { planOf, useSession } from '../../project/session/context';
import { renamePiece } from '../../project/session/rename';
import { TextField } from '../../ui/TextField';
import { count } from '../../ui/words';
import { useBench } from '../bench-state';
import { openBenchMenu } from '../commands/menus';
import { Plane } from './plane';

/** The canvas of the plane, and the field in which a ticket is renamed in place. */
export function PlaneCanvas({
  planeRef,
  onScale,
}: {
  planeRef: RefObject<Plane | null>;
  onScale(scale: number): void;
}) {
  const session = useSession();
  const painter = usePainter();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { renaming, set } = useBench();
  const [, redraw] = useState(0);

  useLayoutEffect(() => {
    const plane = new Plane(canvas.current as HTMLCanvasElement, session, painter);
    planeRef.current = plane;
    plane.onCamera = ({ scale }) => {
      onScale(scale);
      if (useBench.getState().renaming) redraw((n) => n + 1);
    };
    onScale(plane.camera.scale);
    return () => {
      plane.close();
      planeRef.current = null;
    };
  }, [session, painter, planeRef, onScale]);

  const { all } = useFindings();
  useEffect(
    () =>
      planeRef.current?.showTrouble(
        new Map(
          all.flatMap((finding) =>
            finding.severity === 'hint' || finding.accepted ? [] : [[finding.pieceId, finding.message]],
          ),
        ),
      ),
    [all, planeRef],
  );

  const record = renaming ? (session.doc.find('artboard', renaming) ?? session.doc.find('slice', renaming)) : undefined;
  const at = record ? planeRef.current?.screenRect(record.id) : null;
  const selected = session.selection.size;
  return (
    <>
      <canvas
        ref={canvas}
        tabIndex={0}
        onContextMenu={(event) =>
          // By the keyboard it is about what is selected.
          openBenchMenu(event, session, () => event.button === 2 && planeRef.current?.pickUnder(event.nativeEvent))
        }
        className="absolute inset-0 size-full touch-none focus-visible:-outline-offset-2"
        aria-label={`Plane with ${count(session.doc.list('artboard').length, 'artboard')}, ${selected} selected. Arrows move what is selected; the list of pieces on the left selects.`}
      />
      {record && at && (
        <div
          className="absolute"
          style={{
            left: at.x - 4,
            top: record.kind === 'artboard' ? at.y + at.height + 2 : at.y - 24,
            width: Math.max(150, at.width),
          }}
        >
          <TextField
            key={record.id}
            label={`Name of ${record.name}`}
            mono
            autoFocus
            required
            value={record.name}
            onChange={(name) => renamePiece(session, record.id, name)}
            onDone={() => set({ renaming: null })}
            onNext={(by) => {
              const { pieces } = planOf(session);
              const next = pieces[pieces.findIndex(({ id }) => id === record.id) + by];
              const named = next && next.kind !== 'edition' ? next.id : null;
              set({ renaming: named });
              if (named === null) return;
              session.select([named]);
              planeRef.current?.reveal(named);
            }}
          />
        </div>
      )}
    </>
  );
}
