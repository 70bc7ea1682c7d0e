import { cellKey } from '@tolvik/core';
import { useExport } from '../project/files/use-export';
import { useFindings } from '../project/findings/findings';
import { planOf, useMade, useSession } from '../project/session/context';
import { Button } from '../ui/controls';
import { count, weight } from '../ui/words';
import type { ShownPieces } from './use-shown-pieces';

/** How many files there will be and what they weigh, and exports of some of them. */
export function ProofFoot({ pieces: { shown, troubled, setFilter } }: { pieces: ShownPieces }) {
  const session = useSession();
  const plan = planOf(session);
  const { files: made, whole } = useMade();
  const { needsALook } = useFindings();
  const exportSome = useExport();
  let bytes = 0;
  let unknown = 0;
  for (const file of plan.files) {
    const known = (file.pages ? whole.get(file.outputId) : made.get(cellKey(file.pieceId, file.outputId)))?.bytes;
    if (known == null) unknown++;
    else bytes += known;
  }
  const chosen = plan.files.filter((file) => session.selection.has(file.pieceId)).length;
  const shownIds = new Set(shown.map(({ id }) => id));
  const filesShown =
    shown.length < plan.pieces.length ? plan.files.filter((file) => shownIds.has(file.pieceId)).length : 0;
  const paged = plan.files.filter((file) => file.pages);
  const pageCount = paged.reduce((sum, { pages: list }) => sum + (list?.length ?? 0), 0);
  const pages =
    paged.length > 0
      ? `, ${count(pageCount, 'page')} in ${paged.length === 1 ? 'one PDF' : count(paged.length, 'PDF')}`
      : '';
  const joined = plan.pages.length - paged.length;
  const cells = plan.files.length + joined + plan.offCount;
  return (
    <footer className="flex min-h-10 flex-none flex-wrap items-center gap-x-[18px] gap-y-1 py-1 border-line border-t bg-rail px-4">
      <strong className="font-semibold">
        {plan.offCount === 0 && joined === 0
          ? count(plan.files.length, 'file')
          : `${cells.toLocaleString('en')} cells, ${plan.offCount.toLocaleString('en')} off${pages} = ${count(plan.files.length, 'file')}`}
      </strong>
      <span className="text-ink-2">
        {weight(bytes)}
        {unknown > 0 && `, measuring ${count(unknown, 'file')}`}
      </span>
      {filesShown > 0 && filesShown < plan.files.length && (
        <Button small onClick={() => void exportSome({ pieceIds: [...shownIds] })}>
          Export the {count(filesShown, 'file')} shown
        </Button>
      )}
      {chosen > 0 && chosen < plan.files.length ? (
        <Button small onClick={() => void exportSome({ pieceIds: [...session.selection] })}>
          Export only the {count(chosen, 'file')} of{' '}
          {session.selection.size === 1 ? 'the selected piece' : `${session.selection.size} selected`}
        </Button>
      ) : filesShown > 0 ? null : (
        <span className="text-ink-2">Every picture here is the file that will be written.</span>
      )}
      {troubled.size > 0 && (
        <button
          type="button"
          className={`ml-auto font-semibold ${plan.troubled.length > 0 ? 'text-bad' : 'text-warn'}`}
          onClick={() => setFilter('look')}
        >
          {plan.troubled.length > 0
            ? `${count(plan.troubled.length, 'file')} cannot be made as planned`
            : `${needsALook} to look at`}
        </button>
      )}
    </footer>
  );
}
