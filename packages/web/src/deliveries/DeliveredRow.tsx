import { FORMATS } from '@tolvik/core';
import type { DeliveredMeasure, DeliveryDetail } from '../api/types';
import { openMenu } from '../commands/menu';
import { isMadeForDark } from '../pictures/made-for-dark';
import { useOpenSession } from '../project/session/context';
import { Shortened } from '../ui/Shortened';
import { plain, weight } from '../ui/words';
import { menuOf } from './delivered-menu';
import { pictureOf } from './picture-of';

type File = DeliveryDetail['files'][number];

function Picture({ deliveryId, file, faded }: { deliveryId: string; file: NonNullable<File['now']>; faded?: boolean }) {
  const onDark = isMadeForDark(useOpenSession().doc, file.pieceId);
  return (
    <span
      className={`${onDark ? 'checker-dark' : 'checker'} flex size-[44px] items-center justify-center border border-line ${faded ? 'opacity-45' : ''}`}
    >
      {file.state === 'made' ? (
        <img src={pictureOf(deliveryId, file)} alt="" loading="lazy" className="max-h-[40px] max-w-[40px]" />
      ) : (
        file.state === 'waiting' && <span className="making size-[30px]" title="Being made" />
      )}
    </span>
  );
}

/** One delivered file: picture now and before, asked against real size, weight, what became of it. */
export function DeliveredRow({
  file,
  refused,
  deliveryId,
  top,
  index,
  onOpen,
}: {
  file: File;
  /** What intakes said that did not take it. */
  refused?: string;
  deliveryId: string;
  top: number;
  index: number;
  /** Opens it large. */
  onOpen(): void;
}) {
  const { now, before, change, path } = file;
  const shown = now ?? before;
  if (!shown) return null;
  const measured = shown.measured;
  const right =
    measured &&
    Math.abs(measured.widthPx - shown.widthPx) < 0.01 &&
    Math.abs(measured.heightPx - shown.heightPx) < 0.01;
  const state =
    now?.state === 'failed'
      ? { words: `failed: ${now.error}`, colour: 'text-bad' }
      : now?.state === 'waiting'
        ? { words: 'waiting', colour: 'text-ink-3' }
        : refused
          ? { words: refused, colour: 'text-bad' }
          : STATES[change];
  return (
    <div
      role="row"
      onContextMenu={(event) => openMenu(event, menuOf(file, deliveryId, onOpen))}
      aria-rowindex={index + 1}
      className="absolute inset-x-0 flex h-14 items-center gap-4 border-line border-b px-5"
      style={{ top }}
    >
      <span className="w-[92px] shrink-0" role="cell">
        <button type="button" className="flex gap-1" onClick={onOpen} aria-label={`Look at ${path}`}>
          {before && change !== 'same' && <Picture deliveryId={before.delivery.id} file={before} faded />}
          {now && <Picture deliveryId={deliveryId} file={now} />}
        </button>
      </span>
      <span
        role="cell"
        className={`flex min-w-0 max-w-[640px] flex-[2] font-mono font-semibold text-[11.5px] ${change === 'gone' ? 'text-ink-3 line-through' : ''}`}
      >
        <Shortened text={path} title={change === 'renamed' ? `${path}, until now ${before?.path}` : path} />
        {change === 'renamed' && <span className="ml-2 truncate font-normal text-ink-3">until now {before?.path}</span>}
      </span>
      <span role="cell" className="w-36 shrink-0 font-mono text-[11.5px]">
        {measured && right && (
          <>
            {shown.widthPx} × {shown.heightPx} <span className="text-spruce">✓</span>
          </>
        )}
        {measured && !right && (
          <span className="text-bad">
            {plain(measured.widthPx)} × {plain(measured.heightPx)}, asked {shown.widthPx} × {shown.heightPx}
          </span>
        )}
        {!measured && (
          <span className="text-ink-3">
            asked {shown.widthPx} × {shown.heightPx}
          </span>
        )}
      </span>
      <span role="cell" className="w-40 shrink-0 truncate text-ink-2 text-note">
        {measured && factsOf(measured, FORMATS[shown.format].raster)}
      </span>
      <span role="cell" className="w-20 shrink-0 text-right font-mono text-[11.5px]">
        {measured && change !== 'gone' ? weight(measured.bytes) : ''}
      </span>
      <span
        role="cell"
        className={`min-w-56 flex-1 font-semibold ${refused ? 'line-clamp-2 text-note leading-[1.3]' : 'truncate'} ${state.colour}`}
        title={state.words}
      >
        {state.words}
      </span>
    </div>
  );
}

/** What was measured beside the size: "144 dpi, palette, see-through", "3 pages". */
function factsOf({ dpi, alpha, colourType, pages }: DeliveredMeasure, raster: boolean): string {
  return [
    raster && dpi !== null && `${Math.round(dpi)} dpi`,
    raster && colourType,
    raster && alpha && 'see-through',
    pages !== undefined && pages > 1 && `${pages} pages`,
  ]
    .filter(Boolean)
    .join(', ');
}

const STATES = {
  same: { words: 'same', colour: 'text-ink-3' },
  changed: { words: 'changed', colour: 'text-ochre' },
  renamed: { words: 'renamed', colour: 'text-ochre' },
  new: { words: 'new', colour: 'text-spruce' },
  gone: { words: 'no longer made', colour: 'text-bad' },
};
