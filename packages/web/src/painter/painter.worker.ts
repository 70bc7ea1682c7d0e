import { initWasm, Resvg } from '@resvg/resvg-wasm';
import wasmUrl from '@resvg/resvg-wasm/index_bg.wasm?url';
import {
  type ComposeSources,
  cellKey,
  composeBenchItem,
  composeBenchPiece,
  documentFonts,
  type Fonts,
  measureTextWith,
  NO_FONTS,
  type Blob as Picture,
  type Piece,
  ProjectDocument,
  pictureFacts,
  pieces,
  planFiles,
  textToOutlines,
  troubleFinder,
} from '@tolvik/core';
import { loadFonts } from './load-fonts';
import type { FromPainter, ToPainter } from './messages';

/**
 * Draws artwork with the very rasteriser that exports use, away from the page. It follows the
 * document by the same edits; requests wait in a line that newer ones of the same slot replace.
 */
const scope = self as unknown as { postMessage(message: FromPainter, transfer?: Transferable[]): void; onmessage: ((event: MessageEvent<ToPainter>) => void) | null };
type Paint = Extract<ToPainter, { kind: 'paint' }>;

let doc = new ProjectDocument();
const line = new Map<string, Paint>();
const pictures = new Map<string, Picture>();
let fonts: Fonts = NO_FONTS;
const look = troubleFinder();
const pictureSize = (hash: string) => {
  const picture = pictures.get(hash);
  return (picture && pictureFacts(picture.bytes)) ?? undefined;
};
let working = false;
let held = false;
let list: { revision: number; byId: Map<string, Piece> } | null = null;
const ready = fetch(wasmUrl).then((response) => initWasm(response));

scope.onmessage = ({ data }) => {
  if (data.kind === 'open') {
    doc = new ProjectDocument(data.records);
    fonts = NO_FONTS;
    line.clear();
  } else if (data.kind === 'apply') doc.apply({ puts: [...data.puts], removes: [...data.removes] });
  else if (data.kind === 'hold') held = data.held;
  else if (data.kind === 'check') void check(data);
  else if (data.kind === 'outline') void outline(data.id, data.layerIds);
  else {
    const known = line.get(data.slot);
    if (known) scope.postMessage({ kind: 'painted', id: known.id, slot: known.slot, bitmap: null });
    // The newest go to the end and are drawn first: they are what is in view now.
    line.delete(data.slot);
    line.set(data.slot, data);
  }
  void work();
};

/** Looks for trouble in what the document holds now. */
async function check({ id, projectName, lastDelivery, seen }: Extract<ToPainter, { kind: 'check' }>): Promise<void> {
  await loadNeeds().catch(() => {});
  scope.postMessage({
    kind: 'checked',
    id,
    findings: look({ doc, plan: planFiles(doc, projectName), fonts, pictureSize, lastDelivery, seenOf: (pieceId, outputId) => seen?.get(cellKey(pieceId, outputId)) }),
  });
}

async function outline(id: number, layerIds: readonly string[]): Promise<void> {
  await loadNeeds().catch(() => {});
  const layers = layerIds.flatMap((layerId) => doc.find('layer', layerId) ?? []);
  scope.postMessage({ kind: 'outlined', id, ...textToOutlines(doc, layers, fonts) });
}

async function work(): Promise<void> {
  if (working) return;
  working = true;
  await ready;
  let letIn = performance.now();
  while (line.size > 0) {
    const next = newest();
    if (held && !next.urgent) break;
    line.delete(next.slot);
    let bitmap: ImageBitmap | null = null;
    try {
      await loadNeeds();
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

/** The newest urgent request, or the newest of all. */
function newest(): Paint {
  let found: Paint | undefined;
  let urgent: Paint | undefined;
  for (const request of line.values()) {
    found = request;
    if (request.urgent) urgent = request;
  }
  return (urgent ?? found) as Paint;
}

let needs: { revision: number; fetched: Promise<void> } | null = null;

/** Whoever draws or checks waits for what the document needs, also when somebody else asked for it first. */
function loadNeeds(): Promise<void> {
  if (needs?.revision !== doc.layerRevision) {
    const fetched = fetchNeeds();
    needs = { revision: doc.layerRevision, fetched };
    // What could not be fetched is asked for again by the next.
    fetched.catch(() => {
      if (needs?.fetched === fetched) needs = null;
    });
  }
  return needs.fetched;
}

/** Fonts and pictures are fetched from this very server, once the document has a use for them. */
async function fetchNeeds(): Promise<void> {
  const wanted = new Set<string>();
  let text = false;
  for (const layer of doc.each('layer')) {
    if (layer.tag === 'text') text = true;
    if (layer.tag === 'image') {
      const hash = layer.attrs.href?.slice('blob:'.length);
      if (hash && !pictures.has(hash)) wanted.add(hash);
    }
  }
  if (text) {
    await Promise.all(doc.list('font').map(({ hash }) => fetchFont(hash)));
    if (fonts === NO_FONTS) fonts = documentFonts(doc, await loadFonts(), (hash) => fontBytes.get(hash));
    measureTextWith(doc, fonts);
  }
  await Promise.all(
    [...wanted].map(async (hash) => {
      const response = await fetch(`/api/blobs/${hash}`);
      const bytes = new Uint8Array(await response.arrayBuffer());
      const facts = response.ok ? pictureFacts(bytes) : null;
      if (facts) pictures.set(hash, { hash, mediaType: facts.mediaType, bytes });
    }),
  );
}

const fontBytes = new Map<string, Uint8Array>();

async function fetchFont(hash: string): Promise<void> {
  if (fontBytes.has(hash)) return;
  const response = await fetch(`/api/blobs/${hash}`);
  if (response.ok) fontBytes.set(hash, new Uint8Array(await response.arrayBuffer()));
}

async function paint({ subject, crop, widthPx, heightPx }: Paint): Promise<ImageBitmap | null> {
  const sources: ComposeSources = { fonts, pictures: (hash) => pictures.get(hash) };
  let svg: string;
  if (subject.kind === 'item') {
    if (!crop || !doc.find('layer', subject.layerId)) return null;
    svg = composeBenchItem(doc, subject.layerId, crop, widthPx, heightPx, sources);
  } else {
    if (list?.revision !== doc.revision) list = { revision: doc.revision, byId: new Map(pieces(doc).map((piece) => [piece.id, piece])) };
    const piece = list.byId.get(subject.pieceId);
    if (!piece || piece.problem) return null;
    svg = composeBenchPiece(doc, piece, { widthPx, heightPx }, sources);
  }
  const resvg = new Resvg(svg, { font: { loadSystemFonts: false } });
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
