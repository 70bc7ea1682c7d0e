import { acts, cellKey, FORMATS, outputsOf, type Piece, planFile } from '@tolvik/core';
import { planOf, useMade, useSession } from '../../project/session/context';
import { Shortened } from '../../ui/Shortened';
import { Tick } from '../../ui/Tick';
import { count, weight } from '../../ui/words';
import { act } from '../act';
import { SmallPictures } from './SmallPictures';

/** The files of one piece by their real names and weights. */
export function BecomesFiles({ piece }: { piece: Piece }) {
  const session = useSession();
  const { doc } = session;
  const { files } = useMade();
  const plan = planOf(session);
  const outputs = outputsOf(doc, piece);
  const planned = new Set(plan.files.filter((file) => file.pieceId === piece.id).map((file) => file.outputId));
  const specs = plan.specs.filter((spec) => piece.specIds.includes(spec.id));
  const toggle = (outputId: string, on: boolean) =>
    act(session, acts.switchFiles, { on, outputIds: [outputId] }, [piece.id]);
  return (
    <section className="px-3.5 py-3">
      <div className="mb-1.5 flex items-baseline justify-between gap-2">
        <h2 className="heading shrink-0">Becomes {count(planned.size, 'file')}</h2>
        <span className="truncate font-semibold text-note text-spruce">
          {specs.map((spec) => spec.name).join(' + ') || 'follows no spec'}
        </span>
      </div>
      <ul>
        {outputs.map((output) => {
          const file = planFile(doc, session.name, piece, output);
          const on = planned.has(output.id);
          const made = files.get(cellKey(piece.id, output.id));
          return (
            <li
              key={output.id}
              className={`flex h-[23px] items-center gap-2 font-mono text-[11.5px] ${on ? '' : 'text-ink-3'}`}
            >
              <Tick checked={on} onChange={(next) => toggle(output.id, next)} label={`Make ${file.path}`} />
              <Shortened text={file.path} className="min-w-0 flex-1" />
              <span className="text-ink-3">
                {FORMATS[file.format].raster ? `${file.widthPx} × ${file.heightPx}` : 'vector'}
              </span>
              <span className="w-14 whitespace-nowrap text-right">
                {on && made?.bytes != null ? weight(made.bytes) : ''}
              </span>
            </li>
          );
        })}
      </ul>
      <SmallPictures piece={piece} outputs={outputs.filter((output) => planned.has(output.id))} />
    </section>
  );
}
