import { type ContactSheetSettings, PAPERS } from '../formats/contact-sheet';
import { PX_PER_MM as MM } from '../geometry/sizes';

const MARGIN = 14 * MM;
/** Room for the heading above and the number of the page below, in px. */
const HEAD = 12 * MM;
const FOOT = 8 * MM;
const GAP = 4 * MM;
/** Height of the title above a page of lockups, in px. */
const TITLE = 18;
/** Height of the lines under a piece, in px. */
const CAPTIONS = { none: 0, names: 16, full: 28 } as const;
/** How much higher cells may be, so that rows fill a page. */
const HIGHER = 1.3;
/** How high a cell is to its width, where grounds fill it. */
const ON_GROUND = 2 / 3;

/** Lengths of a page of a contact sheet, in px of 1/96 inch; a piece stands in the upper part of its cell, its words below. */
export type ContactSheetGrid = {
  widthPx: number;
  heightPx: number;
  left: number;
  top: number;
  columns: number;
  rows: number;
  cellWidth: number;
  pictureHeight: number;
  stepX: number;
  stepY: number;
};

/** What stands on a page: pieces, lockups with their measures, the colours of the project, or its files. */
export type SheetPart = 'pieces' | 'lockups' | 'colours' | 'files';

/** The parts that follow the pieces, a page each. */
export const partsAfter = ({ colours, files }: ContactSheetSettings): SheetPart[] => [
  ...(colours ? (['colours'] as const) : []),
  ...(files ? (['files'] as const) : []),
];

/** The grid of a page: cells about as high as wide, as many rows as the paper has room for, at least one. */
export function contactSheetGrid({
  paper,
  landscape,
  columns,
  captions,
  grounds,
}: ContactSheetSettings): ContactSheetGrid {
  const { widthMm, heightMm } = PAPERS[paper];
  const [widthPx, heightPx] = (landscape ? [heightMm, widthMm] : [widthMm, heightMm]).map(
    (mm) => +(mm * MM).toFixed(3),
  );
  const room = { width: widthPx - 2 * MARGIN, height: heightPx - 2 * MARGIN - HEAD - FOOT };
  const cellWidth = (room.width - (columns - 1) * GAP) / columns;
  const words = CAPTIONS[captions];
  const high = grounds ? cellWidth * ON_GROUND : cellWidth;
  const rows = Math.max(1, Math.floor((room.height + GAP) / (high + words + GAP)));
  // What a full page leaves over goes to the cells, then between the rows: its last row ends where the paper's margin is.
  const stepY = (room.height + GAP) / rows;
  return {
    widthPx,
    heightPx,
    left: MARGIN,
    top: MARGIN + HEAD,
    columns,
    rows,
    cellWidth,
    pictureHeight: Math.min(high * HIGHER, stepY - GAP - words),
    stepX: cellWidth + GAP,
    stepY,
  };
}

/** Height of the lines under a lockup, in px. */
const MEASURES = 58;

/** The grid of a page of lockups: six on A4, below the title of the page, with room for their measures below each. */
export function lockupGrid(settings: ContactSheetSettings): ContactSheetGrid {
  const grid = contactSheetGrid({ ...settings, columns: settings.landscape ? 3 : 2, captions: 'none', grounds: true });
  const top = grid.top + TITLE;
  const high = grid.heightPx - top - MARGIN - FOOT;
  const rows = Math.max(1, Math.floor((high + GAP) / (grid.cellWidth * ON_GROUND + MEASURES + GAP)));
  const stepY = (high + GAP) / rows;
  const pictureHeight = Math.min(grid.cellWidth * ON_GROUND * HIGHER, stepY - GAP - MEASURES);
  return { ...grid, top, rows, stepY, pictureHeight };
}

/** The upper left corner of a cell of a page, by its place on it. */
export const cellAt = (i: number, { left, top, columns, stepX, stepY }: ContactSheetGrid) => ({
  x: left + (i % columns) * stepX,
  y: top + Math.floor(i / columns) * stepY,
});

/** A list divided into what stands on each page. */
export function onPages<T>(list: readonly T[], { columns, rows }: ContactSheetGrid): T[][] {
  const pages: T[][] = [];
  for (let at = 0; at < list.length; at += columns * rows) pages.push(list.slice(at, at + columns * rows));
  return pages;
}
