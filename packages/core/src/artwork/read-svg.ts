import { ProjectDocument, ROOT } from '../document/document';
import { type Layer, MATRIX_LIMIT } from '../document/records';
import { refuse } from '../problem';
import { layerBounds } from './bounds';
import { LIMITS } from './limits';
import { isIdentity } from './matrix';
import type { Blob } from './pictures';
import { resolveTree } from './resolve';
import { resolveStyleSheets } from './style-sheets';
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

/** Bytes as text by byte order mark, else UTF-8 (XML 1.0 appendix F). */
function decode(bytes: Uint8Array, file: string): string {
  if (bytes.length === 0) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (bytes.length > LIMITS.fileBytes) {
    refuse('svg.bytes', `${file} is ${(bytes.length / 1048576).toFixed(0)} MB`, { where: file, accepted: `SVG files up to ${LIMITS.fileBytes / 1048576} MB` });
  }
  const label = bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  return new TextDecoder(label).decode(bytes);
}

/** The root `<svg>` of a file, style sheets resolved; refuses what is not SVG. */
export function parseSvg(input: Uint8Array | string, file: string, tell: (what: string) => void): XmlElement {
  const text = (typeof input === 'string' ? input : decode(input, file)).replace(/^\ufeff/, '').trimStart();
  if (!text) refuse('svg.empty', `${file} is empty`, { where: file, accepted: 'an SVG file' });
  if (!text.startsWith('<')) refuse('svg.not', `${file} is not SVG: it does not start with "<"`, { where: file, accepted: 'an SVG file' });
  const root = parseXml(text, file);
  if (root.tag !== 'svg' || root.foreign) refuse('svg.not', `${file} is not SVG: its first element is <${root.tag}>`, { where: file, accepted: 'a file whose first element is <svg>' });
  return resolveStyleSheets(root, file, tell);
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
  return { width, height, layers, rootId, blobs, dropped: [...dropped].map(([what, count]) => ({ what, count })) };
}

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
