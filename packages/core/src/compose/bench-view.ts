import type { ProjectDocument } from '../document/document';
import { outputRecord, sliceRecord } from '../document/records';
import type { Region } from '../geometry/region';
import { type Piece, pieceAlone } from '../pieces/pieces';
import { type ComposeSources, composeContent, composeFile } from './compose';
import { groundToSee } from './look';
import { withPictures } from './write-layers';

/** One bench item as SVG: `crop` (plane px) drawn at `widthPx × heightPx`. */
export function composeBenchItem(
  doc: ProjectDocument,
  layerId: string,
  crop: Region,
  widthPx: number,
  heightPx: number,
  sources: ComposeSources,
): string {
  const record = { ...BENCH_SLICE, source: { kind: 'layer' as const, layerId } };
  const piece = pieceAlone(record, crop);
  const content = composeContent(
    doc,
    piece,
    { purpose: 'flat', keepNames: false, recolour: { kind: 'asDrawn' }, grounds: false, withBenchOnly: true },
    sources,
  );
  return withPictures(composeFile(content, fileOf(crop, widthPx, heightPx), null, crop), sources.pictures);
}

/** An SVG in which pictures are only named, the names, and its size. */
export type NamedView = { svg: string; pictures: readonly string[]; widthPx: number; heightPx: number };

/** A piece as it comes out in its own colours and on its own ground, as an SVG of the largest size within a box. */
export function viewOfPiece(
  doc: ProjectDocument,
  piece: Piece,
  within: { widthPx: number; heightPx: number },
  sources: ComposeSources,
): NamedView {
  const { region } = piece;
  const content = composeContent(
    doc,
    piece,
    { purpose: 'flat', keepNames: false, recolour: { kind: 'asDrawn' }, grounds: true },
    sources,
  );
  const scale = Math.min(within.widthPx / region.width, within.heightPx / region.height);
  const [widthPx, heightPx] = [
    Math.max(1, Math.round(region.width * scale)),
    Math.max(1, Math.round(region.height * scale)),
  ];
  const svg = composeFile(content, fileOf(region, widthPx, heightPx), groundToSee(doc, piece, AS_IS), region);
  return { svg, pictures: [...content.noticed.blobHashes], widthPx, heightPx };
}

/** The same with its pictures put in. */
export const composeBenchPiece = (
  doc: ProjectDocument,
  piece: Piece,
  within: { widthPx: number; heightPx: number },
  sources: ComposeSources,
): string => withPictures(viewOfPiece(doc, piece, within, sources).svg, sources.pictures);

const BENCH_SLICE = sliceRecord.parse({
  id: 'bench',
  kind: 'slice',
  order: 'a0',
  name: 'bench',
  source: { kind: 'everything', to: 'artwork' },
});
const AS_IS = outputRecord.parse({
  id: 'view',
  kind: 'output',
  specId: 'view',
  order: 'a0',
  size: { kind: 'factor', factor: 1 },
  settings: { format: 'png' },
});

const fileOf = (view: Region, widthPx: number, heightPx: number) => ({
  view,
  widthPx,
  heightPx,
  scale: widthPx / view.width,
  dpi: 96,
  pieceId: '',
  outputId: '',
  format: 'png' as const,
  path: '',
  widthPt: 0,
  heightPt: 0,
});
