import { initWasm, Resvg } from '@resvg/resvg-wasm';
import wasmUrl from '@resvg/resvg-wasm/index_bg.wasm?url';
import {
  composeBenchItem,
  composeBenchPiece,
  type Meetings,
  measureMeetings,
  pieces,
  textToOutlines,
  withoutLayersOffPage,
} from '@tolvik/core';
import type { FromPainter, ToPainter } from './messages';
import { Mirror } from './mirror';
import { type Paint, PaintLine } from './paint-line';

/**
 * Draws artwork with the very rasteriser that exports use, away from the page. It follows the
 * document by the same edits; requests wait in a line that newer ones of the same slot replace.
 */
const scope = self as unknown as {
  postMessage(message: FromPainter, transfer?: Transferable[]): void;
  onmessage: ((event: MessageEvent<ToPainter>) => void) | null;
};

const mirror = new Mirror();
const line = new PaintLine();
let working = false;
let held = false;
const ready = fetch(wasmUrl).then((response) => initWasm(response));
ready.catch(() => scope.postMessage({ kind: 'failed' }));

scope.onmessage = ({ data }) => {
  if (data.kind === 'open' || data.kind === 'apply') {
    mirror.follow(data);
    if (data.kind === 'open') line.clear();
  } else if (data.kind === 'hold') held = data.held;
  else if (data.kind === 'outline') void outline(data.id, data.layerIds);
  else if (data.kind === 'meet') void meet(data.id, data.artboardId);
  else {
    const before = line.add(data);
    if (before) scope.postMessage({ kind: 'painted', id: before.id, slot: before.slot, bitmap: null });
  }
  void work();
};

async function outline(id: number, layerIds: readonly string[]): Promise<void> {
  await mirror.loadNeeds().catch(() => {});
  const { doc, fonts } = mirror;
  const layers = layerIds.flatMap((layerId) => doc.find('layer', layerId) ?? []);
  scope.postMessage({ kind: 'outlined', id, ...textToOutlines(doc, layers, fonts) });
}

async function meet(id: number, artboardId: string): Promise<void> {
  let meetings: Meetings | null = null;
  try {
    await ready;
    await mirror.loadNeeds();
    scope.postMessage({ kind: 'begun', slot: `meetings ${id}` });
    meetings = measure(artboardId);
  } catch {
    meetings = null;
  }
  scope.postMessage({ kind: 'met', id, meetings });
}

function measure(artboardId: string): Meetings | null {
  const { doc, sources } = mirror;
  const artboard = doc.find('artboard', artboardId);
  if (!artboard) return null;
  return measureMeetings(doc, artboard, sources, (svg) => {
    const resvg = new Resvg(withoutLayersOffPage(svg), { font: { loadSystemFonts: false } });
    const image = resvg.render();
    const drawn = { pixels: new Uint8Array(image.pixels), width: image.width };
    image.free();
    resvg.free();
    return drawn;
  });
}

async function work(): Promise<void> {
  if (working) return;
  working = true;
  try {
    await ready;
  } catch {
    return;
  }
  let letIn = performance.now();
  for (let next = line.take(held); next; next = line.take(held)) {
    let bitmap: ImageBitmap | null = null;
    try {
      await mirror.loadNeeds();
      scope.postMessage({ kind: 'begun', slot: next.slot });
      bitmap = await paint(next);
    } catch {
      bitmap = null;
    }
    scope.postMessage({ kind: 'painted', id: next.id, slot: next.slot, bitmap }, bitmap ? [bitmap] : []);
    // Let messages in now and then: newer requests and edits come first.
    if (performance.now() - letIn > LET_IN_MS) {
      await new Promise((resolve) => setTimeout(resolve, 0));
      letIn = performance.now();
    }
  }
  working = false;
}

const LET_IN_MS = 14;

async function paint({ subject, crop, widthPx, heightPx }: Paint): Promise<ImageBitmap | null> {
  const { doc, sources } = mirror;
  let svg: string;
  if (subject.kind === 'item') {
    if (!crop || !doc.find('layer', subject.layerId)) return null;
    svg = composeBenchItem(doc, subject.layerId, crop, widthPx, heightPx, sources);
  } else {
    const piece = pieces(doc).find(({ id }) => id === subject.pieceId);
    if (!piece || piece.problem) return null;
    svg = composeBenchPiece(doc, piece, { widthPx, heightPx }, sources);
  }
  const resvg = new Resvg(withoutLayersOffPage(svg), { font: { loadSystemFonts: false } });
  const image = resvg.render();
  const { width, height } = image;
  const pixels = new Uint8ClampedArray(image.pixels);
  image.free();
  resvg.free();
  // The rasteriser's pixels are premultiplied, ImageData's are straight.
  for (let i = 3; i < pixels.length; i += 4) {
    const alpha = pixels[i];
    if (alpha === 255 || alpha === 0) continue;
    pixels[i - 3] = (pixels[i - 3] * 255) / alpha;
    pixels[i - 2] = (pixels[i - 2] * 255) / alpha;
    pixels[i - 1] = (pixels[i - 1] * 255) / alpha;
  }
  return createImageBitmap(new ImageData(pixels, width, height));
}
