import { SVG_NS, XLINK_NS } from '../artwork/markup/xml';
import type { Fonts } from '../artwork/text/fonts';
import { outlineText } from '../artwork/text/outline-text';
import type { ProjectDocument } from '../document/document';
import { layerRecord, type Output } from '../document/records';
import type { ContactSheetSettings } from '../formats/contact-sheet';
import { printNumber } from '../geometry/matrix';
import type { Piece } from '../pieces/pieces';
import { contactSheetGrid } from '../plan/contact-sheet';
import { type ComposeSources, composeContent } from './compose';
import { fileIds } from './ids';
import { groundOf, lookFor } from './look';

const FAMILY = 'Schibsted Grotesk';
const INK = '#1b2021';
const QUIET = '#5c6466';
const LINE = '#d9dcd8';
const n = (value: number) => printNumber(value, 3);

/** A line of words on a page: where its baseline begins or ends, in px; set in the family that ships with the app. */
export type PageText = {
  text: string;
  x: number;
  y: number;
  sizePx: number;
  weight: 400 | 600;
  fill: string;
  end: boolean;
};

/** A page of a sheet: its drawing without words, and the words. */
export type ContactSheetPage = { svg: string; texts: readonly PageText[]; pictures: readonly string[] };

export type ContactSheetPlace = { heading: string; page: number; of: number };

/** How wide words are, in px, as the family that ships with the app sets them. */
function widthOf(fonts: Fonts, { text, sizePx, weight }: Pick<PageText, 'text' | 'sizePx' | 'weight'>): number {
  const font = fonts.find(FAMILY, weight, false)?.face.font;
  // Where there is none, as wide as letters are about.
  if (!font) return text.length * sizePx * 0.55;
  const advance = font.layout(text).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0);
  return (advance / font.unitsPerEm) * sizePx;
}

/** Words that fit in a width: shortened in the middle, so that names which begin alike are told apart. */
function fitted(fonts: Fonts, line: PageText, width: number): PageText {
  if (widthOf(fonts, line) <= width) return line;
  const letters = [...line.text];
  let [fits, over] = [0, letters.length];
  const cut = (keep: number) => {
    const head = Math.ceil(keep / 2);
    return `${letters.slice(0, head).join('').trimEnd()}…${letters
      .slice(letters.length - (keep - head))
      .join('')
      .trimStart()}`;
  };
  while (over - fits > 1) {
    const middle = (fits + over) >> 1;
    if (widthOf(fonts, { ...line, text: cut(middle) }) <= width) fits = middle;
    else over = middle;
  }
  return { ...line, text: cut(fits) };
}

const size = (length: number) => String(+length.toFixed(2));

/** The words of a page: its heading and number, and under each piece what the settings want. */
export function contactSheetTexts(
  pieces: readonly Piece[],
  settings: ContactSheetSettings,
  { heading, page, of }: ContactSheetPlace,
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
    const inset = ground ? 0 : grid.cellWidth * 0.08;
    const [w, h] = [grid.cellWidth - 2 * inset, grid.pictureHeight - 2 * inset];
    const scale = Math.min(w / region.width, h / region.height);
    const x = left + (grid.cellWidth - region.width * scale) / 2;
    const y = top + (grid.pictureHeight - region.height * scale) / 2;
    const box = `width="${n(region.width)}" height="${n(region.height)}"`;
    const clip = ids.idFor(`sheet ${i}`);
    const paint = ground ? `<rect ${box} fill="${ground}"/>` : '';
    const frame = `<rect x="${n(left)}" y="${n(top)}" width="${n(grid.cellWidth)}" height="${n(grid.pictureHeight)}" fill="none" stroke="${LINE}" stroke-width="0.75"/>`;
    return `<g transform="translate(${n(x)} ${n(y)}) scale(${printNumber(scale, 6)})"><clipPath id="${clip}"><rect ${box}/></clipPath>${defs}<g clip-path="url(#${clip})">${paint}${body}</g></g>${frame}`;
  });
  const [width, height] = [n(grid.widthPx), n(grid.heightPx)];
  return {
    svg: `<svg xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#ffffff"/>${cells.join('')}</svg>`,
    texts: contactSheetTexts(pieces, settings, place, sources.fonts),
    pictures: [...pictures],
  };
}

/** A page with its words drawn as outlines, for where it is a picture. */
export function withOutlines({ svg, texts }: ContactSheetPage, fonts: Fonts): string {
  const paths = texts.flatMap(({ text, x, y, sizePx, weight, fill, end }) => {
    const layer = layerRecord.parse({
      id: 'words',
      kind: 'layer',
      parentId: 'root',
      order: 'a0',
      tag: 'text',
      attrs: {
        x: n(x),
        y: n(y),
        'font-family': FAMILY,
        'font-size': n(sizePx),
        'font-weight': String(weight),
        'text-anchor': end ? 'end' : 'start',
      },
      text: [{ text, attrs: {} }],
    });
    return outlineText(layer, {}, fonts).runs.flatMap(({ d }) => (d ? [`<path d="${d}" fill="${fill}"/>`] : []));
  });
  return svg.replace(/<\/svg>$/, `${paths.join('')}</svg>`);
}
