import { outputRecord } from '../document/records';
import { printNumber } from '../geometry/matrix';
import { type Piece, pieces } from '../pieces/pieces';
import { composeContent } from './compose';
import type { Composer } from './composer';
import { fileIds } from './ids';
import { groundToSee, lookFor } from './look';

export const COVER = { width: 376, height: 196, ground: '#ffffff' };
const MAX_SHOWN = 32;

const asIs = outputRecord.parse({
  id: 'cover',
  kind: 'output',
  specId: 'cover',
  order: 'a0',
  size: { kind: 'factor', factor: 1 },
  settings: { format: 'png' },
});

/** A contact sheet of a project's first pieces, as SVG of `COVER` size, with the hashes of the pictures in it; pieces with a ground fill their cell with it. */
export function composeCover(composer: Composer): { svg: string; pictures: readonly string[] } {
  const { doc } = composer;
  const all = pieces(doc).filter((piece) => !piece.problem && piece.on);
  const of = (kind: Piece['kind'], list = all) => list.filter((piece) => piece.kind === kind);
  const drawn = pieces(doc).filter((piece) => !piece.problem);
  const choices = [of('edition').length > 1 ? of('edition') : [], of('artboard'), of('artboard', drawn), of('slice')];
  const shown = (choices.find((list) => list.length > 0) ?? []).slice(0, MAX_SHOWN);
  const aspect =
    shown.length > 0 ? shown.reduce((sum, { region }) => sum + region.width / region.height, 0) / shown.length : 1;
  let columns = 1;
  let best = 0;
  for (let n = 1; n <= shown.length; n++) {
    const rows = Math.ceil(shown.length / n);
    const side = Math.min(COVER.width / n / aspect, COVER.height / rows);
    if (side > best) [best, columns] = [side, n];
  }
  const rows = Math.max(1, Math.ceil(shown.length / columns));
  const [w, h] = [COVER.width / columns, COVER.height / rows];
  const ids = fileIds(false);
  const pictures = new Set<string>();
  const cells = shown.map((piece, i) => {
    const x = (i % columns) * w;
    const y = Math.floor(i / columns) * h;
    const ground = groundToSee(doc, piece, asIs);
    const { region } = piece;
    const { defs, body, noticed } = composeContent(doc, piece, lookFor(asIs), composer.sources, ids);
    for (const hash of noticed.blobHashes) pictures.add(hash);
    const inset = ground ? 0.06 : shown.length === 1 ? 0.04 : 0.2;
    const fit = Math.min((w * (1 - inset)) / region.width, (h * (1 - inset)) / region.height, ground ? Infinity : 4);
    const n = (value: number) => printNumber(value, 4);
    const place = `translate(${n(x + (w - region.width * fit) / 2)} ${n(y + (h - region.height * fit) / 2)}) scale(${n(fit)})`;
    const clip = ids.idFor(`cover ${i}`);
    const paint = ground ? `<rect x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}" fill="${ground}"/>` : '';
    return `${paint}<clipPath id="${clip}"><rect width="${n(region.width)}" height="${n(region.height)}"/></clipPath><g transform="${place}">${defs}<g clip-path="url(#${clip})">${body}</g></g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${COVER.width * 2}" height="${COVER.height * 2}" viewBox="0 0 ${COVER.width} ${COVER.height}"><rect width="${COVER.width}" height="${COVER.height}" fill="${COVER.ground}"/>${cells.join('')}</svg>`;
  return { svg, pictures: [...pictures] };
}
