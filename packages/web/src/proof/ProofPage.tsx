import { cellKey, pickPieces } from '@tolvik/core';
import { Slider } from 'radix-ui';
import { Suspense, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { type Command, useCommands } from '../commands/commands';
import { doAct, plainIntent } from '../project/act';
import { planOf, useMade, useSession } from '../project/context';
import { useFindings } from '../project/findings';
import { useExport } from '../project/use-export';
import { Arriving } from '../ui/Arriving';
import { Button, Choice } from '../ui/controls';
import { part } from '../ui/part';
import { count, weight } from '../ui/words';
import { Matrix } from './Matrix';

// Each comes when it is first opened.
const CompareView = part(async () => (await import('./compare/CompareView')).CompareView);
const FindingsList = part(async () => (await import('./FindingsList')).FindingsList);
const NamesSheet = part(async () => (await import('./NamesSheet')).NamesSheet);
const SpecsSheet = part(async () => (await import('./SpecsSheet')).SpecsSheet);

type Filter = 'all' | 'artboard' | 'slice' | 'edition' | 'on' | 'look';
const ORDERS = { number: 'number', name: 'name', light: 'lightest first', heavy: 'heaviest first' } as const;
type Order = keyof typeof ORDERS;
const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** The stage where every file is decided and seen. */
export function ProofPage() {
  const session = useSession();
  const plan = planOf(session);
  const { files: made, whole } = useMade();
  const [query, setQuery] = useState('');
  const [filter, setFilter] = useState<Filter>('all');
  /** The kind of finding whose pieces alone are shown. */
  const [picked, setPicked] = useState<string | null>(null);
  const [order, setOrder] = useState<Order>('number');
  const [side, setSide] = useState(104);
  const [sheet, setSheet] = useState<'names' | 'specs' | null>(null);
  const [params, setParams] = useSearchParams();
  const { all, needsALook } = useFindings();
  const troubled = useMemo(
    () =>
      new Set([
        ...plan.troubled.map((file) => file.pieceId),
        ...all.flatMap((finding) =>
          finding.severity === 'hint' || finding.accepted || !finding.pieceId ? [] : [finding.pieceId],
        ),
      ]),
    [plan, all],
  );
  const ofKind = useMemo(() => {
    const ids = all.flatMap((finding) => (finding.check === picked && !finding.accepted ? [finding.pieceId] : []));
    return ids.length > 0 ? new Set(ids) : null;
  }, [all, picked]);
  const shown = useMemo(() => {
    const kept = pickPieces(plan.pieces, query).filter(
      (piece) =>
        filter === 'all' ||
        (filter === 'look'
          ? ofKind
            ? ofKind.has(piece.id)
            : troubled.has(piece.id) || troubled.size === 0
          : filter === 'on'
            ? piece.on
            : piece.kind === filter),
    );
    if (order === 'number') return kept;
    if (order === 'name') return kept.sort((a, b) => collator.compare(a.name, b.name));
    const weights = new Map<string, number>();
    for (const file of plan.files)
      weights.set(
        file.pieceId,
        (weights.get(file.pieceId) ?? 0) + (made.get(cellKey(file.pieceId, file.outputId))?.bytes ?? 0),
      );
    return kept.sort((a, b) => ((weights.get(a.id) ?? 0) - (weights.get(b.id) ?? 0)) * (order === 'light' ? 1 : -1));
  }, [plan, query, filter, ofKind, troubled, order, made]);
  const kinds = (kind: Filter) => plan.pieces.filter((piece) => piece.kind === kind).length;
  const options: { value: Filter; title: string; bad?: boolean }[] = [
    { value: 'all', title: `All ${plan.pieces.length}` },
    { value: 'artboard', title: `Artboards ${kinds('artboard')}` },
  ];
  if (kinds('edition') > 0) options.push({ value: 'edition', title: `Editions ${kinds('edition')}` });
  if (kinds('slice') > 0) options.push({ value: 'slice', title: `Slices ${kinds('slice')}` });
  // Also when only hints are left, or something of the project as a whole: there is a place to read them.
  if (plan.pieces.some((piece) => !piece.on))
    options.push({ value: 'on', title: `On ${plan.pieces.filter((piece) => piece.on).length}` });
  if (troubled.size > 0 || all.length > 0)
    options.push({
      value: 'look',
      title: troubled.size > 0 ? `Needs a look ${troubled.size}` : 'Worth knowing',
      bad: troubled.size > 0,
    });

  const look = troubled.size > 0 || all.length > 0;
  const commands = useMemo(
    (): Command[] => [
      { id: 'names', group: 'Files', title: 'Names and folders…', run: () => setSheet('names') },
      { id: 'specs', group: 'Files', title: 'Specs and their outputs…', run: () => setSheet('specs') },
      {
        id: 'add-output',
        group: 'Files',
        title: 'Add an output',
        run: () => void doAct(session, 'add-output', plainIntent([]), {}),
      },
      {
        id: 'needs-a-look',
        group: 'See',
        title: 'Show what needs a look',
        unless: !look && 'Nothing was found',
        run: () => setFilter('look'),
      },
      { id: 'show-all', group: 'See', title: 'Show all pieces', run: () => (setFilter('all'), setQuery('')) },
    ],
    [session, look],
  );
  useCommands('proof', commands);

  let bytes = 0;
  let unknown = 0;
  for (const file of plan.files) {
    const known = (file.pages ? whole.get(file.outputId) : made.get(cellKey(file.pieceId, file.outputId)))?.bytes;
    if (known == null) unknown++;
    else bytes += known;
  }
  const exportSome = useExport();
  const chosen = plan.files.filter((file) => session.selection.has(file.pieceId)).length;
  const shownIds = new Set(shown.map(({ id }) => id));
  const filesShown =
    shown.length < plan.pieces.length ? plan.files.filter((file) => shownIds.has(file.pieceId)).length : 0;
  const open = params.get('cell')?.split(' ');
  const joined = plan.pages.length - plan.files.filter((file) => file.pages).length;
  const cells = plan.files.length + joined + plan.offCount;

  return (
    <main className="relative flex min-h-0 flex-1 flex-col">
      <div className="flex h-11 flex-none items-center gap-2.5 border-line border-b bg-paper px-4">
        <input
          type="search"
          className="field w-[160px]"
          placeholder="Find, or pick 3-9, 12"
          aria-label="Find pieces by name, or pick them by number"
          value={query}
          onChange={(event) => setQuery(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && session.select(shown.map(({ id }) => id))}
        />
        <Choice
          label="Which pieces"
          value={options.some((option) => option.value === filter) ? filter : 'all'}
          onChange={setFilter}
          options={options}
        />
        <label className="ml-auto flex items-center gap-2 text-ink-2">
          By
          <select
            className="field"
            aria-label="Order of the rows"
            value={order}
            onChange={(event) => setOrder(event.target.value as Order)}
          >
            {Object.entries(ORDERS).map(([value, title]) => (
              <option key={value} value={value}>
                {title}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2.5 text-ink-2">
          Size
          <Slider.Root
            className="relative flex h-5 w-[70px] items-center"
            min={64}
            max={260}
            step={4}
            value={[side]}
            onValueChange={([value]) => setSide(value)}
          >
            <Slider.Track className="relative h-px grow bg-ink-3">
              <Slider.Range className="absolute h-full bg-ink" />
            </Slider.Track>
            <Slider.Thumb aria-label="Size of the cells" className="block size-3 rounded-full bg-ink" />
          </Slider.Root>
        </label>
        <Button small onClick={() => setSheet('names')}>
          Names and folders…
        </Button>
        <Button small onClick={() => setSheet('specs')}>
          Specs…
        </Button>
      </div>
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
      <footer className="flex h-10 flex-none items-center gap-[18px] border-line border-t bg-rail px-4">
        <strong className="font-semibold">
          {plan.offCount === 0 && joined === 0
            ? count(plan.files.length, 'file')
            : `${cells.toLocaleString('en')} cells, ${plan.offCount.toLocaleString('en')} off${plan.pages.length > 0 ? `, ${count(plan.pages.length, 'page')} in one PDF` : ''} = ${count(plan.files.length, 'file')}`}
        </strong>
        <span className="text-ink-2">
          {weight(bytes)}
          {unknown > 0 && `, ${count(unknown, 'weight')} to come`}
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
