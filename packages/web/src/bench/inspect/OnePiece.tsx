import type { Piece } from '@tolvik/core';
import { Suspense } from 'react';
import { useFindings } from '../../project/findings/findings';
import { useSession } from '../../project/session/context';
import { renamePiece } from '../../project/session/rename';
import { part } from '../../ui/part';
import { TextField } from '../../ui/TextField';
import { ArtboardNumbers } from './ArtboardNumbers';
import { ArtworkAlong } from './ArtworkAlong';
import { BecomesFiles } from './BecomesFiles';
import { DeletePieces } from './DeletePieces';

// Each comes when something is selected that has a use for it.
const ArrangeActions = part(async () => (await import('./ArrangeActions')).ArrangeActions);
const SliceNumbers = part(async () => (await import('./SliceNumbers')).SliceNumbers);
const EditionDifferences = part(async () => (await import('../editions/EditionDifferences')).EditionDifferences);
const FindingList = part(async () => (await import('../../project/findings/FindingList')).FindingList);
const FollowFields = part(async () => (await import('../variants/FollowFields')).FollowFields);

/** One piece: its name, its numbers, what it holds, and its files. */
export function OnePiece({ piece }: { piece: Piece }) {
  const session = useSession();
  const { record } = piece;
  const found = useFindings().byPiece.get(piece.id) ?? [];
  return (
    <>
      <section className="border-line border-b px-3.5 pt-3 pb-3.5">
        <div className="mb-2 flex items-center justify-between">
          <h2 className="font-bold text-[13px] capitalize">{piece.kind}</h2>
          <span className="font-mono text-[11.5px] text-ink-3">{String(piece.number).padStart(2, '0')}</span>
        </div>
        <TextField
          label="Name"
          value={piece.name}
          required
          onChange={(name) => renamePiece(session, piece.id, name)}
          className="mb-2 [&_input]:font-semibold"
        />
        {record.kind === 'artboard' && <ArtboardNumbers artboard={record} />}
        {/* What is not here yet holds up nothing beside it. */}
        <Suspense fallback={null}>{record.kind === 'slice' && <SliceNumbers slice={record} piece={piece} />}</Suspense>
        <Suspense fallback={null}>{record.kind === 'artboard' && <FollowFields artboard={record} />}</Suspense>
        {record.kind === 'artboard' && !record.follows && <ArtworkAlong boards={1} />}
        <Suspense fallback={null}>
          <ArrangeActions pieces={[piece]} />
        </Suspense>
        <div className="mt-2.5 flex flex-wrap gap-2">
          <DeletePieces ids={[piece.id]} />
        </div>
      </section>
      <Suspense fallback={null}>{record.kind === 'edition' && <EditionDifferences edition={record} />}</Suspense>
      <Suspense fallback={null}>{found.length > 0 && <FindingList findings={found} />}</Suspense>
      <BecomesFiles piece={piece} />
    </>
  );
}
