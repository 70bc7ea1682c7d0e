import { type Cut, PX_PER_MM, parseViewBox, printTree, readTree, stepsOf, type TreeNode } from '@tolvik/core';
import { drawPixels } from '../draw-pixels';
import { NOTCH, thinPlaces } from './thin';

/** The thinnest that is told is so many px of the picture that is measured, */
const THIN_PX = 8;
/** or, where that would have more px than this, as few as these. */
const MOST_PX = 6_000_000;
const LEAST_THIN_PX = 2.5;
/** Each ink is measured by itself, up to so many. */
const MOST_INKS = 4;

/** What a cutter makes of a composed SVG whose shapes are united, at the size of its file. */
export function cutOf(svg: string, { widthPx, heightPx }: { widthPx: number; heightPx: number }, leastMm: number): Cut {
  const { root } = readTree(svg);
  const paths = root.children.filter(({ tag }) => tag === 'path');
  const nodes = paths.reduce((sum, path) => sum + stepsOf(path).filter(({ op }) => op !== 'Z').length, 0);
  const leastPx = leastMm * PX_PER_MM;
  const scale = Math.min(THIN_PX / leastPx, Math.sqrt(MOST_PX / (widthPx * heightPx)));
  const thin = leastPx * scale;
  const none = { inks: paths.length, nodes, thinParts: 0, thinGaps: 0, searched: false };
  if (thin < LEAST_THIN_PX) return none;
  // Room around, so that a gap to the edge of the file is none.
  const margin = Math.ceil(thin) + 1;
  const size = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * scale)));
  const ink = (shown: readonly TreeNode[]) => inkOf(root, shown, size, margin);
  const all = ink(paths);
  const parts = paths.length > 1 && paths.length <= MOST_INKS ? paths.map((path) => ink([path])) : [all];
  return {
    ...none,
    searched: true,
    thinParts: parts.reduce((sum, part) => sum + thinPlaces(part, thin), 0),
    thinGaps: thinPlaces({ ...all, data: all.data.map((is) => 1 - is) }, thin, NOTCH),
  };
}

/** Where some paths lay ink: more than half of a pixel. */
function inkOf(root: TreeNode, shown: readonly TreeNode[], [width, height]: readonly number[], margin: number) {
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width, height };
  const [byX, byY] = [(box.width / width) * margin, (box.height / height) * margin];
  const [wide, high] = [width + 2 * margin, height + 2 * margin];
  const viewBox = `${box.x - byX} ${box.y - byY} ${box.width + 2 * byX} ${box.height + 2 * byY}`;
  const attrs = { xmlns: 'http://www.w3.org/2000/svg', viewBox, width: `${wide}`, height: `${high}` };
  const children = shown.map((path) => ({ ...path, attrs: { ...path.attrs, fill: '#000000' } }));
  const page = { tag: 'svg', attrs: { ...attrs, preserveAspectRatio: 'none' }, children };
  const { data } = drawPixels(printTree(page), wide, high);
  const ink = new Uint8Array(wide * high);
  for (let i = 0; i < ink.length; i++) ink[i] = data[4 * i + 3] > 127 ? 1 : 0;
  return { data: ink, width: wide, height: high };
}
