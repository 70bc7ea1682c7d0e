import type { Artboard, Piece, Region } from '@tolvik/core';
import { toScreen } from './camera';
import { COLOURS, MONO_ADVANCE, NAME_FONT, NOTE_FONT } from './look';
import type { PlaneView } from './plane-view';

const MARK = 9;
const MARK_GAP = 3;
/** How far marks reach out of their artboard, with the width of their lines, in CSS px. */
export const REACH_OF_MARKS = MARK_GAP + 2;
export const TICKET_HEIGHT = 20;

const checkers = new Map<number, CanvasPattern | null>();
function checker(context: CanvasRenderingContext2D, dpr: number): CanvasPattern | string {
  let pattern = checkers.get(dpr);
  if (pattern === undefined) {
    const tile = document.createElement('canvas');
    const side = Math.round(6 * dpr);
    tile.width = tile.height = side * 2;
    const c = tile.getContext('2d') as CanvasRenderingContext2D;
    c.fillStyle = '#fff';
    c.fillRect(0, 0, side * 2, side * 2);
    c.fillStyle = '#e4e5e1';
    c.fillRect(side, 0, side, side);
    c.fillRect(0, side, side, side);
    pattern = context.createPattern(tile, 'repeat');
    checkers.set(dpr, pattern);
  }
  return pattern ?? '#fff';
}

export function drawGround(
  context: CanvasRenderingContext2D,
  { camera, dpr, backdrop, ownBackdrop }: PlaneView,
  rect: Region,
  background: string | null,
): void {
  const [x, y] = toScreen(camera, rect.x, rect.y);
  const w = rect.width * camera.scale;
  const h = rect.height * camera.scale;
  if (background?.length !== 7 && background?.length !== 4) {
    if (backdrop === 'checker' && Math.min(w, h) > 10) {
      const pattern = checker(context, dpr);
      if (typeof pattern !== 'string')
        pattern.setTransform(
          new DOMMatrix([1 / dpr, 0, 0, 1 / dpr, Math.round(x * dpr) / dpr, Math.round(y * dpr) / dpr]),
        );
      context.fillStyle = pattern;
    } else
      context.fillStyle = backdrop === 'checker' ? '#f1f1ef' : backdrop === 'own' ? ownBackdrop : COLOURS[backdrop];
    context.fillRect(x, y, w, h);
  }
  if (background) {
    context.fillStyle = background;
    context.fillRect(x, y, w, h);
  }
}

/** Four crop marks standing just outside the corners of each artboard. */
export function drawMarks(context: CanvasRenderingContext2D, { camera }: PlaneView, rects: readonly Region[]): void {
  context.beginPath();
  for (const rect of rects) {
    const w = rect.width * camera.scale;
    const h = rect.height * camera.scale;
    const mark = Math.min(MARK, w / 3, h / 3);
    if (mark < 1.5) continue;
    const [sx, sy] = toScreen(camera, rect.x, rect.y);
    const x0 = Math.round(sx) - MARK_GAP + 0.5;
    const y0 = Math.round(sy) - MARK_GAP + 0.5;
    const x1 = Math.round(sx + w) + MARK_GAP - 0.5;
    const y1 = Math.round(sy + h) + MARK_GAP - 0.5;
    context.moveTo(x0, y0 + mark);
    context.lineTo(x0, y0);
    context.lineTo(x0 + mark, y0);
    context.moveTo(x1 - mark, y0);
    context.lineTo(x1, y0);
    context.lineTo(x1, y0 + mark);
    context.moveTo(x1, y1 - mark);
    context.lineTo(x1, y1);
    context.lineTo(x1 - mark, y1);
    context.moveTo(x0 + mark, y1);
    context.lineTo(x0, y1);
    context.lineTo(x0, y1 - mark);
  }
  context.strokeStyle = COLOURS.ink;
  context.lineWidth = 1;
  context.stroke();
}

/** Room for the ticket below an artboard in CSS px, which may run into the gap beside it; 0 where it has none. */
export function ticketWidth({ camera }: PlaneView, rect: Region): number {
  const own = rect.width * camera.scale;
  const width = own < 160 ? own + Math.min(36, 13 * camera.scale) : own;
  return width < 40 ? 0 : width;
}

export function drawTicket(context: CanvasRenderingContext2D, view: PlaneView, artboard: Artboard, rect: Region): void {
  const { camera, scene, selection } = view;
  const width = ticketWidth(view, rect);
  if (width === 0 || view.renaming === artboard.id) return;
  const [x, y] = toScreen(camera, rect.x, rect.y + rect.height);
  const piece = scene.pieceById.get(artboard.id) as Piece;
  const left = Math.round(x);
  const base = Math.round(y) + 17;
  const trouble = view.trouble.get(artboard.id);
  let at = left;
  context.font = NOTE_FONT;
  context.fillStyle = COLOURS.ink2;
  if (width >= 72) {
    const number = String(piece.number).padStart(2, '0');
    context.fillText(number, at, base);
    at += (number.length + 0.7) * MONO_ADVANCE;
  }
  const files = view.fileCounts.get(artboard.id) ?? 0;
  const note = trouble
    ? '!'
    : width >= 128
      ? `${artboard.on ? (files === 1 ? '1 file' : `${files} files`) : 'off'}`
      : width >= 92
        ? artboard.on
          ? String(files)
          : 'off'
        : '';
  const noteWidth = note.length * MONO_ADVANCE;
  const room = Math.floor((left + width - at - (note ? noteWidth + 6 : 0)) / MONO_ADVANCE);
  context.font = NAME_FONT;
  context.fillStyle = selection.has(artboard.id) ? COLOURS.spruce : COLOURS.ink;
  const name = inMiddle(artboard.name, room);
  context.fillText(name, at, base);
  if (view.artworkStays && selection.has(artboard.id) && !artboard.follows) {
    context.fillStyle = COLOURS.ink2;
    context.fillText('artwork stays', at + (name.length + 2) * MONO_ADVANCE, base);
  } else if (view.edition?.artboardId === artboard.id) {
    context.fillStyle = COLOURS.ochre;
    context.fillText(`showing ${view.edition.name}`, at + (name.length + 2) * MONO_ADVANCE, base);
  }
  if (note) {
    context.font = trouble ? NAME_FONT : NOTE_FONT;
    context.fillStyle = trouble ? COLOURS.bad : COLOURS.ink2;
    // A flag stands by its own name: at the end of a ticket it would stand before the next one's.
    context.fillText(note, trouble ? at + (name.length + 0.5) * MONO_ADVANCE : left + width - noteWidth, base);
  }
}

export function drawSlice(
  context: CanvasRenderingContext2D,
  { camera, renaming }: PlaneView,
  slice: Piece,
  rect: Region,
): void {
  const [sx, sy] = toScreen(camera, rect.x, rect.y);
  const x = Math.round(sx) + 0.5;
  const y = Math.round(sy) + 0.5;
  const w = Math.round(rect.width * camera.scale) - 1;
  const h = Math.round(rect.height * camera.scale) - 1;
  context.strokeStyle = COLOURS.cut;
  context.lineWidth = 1;
  context.setLineDash([5, 3]);
  const record = slice.record.kind === 'slice' ? slice.record : null;
  if (record?.shape.kind === 'ellipse') {
    context.beginPath();
    context.ellipse(x + w / 2, y + h / 2, Math.max(0, w / 2), Math.max(0, h / 2), 0, 0, Math.PI * 2);
    context.stroke();
  } else if (record?.shape.kind === 'rounded') {
    context.beginPath();
    context.roundRect(x, y, w, h, record.shape.radius * camera.scale);
    context.stroke();
  } else context.strokeRect(x, y, w, h);
  context.setLineDash([]);
  if (w < 34 || renaming === slice.id) return;
  context.font = NAME_FONT;
  const room = Math.max(1, Math.floor(Math.max(w, 60) / MONO_ADVANCE) - 2);
  const name = inMiddle(slice.name, room);
  const tab = name.length * MONO_ADVANCE + 10;
  const inside = h > 40 && w > 60;
  context.fillStyle = slice.on ? COLOURS.cut : COLOURS.grey;
  context.fillRect(x - 0.5, inside ? y - 0.5 : y - 18, tab, 17.5);
  context.fillStyle = '#fff';
  context.fillText(name, x + 4.5, inside ? y + 12.5 : y - 5);
}

/** A name of so many characters at the most, shortened in its middle, so that names that begin alike can be told apart. */
function inMiddle(name: string, most: number): string {
  if (name.length <= most) return name;
  const end = Math.floor(Math.max(0, most - 1) / 2);
  return `${name.slice(0, Math.max(1, most - 1 - end))}…${end > 0 ? name.slice(-end) : ''}`;
}
