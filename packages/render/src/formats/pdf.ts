import { PT_PER_PX } from '@tolvik/core';
import PDFDocument from 'pdfkit';
import svgToPdf from 'svg-to-pdfkit';
import type { Rendered, RenderJob } from '../job';
import { encodePng, unpremultiply } from '../png/encode';
import { rasterise, resized } from '../rasterise';
import { seenWhenDrawn } from '../seen';

/** What PDF vectors here cannot say; such a page becomes a picture. */
const NEEDS_FLATTENING = /<filter[\s>]|mix-blend-mode|mask-type="alpha"/;
const FLATTEN_DPI = 300;
const MAX_FLATTENED_SIDE = 8000;

/**
 * A page, or several with their titles as bookmarks; sizes in points. Same input, same bytes: the dates are fixed,
 * and the file id is derived from them.
 */
export async function renderPdf(job: RenderJob): Promise<Rendered> {
  const { svg, widthPx, heightPx, pages } = job;
  const doc = new PDFDocument({
    autoFirstPage: false,
    compress: true,
    // No text is ever written, so no font is loaded.
    font: null as never,
    info: { Producer: 'Tolvik', Creator: 'Tolvik', CreationDate: new Date(0), ModDate: new Date(0) },
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((resolve, reject) => doc.on('end', resolve).on('error', reject));
  let flattened = false;
  for (const page of pages ?? [{ svg, widthPx, heightPx, title: '' }]) {
    flattened = drawPage(doc, page) || flattened;
    if (pages) doc.outline.addItem(page.title);
  }
  doc.end();
  await finished;
  const bytes = Buffer.concat(chunks);
  const first = measurePdf(bytes);
  return {
    bytes,
    measured: {
      widthPx: first.widthPt / PT_PER_PX,
      heightPx: first.heightPt / PT_PER_PX,
      bytes: bytes.length,
      alpha: true,
      dpi: null,
      colourType: flattened ? 'picture' : 'vector',
      pages: first.pages,
      flattened,
      seen: pages ? undefined : seenWhenDrawn(job),
    },
  };
}

/** Adds a page; answers whether it had to become a picture. */
function drawPage(doc: PDFKit.PDFDocument, { svg, widthPx, heightPx }: Pick<RenderJob, 'svg' | 'widthPx' | 'heightPx'>): boolean {
  const widthPt = widthPx * PT_PER_PX;
  const heightPt = heightPx * PT_PER_PX;
  doc.addPage({ size: [widthPt, heightPt], margin: 0 });
  if (!NEEDS_FLATTENING.test(svg)) {
    svgToPdf(doc, resized(svg, widthPt, heightPt), 0, 0, { width: widthPt, height: heightPt, assumePt: true, warningCallback: () => {} });
    return false;
  }
  const scale = Math.min(FLATTEN_DPI / 96, MAX_FLATTENED_SIDE / Math.max(widthPx, heightPx));
  const [w, h] = [Math.max(1, Math.round(widthPx * scale)), Math.max(1, Math.round(heightPx * scale))];
  const picture = rasterise(resized(svg, w, h), w, h);
  unpremultiply(picture.data);
  doc.image(encodePng(picture.data, w, h, { dpi: FLATTEN_DPI, effort: 'faster' }), 0, 0, { width: widthPt, height: heightPt });
  return true;
}

/** Pages and the size of the first in points, from the file's page objects (ISO 32000-1 §7.7.3.3). Throws when it is no whole PDF. */
export function measurePdf(bytes: Buffer): { widthPt: number; heightPt: number; pages: number } {
  const text = bytes.toString('latin1');
  if (!text.startsWith('%PDF-') || !/%%EOF\s*$/.test(text) || !/startxref\s+\d+\s+%%EOF\s*$/.test(text)) throw new Error('the PDF is cut off');
  const start = Number(/startxref\s+(\d+)\s+%%EOF\s*$/.exec(text)?.[1]);
  if (!/^xref\b/.test(text.slice(start, start + 8))) throw new Error('the PDF has no cross-reference table where it says');
  const box = /\/MediaBox \[([\d.\s-]+)\]/.exec(text)?.[1].trim().split(/\s+/).map(Number);
  if (box?.length !== 4) throw new Error('the PDF has no page size');
  return { widthPt: box[2] - box[0], heightPt: box[3] - box[1], pages: (text.match(/\/Type \/Page\b(?!s)/g) ?? []).length };
}
