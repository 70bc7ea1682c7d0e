import { SVG_NS, XLINK_NS } from '../artwork/markup/xml';
import type { Fonts } from '../artwork/text/fonts';
import type { ProjectDocument } from '../document/document';
import type { Output } from '../document/records';
import type { ContactSheetSettings } from '../formats/contact-sheet';
import { printNumber } from '../geometry/matrix';
import type { Piece } from '../pieces/pieces';
import { cellAt, contactSheetGrid, type SheetPart } from '../plan/contact-sheet';
import { type ComposeSources, composeContent } from './compose';
import { fileIds } from './ids';
import { lockupCells, lockupTexts } from './lockups-page';
import { groundToSee, lookFor } from './look';
import { fitted, INK, type PageText, QUIET } from './page-words';
import { inCell } from './sheet-cell';
import { coloursPage, filesPage } from './sheet-parts';

const n = (value: number) => printNumber(value, 3);

/** A page of a sheet: its drawing without words, and the words. */
export type ContactSheetPage = { svg: string; texts: readonly PageText[]; pictures: readonly string[] };

export type ContactSheetPlace = { heading: string; page: number; of: number; part: SheetPart };

const size = (length: number) => String(+length.toFixed(2));

/** The words of a page: its heading and number, and under each piece what the settings want. */
export function contactSheetTexts(
  doc: ProjectDocument,
  pieces: readonly Piece[],
  settings: ContactSheetSettings,
  { heading, page, of, part }: ContactSheetPlace,
  fonts: Fonts,
): PageText[] {
  const grid = contactSheetGrid(settings);
  const right = grid.widthPx - grid.left;
  const texts: PageText[] = [];
  const put = (line: PageText, width: number) => line.text && texts.push(fitted(fonts, line, width));
  const pages: PageText = {
    text: `${page} of ${of}`,
    x: right,
    y: grid.heightPx - grid.left,
    sizePx: 10,
    weight: 400,
    fill: QUIET,
    end: true,
  };
  put(
    { text: heading, x: grid.left, y: grid.left + 16, sizePx: 18, weight: 600, fill: INK, end: false },
    right - grid.left,
  );
  put(pages, 200);
  if (part !== 'pieces') {
    const lines = part === 'lockups' ? lockupTexts(doc, pieces, settings) : partOf(doc, part, settings).texts;
    return [...texts, ...lines.map(({ room = right - grid.left, ...line }) => fitted(fonts, line, room))];
  }
  if (settings.captions === 'none') return texts;
  for (const [i, piece] of pieces.entries()) {
    const cell = cellAt(i, grid);
    const [x, y] = [cell.x, cell.y + grid.pictureHeight];
    const line = { x, sizePx: 9.5, weight: 600, fill: INK, end: false } as const;
    put({ ...line, text: piece.name, y: y + 12 }, grid.cellWidth);
    const about = `${piece.number} · ${size(piece.region.width)} × ${size(piece.region.height)} px`;
    if (settings.captions === 'full')
      put({ ...line, text: about, y: y + 24, sizePx: 8.5, weight: 400, fill: QUIET }, grid.cellWidth);
  }
  return texts;
}

/** What stands on a page beside pieces. */
const partOf = (doc: ProjectDocument, part: 'colours' | 'files', settings: ContactSheetSettings) =>
  part === 'colours' ? coloursPage(doc, contactSheetGrid(settings)) : filesPage(doc, contactSheetGrid(settings));

/** The drawing of a page: each piece as large as its cell has room for, on its own ground, within its own edges. */
export function composeContactSheet(
  doc: ProjectDocument,
  pieces: readonly Piece[],
  output: Output,
  settings: ContactSheetSettings,
  place: ContactSheetPlace,
  sources: ComposeSources,
): ContactSheetPage {
  const grid = contactSheetGrid(settings);
  const ids = fileIds(false);
  const pictures = new Set<string>();
  const compose = (piece: Piece) => {
    const content = composeContent(doc, piece, lookFor(output), sources, ids);
    for (const hash of content.noticed.blobHashes) pictures.add(hash);
    return content;
  };
  const cells =
    place.part === 'lockups'
      ? lockupCells({ doc, pieces, output, settings, fonts: sources.fonts, ids, compose })
      : pieces.map((piece, i) => {
          const { x, y } = cellAt(i, grid);
          const { defs, body } = compose(piece);
          const ground = groundToSee(doc, piece, output);
          return inCell({
            box: { x, y, width: grid.cellWidth, height: grid.pictureHeight },
            region: piece.region,
            ground,
            fills: !!ground && settings.grounds,
            clip: ids.idFor(`sheet ${i}`),
            inner: defs + body,
          });
        });
  if (place.part === 'colours' || place.part === 'files') cells.push(partOf(doc, place.part, settings).svg);
  const [width, height] = [n(grid.widthPx), n(grid.heightPx)];
  return {
    svg: `<svg xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>${cells.join('')}</svg>`,
    texts: contactSheetTexts(doc, pieces, settings, place, sources.fonts),
    pictures: [...pictures],
  };
}
