import { refuse } from '../../basics/problem';
import { byOrder, DEFS, ProjectDocument, ROOT } from '../../document/document';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { type Layer, layerRecord } from '../../document/records';
import {
  IDENTITY,
  invert,
  isIdentity,
  MATRIX_LIMIT,
  multiply,
  parseTransform,
  printNumber,
  transformBounds,
  translate,
} from '../../geometry/matrix';
import { viewBoxTransform } from '../../geometry/viewport';
import { layerBounds } from '../bounds/bounds';
import { type Told, teller } from '../markup/told';
import type { StoredBlob } from '../pictures/pictures';
import { settleStrokes } from './non-scaling';
import { ownSize, parseSvg } from './parse-svg';
import { EDGE_NAME } from './picture-edge';
import { resolveTree } from './resolve';
import { toLayers } from './to-layers';

export type ReadArtwork = {
  /** The file's own size in px; its artwork lies from 0, 0. */
  width: number;
  height: number;
  /** All layers, definitions among them; `rootId` is the group that holds the artwork. */
  layers: Layer[];
  rootId: string;
  blobs: StoredBlob[];
  /** What was left out or changed. */
  dropped: Told[];
};

/**
 * Reads one SVG file (SVG 1.1 or 2) into layers. Nothing the file refers to is ever fetched.
 * Throws a `Refusal` that names the file and the place when it cannot be read.
 */
export function readSvg(input: Uint8Array | string, file: string): ReadArtwork {
  const { tell, told } = teller();
  const root = parseSvg(input, file, tell);
  const own = ownSize(root, file);
  const { box } = own;
  let { width, height } = own;
  for (const [side, value] of Object.entries({ width, height }))
    if (value !== undefined && !(value <= MAX_SIDE)) tooLarge(file, value, side);
  const view = box ?? { x: 0, y: 0, width: width ?? 100, height: height ?? 100 };
  const { artwork, definitions } = resolveTree(root, file, tell, view);
  const { layers, blobs, rootId } = toLayers(artwork, definitions, ROOT, tell);
  const rootLayer = layers.find((layer) => layer.id === rootId) as Layer;

  if (box && width && height) {
    const transform = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
    if (!transform.every((value) => Math.abs(value) <= MATRIX_LIMIT))
      refuse('svg.size', `${file} has a viewBox that its size cannot show`, {
        where: file,
        accepted: 'a viewBox of about the size of the file',
      });
    if (!isIdentity(transform)) rootLayer.transform = transform;
  } else if (!width || !height) {
    const bounds = layerBounds(new ProjectDocument(layers), rootLayer.id);
    const x = Math.floor(bounds?.minX ?? 0);
    const y = Math.floor(bounds?.minY ?? 0);
    width = width ?? Math.max(1, Math.ceil(bounds?.maxX ?? 100) - x);
    height = height ?? Math.max(1, Math.ceil(bounds?.maxY ?? 100) - y);
    for (const [side, value] of Object.entries({ width, height }))
      if (!(value <= MAX_SIDE)) tooLarge(file, value, side);
    if (x || y) rootLayer.transform = [1, 0, 0, 1, -x, -y];
  }
  const turn = parseTransform(root.attrs.transform ?? '');
  if (turn && !isIdentity(turn)) {
    // The root turns around its middle, as a box of CSS does (CSS Transforms 1 §3).
    const around = multiply(multiply(translate(width / 2, height / 2), turn), translate(-width / 2, -height / 2));
    rootLayer.transform = multiply(around, rootLayer.transform ?? IDENTITY);
  }
  settleStrokes(layers, tell);
  if (!/^(visible|auto)$/i.test(root.attrs.overflow ?? '')) cutToPicture(layers, rootLayer, width, height);
  return { width, height, layers, rootId, blobs, dropped: told() };
}

/** How far artwork may reach over the edge before it is cut, in px: strokes are measured with some room. */
const OVER_THE_EDGE = 0.05;

/** Nothing of a file shows outside its own picture: what pokes out is clipped by the root group, where it can be taken off again (SVG 2 §8.7). */
function cutToPicture(layers: Layer[], root: Layer, width: number, height: number): void {
  const bounds = layerBounds(new ProjectDocument(layers), root.id);
  const inside =
    !bounds ||
    (bounds.minX >= -OVER_THE_EDGE &&
      bounds.minY >= -OVER_THE_EDGE &&
      bounds.maxX <= width + OVER_THE_EDGE &&
      bounds.maxY <= height + OVER_THE_EDGE);
  if (inside || 'clip-path' in root.attrs || 'mask' in root.attrs) return;
  const matrix = root.transform ?? IDENTITY;
  if (!(Math.abs(matrix[0] * matrix[3] - matrix[1] * matrix[2]) > 0)) return;
  // The clip is in the group's own units, its edge where the picture ends.
  const square = matrix[1] === 0 && matrix[2] === 0;
  const box = square
    ? transformBounds(invert(matrix), { minX: 0, minY: 0, maxX: width, maxY: height })
    : { minX: 0, minY: 0, maxX: width, maxY: height };
  const clip = layerRecord.parse({
    id: newId(),
    kind: 'layer',
    parentId: DEFS,
    order: orderAfterAll(layers),
    tag: 'clipPath',
    name: EDGE_NAME,
  });
  const print = (value: number) => printNumber(value, 9);
  const shape = {
    x: print(box.minX),
    y: print(box.minY),
    width: print(box.maxX - box.minX),
    height: print(box.maxY - box.minY),
  };
  const edge = layerRecord.parse({
    id: newId(),
    kind: 'layer',
    parentId: clip.id,
    order: 'a0',
    tag: 'rect',
    name: '',
    attrs: shape,
    transform: square ? undefined : invert(matrix),
  });
  layers.push(clip, edge);
  root.attrs = { ...root.attrs, 'clip-path': `url(#${clip.id})` };
}

const orderAfterAll = (layers: readonly Layer[]): string =>
  ordersAfter(lastOrder(layers.filter(({ parentId }) => parentId === DEFS).sort(byOrder)), 1)[0];

const MAX_SIDE = 100_000;
const tooLarge = (file: string, value: number, side: string): never =>
  refuse('svg.size', `${file} is ${value} px in ${side}`, { where: file, accepted: 'up to 100,000 px' });
