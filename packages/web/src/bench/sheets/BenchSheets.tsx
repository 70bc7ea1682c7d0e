import { isPlainLockup } from '@tolvik/core';
import { Suspense } from 'react';
import { planOf, useSession } from '../../project/session/context';
import { Arriving } from '../../ui/Arriving';
import { part } from '../../ui/part';
import { selectedArtboards } from '../act';
import { useBench } from '../bench-state';
import { piecesToName } from '../names/pieces-to-name';
import { useFollowedQuestion } from '../remove';
import { shownEdition } from '../shown-edition';

// Each comes when it is first opened.
const ColoursSheet = part(async () => (await import('./ColoursSheet')).ColoursSheet);
const EditionsSheet = part(async () => (await import('../editions/EditionsSheet')).EditionsSheet);
const FollowedQuestion = part(async () => (await import('./FollowedQuestion')).FollowedQuestion);
const GroupsSheet = part(async () => (await import('./GroupsSheet')).GroupsSheet);
const NamesSheet = part(async () => (await import('../names/NamesSheet')).NamesSheet);
const LockupsSheet = part(async () => (await import('../variants/LockupsSheet')).LockupsSheet);
const PieceRulesSheet = part(async () => (await import('./PieceRulesSheet')).PieceRulesSheet);
const RowsSheet = part(async () => (await import('./RowsSheet')).RowsSheet);
const TilesSheet = part(async () => (await import('./TilesSheet')).TilesSheet);
const VariantsSheet = part(async () => (await import('../variants/VariantsSheet')).VariantsSheet);

/** The dialogs of the Bench, opened from buttons and commands alike. */
export function BenchSheets() {
  const { asked } = useFollowedQuestion();
  return (
    <Suspense fallback={<Arriving />}>
      <OpenSheet />
      {asked && <FollowedQuestion />}
    </Suspense>
  );
}

function OpenSheet() {
  const session = useSession();
  const { sheet, set } = useBench();
  const close = () => set({ sheet: null });
  if (!sheet) return null;
  const pieces = planOf(session).pieces.filter((piece) => session.selection.has(piece.id));
  const artboards = selectedArtboards(session);
  const own = artboards.filter((artboard) => !artboard.follows);
  const sources = artboards.filter((artboard) => !artboard.follows || isPlainLockup(artboard));
  const shown = shownEdition(session);
  const base = own[0] ?? session.doc.find('artboard', shown?.artboardId ?? '');
  switch (sheet) {
    case 'colours':
      return <ColoursSheet onClose={close} />;
    case 'piece-rules':
      return <PieceRulesSheet onClose={close} />;
    case 'rows':
      return artboards.length > 0 ? <RowsSheet artboards={artboards} onClose={close} /> : null;
    case 'groups':
      return own.length > 0 ? <GroupsSheet artboards={own} onClose={close} /> : null;
    case 'variants':
      return sources.length > 0 ? <VariantsSheet sources={sources} onClose={close} /> : null;
    case 'lockups':
      return own.length === 2 ? <LockupsSheet parts={[own[0], own[1]]} onClose={close} /> : null;
    case 'editions':
      return base ? <EditionsSheet base={base} onClose={close} /> : null;
    case 'rename':
      return <NamesSheet pieces={piecesToName(session)} onClose={close} />;
    case 'tiles':
      return pieces.length === 1 && !pieces[0].problem && pieces[0].kind !== 'edition' ? (
        <TilesSheet piece={pieces[0]} onClose={close} />
      ) : null;
  }
}
