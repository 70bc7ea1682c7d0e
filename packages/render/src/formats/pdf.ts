import { type ComposedPage, PT_PER_PX } from '@tolvik/core';
import PDFDocument from 'pdfkit';
import type { Rendered, RenderJob } from '../job';
import type { Doc } from '../pdf/content';
import { drawSvgPage } from '../pdf/page';
import { readPictures } from '../pdf/pictures';
import { drawTexts } from '../pdf/texts';
import { seenWhenDrawn } from '../seen';

/**
 * A page, or several with their titles as bookmarks; sizes in points. Same input, same bytes: the dates are fixed,
 * and the file id is derived from them.
 */
export async function renderPdf(job: RenderJob): Promise<Rendered> {
  const { svg, widthPx, heightPx } = job;
  const doc = new PDFDocument({
    autoFirstPage: false,
    compress: true,
    pdfVersion: '1.7',
    // Letters of artwork are outlines; a font is loaded where words are set.
    font: null as never,
    info: { Producer: 'Tolvik', Creator: 'Tolvik', CreationDate: new Date(0), ModDate: new Date(0) },
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((resolve, reject) => doc.on('end', resolve).on('error', reject));
  const pages: readonly ComposedPage[] = job.pages ?? [{ svg, widthPx, heightPx, title: '' }];
  const pictures = await readPictures(pages.map((page) => page.svg));
  let flattened = false;
  for (const page of pages) {
    const drawn = drawSvgPage(doc as unknown as Doc, page.svg, page.widthPx, page.heightPx, pictures);
    flattened ||= drawn.flattened;
    const { texts = [] } = page;
    // Words begin where the page does, whatever coordinates the drawing went on in.
    const text = texts.length > 0 ? `q\n${drawn.text}\nQ` : drawn.text;
    addPage(doc, page.widthPx * PT_PER_PX, page.heightPx * PT_PER_PX, { ...drawn, text });
    drawTexts(doc, texts);
    if (job.pages) doc.outline.addItem(page.title);
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
      seen: job.pages ? undefined : seenWhenDrawn(job),
    },
  };
}

/** What may hold transparency; all else lays flat colours over one another. */
const MAY_BLEND = ['ExtGState', 'XObject', 'Pattern'];

/**
 * A page with what was drawn for it; where anything may be transparent its colours blend in sRGB, by themselves
 * (ISO 32000-1 §11.6.7).
 */
function addPage(
  doc: PDFKit.PDFDocument,
  widthPt: number,
  heightPt: number,
  { text, resources }: Pick<ReturnType<typeof drawSvgPage>, 'text' | 'resources'>,
): void {
  doc.addPage({ size: [widthPt, heightPt], margin: 0 });
  const { dictionary } = doc.page as unknown as { dictionary: { data: Record<string, unknown> } };
  if (MAY_BLEND.some((kind) => Object.keys(resources[kind] ?? {}).length > 0))
    dictionary.data.Group = { Type: 'Group', S: 'Transparency', CS: 'DeviceRGB', I: true };
  Object.assign((dictionary.data.Resources as { data: Record<string, unknown> }).data, resources);
  // The writer begins each page with its own coordinates; ours are PDF's.
  const content = doc.page.content as unknown as { buffer: Buffer[]; uncompressedLength?: number };
  content.buffer = [];
  doc.addContent(text);
}

/** Pages and the size of the first in points, from the file's page objects (ISO 32000-1 §7.7.3.3). Throws when it is no whole PDF. */
export function measurePdf(bytes: Buffer): { widthPt: number; heightPt: number; pages: number } {
  const text = bytes.toString('latin1');
  if (!text.startsWith('%PDF-') || !/%%EOF\s*$/.test(text) || !/startxref\s+\d+\s+%%EOF\s*$/.test(text))
    throw new Error('the PDF is cut off');
  const start = Number(/startxref\s+(\d+)\s+%%EOF\s*$/.exec(text)?.[1]);
  if (!/^xref\b/.test(text.slice(start, start + 8)))
    throw new Error('the PDF has no cross-reference table where it says');
  const box = /\/MediaBox \[([\d.\s-]+)\]/.exec(text)?.[1].trim().split(/\s+/).map(Number);
  if (box?.length !== 4) throw new Error('the PDF has no page size');
  return {
    widthPt: box[2] - box[0],
    heightPt: box[3] - box[1],
    pages: (text.match(/\/Type \/Page\b(?!s)/g) ?? []).length,
  };
}
