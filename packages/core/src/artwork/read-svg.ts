import { byOrder, DEFS, ProjectDocument, ROOT } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Layer, layerRecord, MATRIX_LIMIT } from '../document/records';
import { refuse } from '../problem';
import { layerBounds } from './bounds';
import { resolveStyles } from './computed-style';
import { LIMITS } from './limits';
import { IDENTITY, invert, isIdentity, multiply, parseTransform, printNumber, transformBounds, translate } from './matrix';
import { settleStrokes } from './non-scaling';
import { EDGE_NAME } from './picture-edge';
import type { Blob } from './pictures';
import { resolveTree } from './resolve';
import { toLayers } from './to-layers';
import { parseLength, parseViewBox, viewBoxTransform } from './viewport';
import { parseXml, type XmlElement } from './xml';

export type ReadArtwork = {
  /** The file's own size in px; its artwork lies from 0, 0. */
  width: number;
  height: number;
  /** All layers, definitions among them; `rootId` is the group that holds the artwork. */
  layers: Layer[];
  rootId: string;
  blobs: Blob[];
  /** What was left out, in a few words each, with how often. */
  dropped: { what: string; count: number }[];
};

/** Bytes as text by byte order mark or declaration, else UTF-8 (XML 1.0 §4.3.3, appendix F). */
function decode(bytes: Uint8Array, file: string): string {
  if (bytes.length === 0) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (bytes.length > LIMITS.fileBytes) {
    refuse('svg.bytes', `${file} is ${(bytes.length / 1048576).toFixed(0)} MB`, { where: file, accepted: `SVG files up to ${LIMITS.fileBytes / 1048576} MB` });
  }
  const encoding = encodingOf(bytes);
  const text = new TextDecoder(encoding).decode(bytes);
  // Some platforms take Windows-1252 for ISO-8859-1, which leaves control characters (Encoding Standard §9).
  return LATIN.test(encoding) ? text.replace(/[\x80-\x9f]/g, (letter) => WINDOWS_1252[letter.charCodeAt(0) - 0x80] ?? letter) : text;
}

const LATIN = /^(windows-1252|iso-8859-1|us-ascii|latin1)$/;
/** What Windows-1252 has where ISO-8859-1 has control characters, 0x80 to 0x9f. */
const WINDOWS_1252 = [...'€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'];

/** Encodings that a declaration may name, as the platform knows them (Encoding Standard §4.2). */
const DECLARED = /^<\?xml[^>]*?\bencoding\s*=\s*["'](utf-8|us-ascii|iso-8859-\d{1,2}|latin1|windows-125\d|koi8-[ru]|macintosh|shift_jis|euc-jp|euc-kr|gb2312|gbk|gb18030|big5)["']/i;

function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  if (bytes[0] === 0xef && bytes[1] === 0xbb) return 'utf-8';
  if (bytes[0] === 0x3c && bytes[1] === 0) return 'utf-16le';
  if (bytes[0] === 0 && bytes[1] === 0x3c) return 'utf-16be';
  let head = '';
  for (const byte of bytes.subarray(0, 200)) head += String.fromCharCode(byte);
  return DECLARED.exec(head)?.[1].toLowerCase() ?? 'utf-8';
}

/** The root `<svg>` of a file, style sheets resolved; refuses what is not SVG. */
export function parseSvg(input: Uint8Array | string, file: string, tell: (what: string) => void): XmlElement {
  const text = (typeof input === 'string' ? input : decode(input, file)).replace(/^\ufeff/, '').trimStart();
  if (!text) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (!text.startsWith('<')) refuse('svg.not', `${file} is not SVG: it does not start with "<"`, { where: file, accepted: 'an SVG file' });
  const root = parseXml(text, file);
  if (root.tag !== 'svg' || root.foreign) refuse('svg.not', `${file} is not SVG: its first element is <${root.tag}>`, { where: file, accepted: 'a file whose first element is <svg>' });
  resolveStyles(root, tell);
  return root;
}

/**
 * Reads one SVG file (SVG 1.1 or 2) into layers. Nothing the file refers to is ever fetched.
 * Throws a `Refusal` that names the file and the place when it cannot be read.
 */
export function readSvg(input: Uint8Array | string, file: string): ReadArtwork {
  const dropped = new Map<string, number>();
  const tell = (what: string) => void dropped.set(what, (dropped.get(what) ?? 0) + 1);
  const root = parseSvg(input, file, tell);
  const box = parseViewBox(root.attrs.viewBox);
  let width = sideOf(root.attrs.width, 'width', file);
  let height = sideOf(root.attrs.height, 'height', file);
  if (box && width && !height) height = (width * box.height) / box.width;
  else if (box && height && !width) width = (height * box.width) / box.height;
  else if (box && !width && !height) ({ width, height } = box);
  for (const [side, value] of Object.entries({ width, height })) if (value !== undefined && !(value <= MAX_SIDE)) tooLarge(file, value, side);
  const view = box ?? { x: 0, y: 0, width: width ?? 100, height: height ?? 100 };
  const { artwork, definitions } = resolveTree(root, file, tell, view);
  const { layers, blobs, rootId } = toLayers(artwork, definitions, ROOT, tell);
  const rootLayer = layers.find((layer) => layer.id === rootId) as Layer;

  if (box && width && height) {
    const transform = viewBoxTransform(box, width, height, root.attrs.preserveAspectRatio);
    if (!transform.every((value) => Math.abs(value) <= MATRIX_LIMIT))
      refuse('svg.size', `${file} has a viewBox that its size cannot show`, { where: file, accepted: 'a viewBox of about the size of the file' });
    if (!isIdentity(transform)) rootLayer.transform = transform;
  } else if (!width || !height) {
    const bounds = layerBounds(new ProjectDocument(layers), rootLayer.id);
    const x = Math.floor(bounds?.minX ?? 0);
    const y = Math.floor(bounds?.minY ?? 0);
    width = width ?? Math.max(1, Math.ceil(bounds?.maxX ?? 100) - x);
    height = height ?? Math.max(1, Math.ceil(bounds?.maxY ?? 100) - y);
    for (const [side, value] of Object.entries({ width, height })) if (!(value <= MAX_SIDE)) tooLarge(file, value, side);
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
  return { width, height, layers, rootId, blobs, dropped: [...dropped].map(([what, count]) => ({ what, count })) };
}

/** How far artwork may reach over the edge before it is cut, in px: strokes are measured with some room. */
const OVER_THE_EDGE = 0.05;

/** Nothing of a file shows outside its own picture: what pokes out is clipped by the root group, where it can be taken off again (SVG 2 §8.7). */
function cutToPicture(layers: Layer[], root: Layer, width: number, height: number): void {
  const bounds = layerBounds(new ProjectDocument(layers), root.id);
  const inside = !bounds || (bounds.minX >= -OVER_THE_EDGE && bounds.minY >= -OVER_THE_EDGE && bounds.maxX <= width + OVER_THE_EDGE && bounds.maxY <= height + OVER_THE_EDGE);
  if (inside || 'clip-path' in root.attrs || 'mask' in root.attrs) return;
  const matrix = root.transform ?? IDENTITY;
  if (!(Math.abs(matrix[0] * matrix[3] - matrix[1] * matrix[2]) > 0)) return;
  // The clip is in the group's own units, its edge where the picture ends.
  const square = matrix[1] === 0 && matrix[2] === 0;
  const box = square ? transformBounds(invert(matrix), { minX: 0, minY: 0, maxX: width, maxY: height }) : { minX: 0, minY: 0, maxX: width, maxY: height };
  const clip = layerRecord.parse({ id: newId(), kind: 'layer', parentId: DEFS, order: orderAfterAll(layers), tag: 'clipPath', name: EDGE_NAME });
  const print = (value: number) => printNumber(value, 9);
  const shape = { x: print(box.minX), y: print(box.minY), width: print(box.maxX - box.minX), height: print(box.maxY - box.minY) };
  const edge = layerRecord.parse({ id: newId(), kind: 'layer', parentId: clip.id, order: 'a0', tag: 'rect', name: '', attrs: shape, transform: square ? undefined : invert(matrix) });
  layers.push(clip, edge);
  root.attrs = { ...root.attrs, 'clip-path': `url(#${clip.id})` };
}

const orderAfterAll = (layers: readonly Layer[]): string => ordersAfter(lastOrder(layers.filter(({ parentId }) => parentId === DEFS).sort(byOrder)), 1)[0];

/** Width or height of the root in px; undefined when absent or a percentage. */
function sideOf(text: string | undefined, side: string, file: string): number | undefined {
  if (text === undefined || /%\s*$/.test(text) || text.trim() === 'auto') return undefined;
  const value = parseLength(text);
  if (value === undefined || value <= 0) {
    return refuse('svg.size', `${file} has a ${side} of "${text.slice(0, 40)}"`, { where: file, accepted: `a ${side} above 0, with a unit or without` });
  }
  return value;
}

const MAX_SIDE = 100_000;
const tooLarge = (file: string, value: number, side: string): never => refuse('svg.size', `${file} is ${value} px in ${side}`, { where: file, accepted: 'up to 100,000 px' });
