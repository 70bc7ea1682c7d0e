import { SVG_NS, XLINK_NS } from '../artwork/markup/xml';
import type { Fonts } from '../artwork/text/fonts';
import type { ProjectDocument } from '../document/document';
import type { Output } from '../document/records';
import type { ContactSheetSettings } from '../formats/contact-sheet';
import { printNumber } from '../geometry/matrix';
import type { Piece } from '../pieces/pieces';
import { contactSheetGrid, type SheetPart } from '../plan/contact-sheet';
import { type ComposeSources, composeContent } from './compose';
import { fileIds } from './ids';
import { groundOf, lookFor } from './look';
import { fitted, INK, type PageText, QUIET, RULE } from './page-words';
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
  if (part !== 'pieces')
    return [...texts, ...partOf(doc, part, settings).texts.map((line) => fitted(fonts, line, right - grid.left))];
  if (settings.captions === 'none') return texts;
  for (const [i, piece] of pieces.entries()) {
    const x = grid.left + (i % grid.columns) * grid.stepX;
    const y = grid.top + Math.floor(i / grid.columns) * grid.stepY + grid.pictureHeight;
    const line = { x, sizePx: 9.5, weight: 600, fill: INK, end: false } as const;
    put({ ...line, text: piece.name, y: y + 12 }, grid.cellWidth);
    const about = `${piece.number} · ${size(piece.region.width)} × ${size(piece.region.height)} px`;
    if (settings.captions === 'full')
      put({ ...line, text: about, y: y + 24, sizePx: 8.5, weight: 400, fill: QUIET }, grid.cellWidth);
  }
  return texts;
}

/** What stands on a page beside pieces. */
const partOf = (doc: ProjectDocument, part: Exclude<SheetPart, 'pieces'>, settings: ContactSheetSettings) =>
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
  const cells = pieces.map((piece, i) => {
    const { region } = piece;
    const left = grid.left + (i % grid.columns) * grid.stepX;
    const top = grid.top + Math.floor(i / grid.columns) * grid.stepY;
    const { defs, body, noticed } = composeContent(doc, piece, lookFor(output), sources, ids);
    for (const hash of noticed.blobHashes) pictures.add(hash);
    const ground = groundOf(doc, piece, output);
    const fills = !!ground && settings.grounds;
    const inset = ground && !fills ? 0 : 0.08 * Math.min(grid.cellWidth, grid.pictureHeight);
    const [w, h] = [grid.cellWidth - 2 * inset, grid.pictureHeight - 2 * inset];
    const scale = Math.min(w / region.width, h / region.height);
    const x = left + (grid.cellWidth - region.width * scale) / 2;
    const y = top + (grid.pictureHeight - region.height * scale) / 2;
    const box = `width="${n(region.width)}" height="${n(region.height)}"`;
    const clip = ids.idFor(`sheet ${i}`);
    const paint = ground && !fills ? `<rect ${box} fill="${ground}"/>` : '';
    const cell = `x="${n(left)}" y="${n(top)}" width="${n(grid.cellWidth)}" height="${n(grid.pictureHeight)}"`;
    const below = fills ? `<rect ${cell} fill="${ground}"/>` : '';
    const frame = `<rect ${cell} fill="none" stroke="${RULE}" stroke-width="0.75"/>`;
    return `${below}<g transform="translate(${n(x)} ${n(y)}) scale(${printNumber(scale, 6)})"><clipPath id="${clip}"><rect ${box}/></clipPath>${defs}<g clip-path="url(#${clip})">${paint}${body}</g></g>${frame}`;
  });
  if (place.part !== 'pieces') cells.push(partOf(doc, place.part, settings).svg);
  const [width, height] = [n(grid.widthPx), n(grid.heightPx)];
  return {
    svg: `<svg xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>${cells.join('')}</svg>`,
    texts: contactSheetTexts(doc, pieces, settings, place, sources.fonts),
    pictures: [...pictures],
  };
}
