import {
  cellKey,
  coloursUsed,
  FORMATS,
  type Output,
  type OutputSettings,
  type Piece,
  sizeWords,
  sourcesOf,
} from '@tolvik/core';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { fileUrl, planOf, useMade, useSession } from '../../project/context';
import { Button, Choice } from '../../ui/controls';
import { plain, weight } from '../../ui/words';
import { differenceWords } from './difference';
import { boxOf, type Ground, PictureAt, PixelsAt } from './Picture';
import { lighter, MOST_PANES, type Pane, paneTitle, type View, zoomedView } from './panes';
import { SettingStrip } from './SettingStrip';
import { Stage } from './Stage';
import { type Picture, useDifference, usePicture } from './use-pictures';

type Mode = 'beside' | 'wipe' | 'difference';
const ZOOMS = [
  { value: 'fit', title: 'Fit' },
  { value: '1', title: '1:1' },
  { value: '2', title: '2×' },
  { value: '8', title: '8×' },
] as const;

/** Panes are told apart by where they stand. */
const PLACES = ['first', 'second', 'third'];

type Props = {
  pieceId: string;
  outputId: string;
  pieces: readonly Piece[];
  onOpen(pieceId: string, outputId: string): void;
  onClose(): void;
};

/** One file, large, on its background; beside it others of its piece, or itself with other settings. */
export function CompareView({ pieceId, outputId, pieces, onOpen, onClose }: Props) {
  const session = useSession();
  const navigate = useNavigate();
  const plan = planOf(session);
  const { files: made } = useMade();
  const [more, setMore] = useState<readonly Pane[]>([]);
  const [mode, setMode] = useState<Mode>('beside');
  const [ground, setGround] = useState<Ground>('checker');
  const [split, setSplit] = useState(0.5);
  const [view, setView] = useState<View | null>(null);
  const holder = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 800, height: 500 });
  const piece = plan.pieces.find((each) => each.id === pieceId);
  const ofPiece = useMemo(
    () =>
      new Map(
        [...plan.files.filter((file) => !file.pages), ...plan.pages]
          .filter((file) => file.pieceId === pieceId)
          .map((file) => [file.outputId, file]),
      ),
    [plan, pieceId],
  );
  const panes: Pane[] = [{ outputId }, ...more.filter((pane) => ofPiece.has(pane.outputId))];
  const fileOf = (pane: Pane) => ofPiece.get(pane.outputId);
  const isDrawnByUs = (pane: Pane | undefined) => {
    const format = pane && fileOf(pane)?.format;
    return !!format && !FORMATS[format].shown;
  };
  const pictures = [
    usePicture(pieceId, panes[0], isDrawnByUs(panes[0])),
    usePicture(pieceId, panes[1], isDrawnByUs(panes[1])),
    usePicture(pieceId, panes[2], isDrawnByUs(panes[2])),
  ];
  const file = fileOf(panes[0]);
  const [w, h] = [file?.widthPx ?? 1, file?.heightPx ?? 1];
  const differences = [
    null,
    useDifference(pictures[0].picture?.url, pictures[1].picture?.url, w, h),
    useDifference(pictures[0].picture?.url, pictures[2].picture?.url, w, h),
  ];

  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  useEffect(() => holder.current?.focus(), []);

  const columns = mode === 'beside' ? panes.length : 1;
  const paneRoom = { width: room.width / columns, height: room.height };
  const region = piece?.region ?? { x: 0, y: 0, width: 1, height: 1 };
  const fitted: View = {
    x: region.width / 2,
    y: region.height / 2,
    scale: Math.min((paneRoom.width - 48) / region.width, (paneRoom.height - 48) / region.height),
  };
  const at = view ?? fitted;
  const pixelsAt = (factor: number): View => ({
    ...at,
    x: region.width / 2,
    y: region.height / 2,
    scale: ((file?.widthPx ?? 1) / region.width) * factor,
  });
  const shownZoom = file ? (at.scale * region.width) / file.widthPx : 1;

  const step = (rows: number, cols: number) => {
    const row = pieces.findIndex((each) => each.id === pieceId) + rows;
    const column = plan.outputs.findIndex((each) => each.id === outputId) + cols;
    for (let r = row, c = column; pieces[r] && plan.outputs[c]; r += rows, c += cols) {
      const there =
        plan.files.some((each) => each.pieceId === pieces[r].id && each.outputId === plan.outputs[c].id) ||
        plan.pages.some((each) => each.pieceId === pieces[r].id && each.outputId === plan.outputs[c].id);
      if (there) {
        setMore([]);
        setView(null);
        return onOpen(pieces[r].id, plan.outputs[c].id);
      }
      if (rows === 0 && cols === 0) return;
    }
  };
  const onKeys = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
    const steps: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
    };
    const arrow = steps[event.key];
    if (event.key === 'Escape') onClose();
    else if (event.key === '+' || event.key === '=') setView(zoomedView(at, 1.5, 0, 0));
    else if (event.key === '-') setView(zoomedView(at, 1 / 1.5, 0, 0));
    else if (event.key === '0') setView(null);
    else if (event.key === 'b') addTrial();
    else if (event.key === 'm' && panes.length > 1)
      setMode(mode === 'beside' ? 'wipe' : mode === 'wipe' ? 'difference' : 'beside');
    else if (arrow && event.shiftKey)
      setView({ ...at, x: at.x + (arrow[1] * 40) / at.scale, y: at.y + (arrow[0] * 40) / at.scale });
    else if (arrow) step(...arrow);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  if (!piece || !file) return null;
  const outputOf = (pane: Pane) => session.doc.find('output', pane.outputId) as Output;
  const addTrial = () => {
    const last = panes[panes.length - 1];
    const settings = lighter(last.settings ?? outputOf(last).settings);
    if (settings && panes.length < MOST_PANES) setMore([...more, { outputId: last.outputId, settings }]);
  };
  const setPane = (i: number, settings: OutputSettings) =>
    setMore(more.map((pane, n) => (n === i - 1 ? { ...pane, settings } : pane)));
  const use = (pane: Pane) => {
    if (!pane.settings) return;
    session.commit({
      label: `${paneTitle(outputOf(pane), file, pane.settings)} for ${FORMATS[pane.settings.format].title}`,
      puts: [{ ...outputOf(pane), settings: pane.settings }],
      removes: [],
    });
    setMore([]);
  };
  const canTry = panes.length < MOST_PANES && lighter(outputOf(panes[0]).settings) !== null;
  const others = plan.outputs.filter(
    (output) => ofPiece.has(output.id) && !panes.some((pane) => pane.outputId === output.id && !pane.settings),
  );
  const title = (pane: Pane) =>
    pane.settings || panes.every((each) => each.outputId === outputId)
      ? paneTitle(outputOf(pane), fileOf(pane) ?? file, pane.settings)
      : `${FORMATS[outputOf(pane).settings.format].title} ${sizeWords(outputOf(pane).size)}`;
  const picture = (i: number, inRoom = paneRoom) => {
    const shown = pictures[i].picture;
    const here = fileOf(panes[i]) ?? file;
    const box = boxOf(at, region, inRoom);
    if (here.problem || pictures[i].trouble)
      return <p className="absolute inset-x-0 top-1/2 text-center text-bad">! {here.problem ?? pictures[i].trouble}</p>;
    return (
      shown && (
        <PictureAt
          url={shown.url}
          alt={`${piece.name}, ${title(panes[i])}`}
          box={box}
          ground={ground}
          raster={FORMATS[here.format].raster}
          pixel={box.width / here.widthPx}
        />
      )
    );
  };
  const note = (i: number) =>
    i === 0 ? (panes.length > 1 ? 'as it is' : '') : differences[i] ? differenceWords(differences[i]) : '';

  return (
    <section aria-label={`${piece.name}, ${file.path}`} className="absolute inset-0 z-30 flex flex-col bg-table">
      <div className="flex h-11 flex-none items-center gap-3 border-line border-b bg-paper px-4">
        <button type="button" className="shrink-0 rounded-sm px-1 text-ink-2 hover:text-ink" onClick={onClose}>
          ‹ All pieces
        </button>
        <h2 className="font-bold text-[15px]">{piece.name}</h2>
        <span className="truncate font-mono text-[11.5px] text-ink-2">{file.path}</span>
        <span className="ml-auto" />
        {canTry && (
          <Button small onClick={addTrial}>
            Try other settings
          </Button>
        )}
        {others.length > 0 && panes.length < MOST_PANES && (
          <select
            className="field w-[150px]"
            aria-label="Put another file beside it"
            value=""
            onChange={(event) => event.target.value && setMore([...more, { outputId: event.target.value }])}
          >
            <option value="">Beside it…</option>
            {others.map((output) => (
              <option key={output.id} value={output.id}>
                {FORMATS[output.settings.format].title} {sizeWords(output.size)} {output.suffix}
              </option>
            ))}
          </select>
        )}
        {panes.length > 1 && (
          <Choice
            label="How to compare"
            value={mode}
            onChange={setMode}
            options={[
              { value: 'beside', title: 'Side by side' },
              { value: 'wipe', title: 'Wipe' },
              { value: 'difference', title: 'Difference' },
            ]}
          />
        )}
        <Choice
          label="Behind the file"
          value={ground}
          onChange={setGround}
          options={[
            { value: 'checker', title: 'Checker' },
            { value: 'white', title: 'White' },
            { value: 'dark', title: 'Dark' },
          ]}
        />
        <Choice
          label="Zoom"
          value={
            view === null
              ? 'fit'
              : (ZOOMS.find(({ value }) => value !== 'fit' && Math.abs(shownZoom - Number(value)) < 0.001)?.value ??
                ('' as 'fit'))
          }
          onChange={(value) => setView(value === 'fit' ? null : pixelsAt(Number(value)))}
          options={ZOOMS}
        />
      </div>
      <Stage
        view={at}
        onView={setView}
        onKeys={onKeys}
        holder={holder}
        label="Files compared. Arrows go to the neighbours, plus and minus zoom, Shift and arrows move"
      >
        {mode === 'beside' &&
          panes.map((pane, i) => (
            <div
              key={PLACES[i]}
              data-pane
              className={`relative min-w-0 flex-1 overflow-hidden border-line border-r last:border-r-0 ${ground === 'dark' ? 'bg-[#3b4142]' : ''}`}
            >
              {picture(i)}
              {panes.length > 1 && (
                <PaneHead title={title(pane)} picture={pictures[i].picture} note={note(i)} tried={!!pane.settings} />
              )}
            </div>
          ))}
        {mode === 'wipe' && (
          <div data-pane className="relative min-w-0 flex-1 overflow-hidden">
            {picture(0)}
            <div
              className="absolute inset-0 overflow-hidden bg-table"
              style={{ clipPath: `inset(0 0 0 ${split * 100}%)` }}
            >
              {panes.length > 1 && picture(1)}
            </div>
            <WipeHandle split={split} width={paneRoom.width} onChange={setSplit} />
            <PaneHead title={title(panes[0])} picture={pictures[0].picture} note="" tried={false} />
            {panes.length > 1 && (
              <PaneHead title={title(panes[1])} picture={pictures[1].picture} note={note(1)} tried right />
            )}
          </div>
        )}
        {mode === 'difference' && (
          <div data-pane className="relative min-w-0 flex-1 overflow-hidden">
            {differences[1] ? (
              <PixelsAt
                image={differences[1].image}
                box={boxOf(at, region, paneRoom)}
                label={`Where they differ: ${differenceWords(differences[1])}`}
              />
            ) : (
              <p className="absolute inset-x-0 top-1/2 text-center">Nothing to tell apart yet.</p>
            )}
            {panes.length > 1 && (
              <PaneHead
                title={`${title(panes[0])} against ${title(panes[1])}`}
                picture={pictures[1].picture}
                note={note(1)}
                tried
              />
            )}
          </div>
        )}
      </Stage>
      {panes.some((pane) => pane.settings) && (
        <div className="flex flex-none">
          {panes.map((pane, i) =>
            pane.settings ? (
              <div key={PLACES[i]} className="min-w-0 flex-1 border-line border-r last:border-r-0">
                <SettingStrip
                  output={outputOf(pane)}
                  settings={pane.settings}
                  onChange={(settings) => setPane(i, settings)}
                  onUse={() => use(pane)}
                  onClose={() => setMore(more.filter((_, n) => n !== i - 1))}
                />
              </div>
            ) : (
              <div
                key={PLACES[i]}
                className="flex h-11 min-w-0 flex-1 items-center border-line border-t border-r bg-paper px-3 text-ink-3"
              >
                {i === 0 ? 'as the output has it' : ''}
              </div>
            ),
          )}
        </div>
      )}
      <footer className="flex h-10 flex-none items-center gap-5 border-line border-t bg-rail px-4 font-mono text-[11.5px]">
        <span className="font-semibold">{FORMATS[file.format].title}</span>
        <span>
          {file.widthPx} × {file.heightPx} px
        </span>
        {FORMATS[file.format].raster ? (
          <span>{plain(file.dpi)} dpi</span>
        ) : (
          <span>
            {plain(file.widthPt)} × {plain(file.heightPt)} pt
          </span>
        )}
        <span>
          {pictures[0].picture?.bytes != null
            ? `${weight(pictures[0].picture.bytes)} (${pictures[0].picture.bytes.toLocaleString('en')} bytes)`
            : 'page' in file
              ? `page ${file.page} of one PDF`
              : 'weight to come'}
        </span>
        <span className="text-ink-2">shown at {Math.round(shownZoom * 100)} %</span>
        <ColoursIn piece={piece} />
        {!FORMATS[file.format].shown && (
          <span className="truncate font-sans text-ink-2">drawn from what the page is made of</span>
        )}
        <span className="ml-auto flex gap-4 font-sans">
          <button
            type="button"
            className="whitespace-nowrap font-semibold text-spruce"
            onClick={() => {
              session.select([pieceId]);
              navigate(`/projects/${session.id}/bench`);
            }}
          >
            To the Bench
          </button>
          {made.get(cellKey(pieceId, outputId))?.key && (
            <a
              className="whitespace-nowrap font-semibold text-spruce underline"
              href={`${fileUrl(session.id, made.get(cellKey(pieceId, outputId)) as Parameters<typeof fileUrl>[1])}&download`}
              download
            >
              Save this file
            </a>
          )}
        </span>
      </footer>
    </section>
  );
}

function PaneHead({
  title,
  picture,
  note,
  tried,
  right,
}: {
  title: string;
  picture: Picture | null;
  note: string;
  tried: boolean;
  right?: boolean;
}) {
  return (
    <div
      className={`pointer-events-none absolute top-0 flex h-9 items-center gap-2.5 border-line border-b bg-paper/95 px-3 ${right ? 'right-0' : 'left-0'} ${note || !right ? 'min-w-[38%]' : ''} ${tried ? 'border-t-[3px] border-t-spruce' : ''}`}
    >
      <strong className="whitespace-nowrap font-semibold">{title}</strong>
      <span className="font-mono text-[11.5px]">{picture?.bytes != null ? weight(picture.bytes) : ''}</span>
      <span className="ml-auto whitespace-nowrap text-ink-2">{note}</span>
    </div>
  );
}

/** The line between two pictures laid over each other. */
function WipeHandle({ split, width, onChange }: { split: number; width: number; onChange(split: number): void }) {
  const set = (next: number) => onChange(Math.min(1, Math.max(0, next)));
  return (
    <div
      role="slider"
      aria-label="Where the second file begins"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(split * 100)}
      tabIndex={0}
      className="absolute inset-y-0 z-10 w-4 -translate-x-1/2 cursor-ew-resize focus-visible:-outline-offset-2"
      style={{ left: split * width }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
        event.preventDefault();
        event.stopPropagation();
        set(split + (event.key === 'ArrowLeft' ? -0.02 : 0.02));
      }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.buttons === 0) return;
        const box = event.currentTarget.parentElement?.getBoundingClientRect();
        if (box) set((event.clientX - box.left) / box.width);
      }}
    >
      <span className="absolute inset-y-0 left-1/2 w-[2px] -translate-x-1/2 bg-ink" />
      <span className="absolute top-1/2 left-1/2 h-9 w-3 -translate-x-1/2 -translate-y-1/2 border border-ink bg-white" />
    </div>
  );
}

const MOST_COLOURS = 6;

/** The plain colours of a piece, the most used first. */
function ColoursIn({ piece }: { piece: Piece }) {
  const { doc } = useSession();
  const source = piece.record.kind === 'artboard' && piece.record.follows;
  const colours = coloursUsed(doc, piece.record.kind === 'artboard' ? sourcesOf(doc, piece.record) : [piece.region]);
  if (colours.length === 0) return null;
  return (
    <span
      className="flex items-center gap-1"
      title={`Colours${source ? ' of its source' : ''}: ${colours.map(({ colour }) => colour).join(', ')}`}
    >
      {colours.slice(0, MOST_COLOURS).map(({ colour }) => (
        <span key={colour} className="size-3.5 border border-line-strong" style={{ background: colour }} />
      ))}
      {colours.length > MOST_COLOURS && `+${colours.length - MOST_COLOURS}`}
    </span>
  );
}
