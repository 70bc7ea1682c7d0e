import { artworkIndex, boundsOf, CRISP_ENOUGH, type Crispness, crispness, edgesIn, type OffEdge } from '@tolvik/core';
import { toScreen } from './camera';
import { COLOURS, MONO_ADVANCE, NOTE_FONT } from './look';
import type { PlaneView } from './plane-view';

/** In larger pictures, in px of the longer side, a soft edge is not seen. */
const LARGEST_PX = 256;
/** As many edges are marked, the longest; the first of them with by how much they are off. */
const MOST_MARKED = 200;
const MOST_TOLD = 12;
/** Pixels smaller than this on the screen have no room for numbers beside them. */
const TOLD_FROM_PX = 14;
const PLATE_HEIGHT = 15;

/** What was found, by artboard, for one state of the artwork. */
let kept: { doc: PlaneView['doc']; revision: number; found: Map<string, Crispness> } | null = null;

/** How the edges of an artboard lie on its pixels; null for what has none of its own, or where they are not seen. */
function edgesOf({ doc, scene, pixels }: PlaneView, pieceId: string): Crispness | null {
  const piece = scene.pieceById.get(pieceId);
  const artboard = doc.find('artboard', pieceId);
  if (!piece || piece.problem || !artboard || artboard.follows) return null;
  const { region } = piece;
  const [widthPx, heightPx] = [region.width, region.height].map((side) => Math.max(1, Math.round(side * pixels)));
  if (Math.max(widthPx, heightPx) > LARGEST_PX) return null;
  if (kept?.doc !== doc || kept.revision !== doc.layerRevision)
    kept = { doc, revision: doc.layerRevision, found: new Map() };
  const key = [pieceId, pixels, region.x, region.y, region.width, region.height].join(' ');
  const known = kept.found.get(key);
  if (known) return known;
  const leaves = artworkIndex(doc)
    .search(boundsOf(region))
    .filter(({ visible }) => visible);
  const found = crispness(edgesIn(doc, leaves), { view: region, widthPx, heightPx });
  kept.found.set(key, found);
  return found;
}

/** Words on a plate of paper, with their left side and middle at a point of the screen. */
function drawPlate(context: CanvasRenderingContext2D, words: string, x: number, y: number, colour: string): void {
  context.fillStyle = COLOURS.paper;
  context.fillRect(x, y - PLATE_HEIGHT / 2, words.length * MONO_ADVANCE + 6, PLATE_HEIGHT);
  context.fillStyle = colour;
  context.fillText(words, x + 3, y + 0.5);
}

/** The ends of an edge on the screen; of a curve, of the part that is flat. */
function ends({ camera, pixels }: PlaneView, { edge, lengthPx }: OffEdge): [number, number, number, number] {
  const half = edge.flat ? lengthPx / pixels / 2 : 0;
  const [from, to] = [edge.from - half, edge.to + half];
  return edge.across === 'x'
    ? [...toScreen(camera, edge.at, from), ...toScreen(camera, edge.at, to)]
    : [...toScreen(camera, from, edge.at), ...toScreen(camera, to, edge.at)];
}

/** Marks the edges between pixels of what is selected and shown as pixels, and says by how much the longest are off. */
export function drawOffEdges(context: CanvasRenderingContext2D, view: PlaneView): void {
  const { camera, dpr, pixels, preview, selection, scene } = view;
  if (preview.moving.size > 0 || view.edition) return;
  context.save();
  context.setTransform(dpr, 0, 0, dpr, 0, 0);
  context.font = NOTE_FONT;
  context.textBaseline = 'middle';
  for (const id of selection) {
    const found = edgesOf(view, id);
    if (!found || found.share === null) continue;
    const off = found.off.slice(0, MOST_MARKED);
    for (const [width, colour] of [
      [4, COLOURS.white],
      [2, COLOURS.bad],
    ] as const) {
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.beginPath();
      for (const each of off) {
        const [x0, y0, x1, y1] = ends(view, each);
        context.moveTo(x0, y0);
        context.lineTo(x1, y1);
      }
      context.stroke();
    }
    if (camera.scale / pixels >= TOLD_FROM_PX)
      for (const each of off.filter(({ edge }) => !edge.flat).slice(0, MOST_TOLD)) {
        const [x0, y0, x1, y1] = ends(view, each);
        const words = Math.abs(each.offPx).toFixed(2);
        drawPlate(context, words, (x0 + x1) / 2 + (each.edge.across === 'x' ? 4 : -18), (y0 + y1) / 2, COLOURS.bad);
      }
    const region = scene.pieceById.get(id)?.region;
    if (!region) continue;
    const [x, y] = toScreen(camera, region.x, region.y);
    const words = `${Math.floor(found.share * 100)} % crisp at ${pixels}×`;
    drawPlate(context, words, x, y - PLATE_HEIGHT, found.share < CRISP_ENOUGH ? COLOURS.bad : COLOURS.ink2);
  }
  context.restore();
}
