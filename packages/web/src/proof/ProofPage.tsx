import { acts, cellKey } from '@tolvik/core';
import { Suspense, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { type Command, useCommands } from '../commands/commands';
import { useFindings } from '../project/findings/findings';
import { doAct, plainIntent } from '../project/session/act';
import { useSession } from '../project/session/context';
import { Arriving } from '../ui/Arriving';
import { part } from '../ui/part';
import { Matrix } from './matrix/Matrix';
import { ProofBar } from './ProofBar';
import { ProofFoot } from './ProofFoot';
import { type ShownPieces, useShownPieces } from './use-shown-pieces';

// Each comes when it is first opened.
const CompareView = part(async () => (await import('./compare/CompareView')).CompareView);
const FindingsList = part(async () => (await import('./FindingsList')).FindingsList);
const NamesSheet = part(async () => (await import('./NamesSheet')).NamesSheet);
const SpecsSheet = part(async () => (await import('./specs/SpecsSheet')).SpecsSheet);

type OpenSheet = 'names' | 'specs' | null;

/** The stage where every file is decided and seen. */
export function ProofPage() {
  const pieces = useShownPieces();
  const { shown, filter, order, picked, setPicked } = pieces;
  const { all } = useFindings();
  const [side, setSide] = useState(104);
  const [sheet, setSheet] = useState<OpenSheet>(null);
  const [params, setParams] = useSearchParams();
  const open = params.get('cell')?.split(' ');
  useProofCommands(pieces, setSheet);
  return (
    <main className="relative flex min-h-0 flex-1 flex-col">
      <ProofBar pieces={pieces} side={side} onSide={setSide} onSheet={setSheet} />
      {filter === 'look' && (
        <Suspense fallback={null}>
          <FindingsList findings={all} picked={picked} onPick={setPicked} />
        </Suspense>
      )}
      <Matrix
        pieces={shown}
        side={side}
        inOrder={order === 'number'}
        onOpen={(pieceId, outputId) => setParams({ cell: cellKey(pieceId, outputId) })}
        onSpecs={() => setSheet('specs')}
      />
      <ProofFoot pieces={pieces} />
      <Suspense fallback={<Arriving />}>
        {open?.length === 2 && (
          <CompareView
            pieceId={open[0]}
            outputId={open[1]}
            pieces={shown}
            onOpen={(pieceId, outputId) => setParams({ cell: cellKey(pieceId, outputId) }, { replace: true })}
            onClose={() => setParams({})}
          />
        )}
        {sheet === 'names' && <NamesSheet open onClose={() => setSheet(null)} />}
        {sheet === 'specs' && <SpecsSheet open onClose={() => setSheet(null)} />}
      </Suspense>
    </main>
  );
}

function useProofCommands({ hasFindings, setFilter, setQuery }: ShownPieces, setSheet: (sheet: OpenSheet) => void) {
  const session = useSession();
  const commands = useMemo(
    (): Command[] => [
      { id: 'names', group: 'Files', title: 'Names and folders…', run: () => setSheet('names') },
      { id: 'specs', group: 'Files', title: 'Specs and their outputs…', run: () => setSheet('specs') },
      {
        id: 'add-output',
        group: 'Files',
        title: 'Add an output',
        run: () => void doAct(session, acts.addOutput, plainIntent([]), {}),
      },
      {
        id: 'needs-a-look',
        group: 'See',
        title: 'Show what needs a look',
        unless: !hasFindings && 'Nothing was found',
        run: () => setFilter('look'),
      },
      { id: 'show-all', group: 'See', title: 'Show all pieces', run: () => (setFilter('all'), setQuery('')) },
    ],
    [session, hasFindings, setFilter, setQuery, setSheet],
  );
  useCommands('proof', commands);
}
