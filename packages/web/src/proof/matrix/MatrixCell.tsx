import { CRISP_ENOUGH, type Finding, type Output, type Piece, type PlannedFile, type PlannedPage } from '@tolvik/core';
import type { MouseEvent } from 'react';
import type { ServerFile } from '../../api/types';
import { isMadeForDark } from '../../pictures/made-for-dark';
import { useOpenSession } from '../../project/session/context';
import { Shortened } from '../../ui/Shortened';
import { weight } from '../../ui/words';
import { FilePicture } from './FilePicture';

const CAPTION = 22;
/** A smaller cell has no room for how crisp it is, in CSS px. */
const LEAST_FOR_CRISP = { width: 110, height: 90 };

type Props = {
  piece: Piece;
  output: Output;
  file: PlannedFile | PlannedPage | undefined;
  made: ServerFile | undefined;
  width: number;
  height: number;
  active: boolean;
  /** Among the cells that Space switches at once. */
  inBlock: boolean;
  /** The share of its upright and level edges that lies on pixels; undefined for a large picture or one without. */
  crisp?: number;
  /** What a check found in this very file. */
  finding?: Finding;
  onPress(more: boolean): void;
  onMenu(event: MouseEvent): void;
  onOpen(): void;
  onSwitch(on: boolean): void;
};

/** One file: what it looks like, what it will be called, how heavy it is. */
export function MatrixCell({
  piece,
  output,
  file,
  made,
  width,
  height,
  active,
  inBlock,
  crisp,
  finding,
  onPress,
  onMenu,
  onOpen,
  onSwitch,
}: Props) {
  const follows = piece.specIds.includes(output.specId);
  const clashes = file && 'clashCount' in file ? file.clashCount : 0;
  const troubled = file && (file.problem || clashes > 0 || finding?.severity === 'error');
  const room = { width: width - 16, height: height - CAPTION - 12 };
  const onDark = isMadeForDark(useOpenSession().doc, piece.id);
  const name = file?.path.split('/').at(-1);
  return (
    <div
      id={`cell-${piece.id}-${output.id}`}
      role="gridcell"
      aria-selected={active}
      aria-label={
        file
          ? 'page' in file
            ? `page ${file.page} of ${file.path}`
            : file.path
          : follows
            ? `${piece.name}, off`
            : `${piece.name} does not follow this spec`
      }
      onClick={(event) => onPress(event.shiftKey)}
      onDoubleClick={() => file && onOpen()}
      onContextMenu={onMenu}
      className={`group relative flex flex-none flex-col border-line border-r ${file ? '' : follows ? 'hatched' : 'bg-rail'} ${inBlock ? 'bg-spruce-pale' : ''} ${active ? 'outline-2 outline-spruce -outline-offset-2' : ''} ${troubled ? 'outline-2 outline-bad -outline-offset-2' : finding ? 'outline-2 outline-warn -outline-offset-2' : ''}`}
      style={{ width }}
      title={finding?.message}
    >
      {!piece.problem && (
        <input
          type="checkbox"
          checked={!!file}
          onChange={(event) => onSwitch(event.target.checked)}
          onClick={(event) => event.stopPropagation()}
          aria-label={follows ? `Make ${name ?? piece.name}` : `Make ${piece.name} by this output alone`}
          className="absolute top-1.5 left-1.5 z-10 size-[15px] accent-spruce opacity-0 focus-visible:opacity-100 group-hover:opacity-100"
          title={follows ? undefined : 'Make this file alone; the piece gets nothing else of the spec'}
        />
      )}
      {file && crisp !== undefined && width >= LEAST_FOR_CRISP.width && height >= LEAST_FOR_CRISP.height && (
        <span
          className={`absolute top-1 right-2 bg-white/80 font-mono text-[10.5px] ${crisp < CRISP_ENOUGH ? 'text-warn' : 'text-ink-3'}`}
          title={`${Math.floor(crisp * 100)} % of its upright and level edges lie on pixels`}
        >
          {Math.floor(crisp * 100)} % crisp
        </span>
      )}
      {!file && <span className="m-auto bg-white/80 px-1 text-ink-3">{follows ? 'off' : ''}</span>}
      {file && (
        <>
          <span className="flex min-h-0 flex-1 items-center justify-center pt-1.5">
            {file.problem ? (
              <span className="px-2 text-center text-bad text-note">! {file.problem}</span>
            ) : made?.key ? (
              <span className={`inline-flex ${onDark ? 'checker-dark' : 'checker'} has-[img:not([data-here])]:making`}>
                <FilePicture file={file} made={made} room={room} alt={piece.name} />
              </span>
            ) : (
              <span
                className="making"
                title="Being made"
                style={{ width: Math.min(room.width, file.widthPx), height: Math.min(room.height, file.heightPx) }}
              />
            )}
          </span>
          <span
            className="flex items-baseline justify-between gap-1 px-2 pb-1 font-mono text-[10.5px]"
            style={{ height: CAPTION - 4 }}
          >
            <Shortened
              text={`${clashes > 0 ? '! ' : ''}${'page' in file ? `p. ${file.page} of ${name}` : name}`}
              className={clashes > 0 ? 'font-semibold text-bad' : ''}
              title={clashes > 0 ? `${file.path}: taken by ${clashes + 1} files` : file.path}
            />
            <span className="shrink-0 text-ink-3">{made?.bytes != null ? weight(made.bytes) : ''}</span>
          </span>
        </>
      )}
    </div>
  );
}
