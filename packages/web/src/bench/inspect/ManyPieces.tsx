import { type Artboard, acts, type Piece, type Region } from '@tolvik/core';
import { askWhichFilesOf } from '../../outputs/which-files';
import { useExport } from '../../project/files/use-export';
import { planOf, useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import { count } from '../../ui/words';
import { act } from '../act';
import { AlignActions } from './AlignActions';
import { ArrangeActions } from './ArrangeActions';
import { ArtworkAlong } from './ArtworkAlong';
import { DeletePieces } from './DeletePieces';

export function ManyPieces({ pieces }: { pieces: readonly Piece[] }) {
  const session = useSession();
  const plan = planOf(session);
  const exportSome = useExport();
  const ids = new Set(pieces.map((piece) => piece.id));
  const files = plan.files.filter((file) => ids.has(file.pieceId)).length;
  const artboards = pieces.flatMap(({ record }) => (record.kind === 'artboard' ? [record] : []));
  const own = artboards.filter(({ follows }) => !follows).length;
  const resizeAll = (fields: Partial<Region>) =>
    act(
      session,
      acts.setRect,
      fields,
      artboards.map(({ id }) => id),
    );
  const same = (of: (artboard: Artboard) => number) =>
    new Set(artboards.map(of)).size === 1 ? of(artboards[0]) : null;
  return (
    <>
      <section className="border-line border-b px-3.5 py-3">
        <h2 className="font-bold text-[13px]">{count(pieces.length, 'piece')}</h2>
        <p className="mt-0.5 mb-2 text-ink-2">become {count(files, 'file')}</p>
        <div className="mb-2.5 flex flex-wrap gap-2">
          <Button small onClick={() => askWhichFilesOf(pieces.map(({ number }) => number))}>
            Which files…
          </Button>
          {files > 0 && files < plan.files.length && (
            <Button small onClick={() => void exportSome({ pieceIds: [...ids] })}>
              Export only these {files}
            </Button>
          )}
        </div>
        {artboards.length > 0 && (
          <div className="grid grid-cols-2 gap-2">
            <NumberField
              label="width of all"
              showLabel="w"
              value={same((a) => a.width)}
              min={0.01}
              onChange={(width) => resizeAll({ width })}
            />
            <NumberField
              label="height of all"
              showLabel="h"
              value={same((a) => a.height)}
              min={0.01}
              onChange={(height) => resizeAll({ height })}
            />
            <NumberField
              label="longer side of all, artwork with it"
              showLabel="scale to"
              value={same((a) => Math.max(a.width, a.height))}
              min={0.01}
              onChange={(longestPx) => act(session, acts.bringToSize, { longestPx })}
              className="col-span-2 [&>span]:whitespace-nowrap"
            />
          </div>
        )}
        {own > 0 && <ArtworkAlong boards={own} />}
        <ArrangeActions pieces={pieces} />
        <div className="mt-3 flex flex-wrap gap-2">
          <DeletePieces ids={[...ids]} />
        </div>
      </section>
      {artboards.length > 1 && <AlignActions layers={false} />}
    </>
  );
}
