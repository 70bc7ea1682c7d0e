import {
  Composer,
  defaultSettings,
  documentFonts,
  type Fonts,
  type Format,
  findTrouble,
  newId,
  type Output,
  outputRecord,
  ProjectDocument,
  pictureFacts,
  placeFiles,
  planFiles,
  readSvg,
  specRecord,
} from '@tolvik/core';
import { type Rendered, type RenderJob, renderFile, renderJob } from '@tolvik/render';

/** A file as our chain makes it: read, placed on a Bench, planned, composed and rendered, as an export does it. */
export type Made = { bytes: Buffer; widthPx: number; heightPx: number };
export type Chain = {
  widthPx: number;
  heightPx: number;
  svg: Made;
  png: Made;
  /** Empty where it was not asked for. */
  pdf: Made;
  /** What the reader told of it, in words. */
  told: string[];
};

export type Render = (job: RenderJob) => Promise<Rendered>;

/** Checks that tell of a file which cannot show its drawing as it is. */
const TELL = new Set(['pdf-flattens', 'picture-enlarged']);

const OUTPUT = {
  order: 'a0',
  suffix: '',
  folder: '',
  background: 'none',
  recolour: { kind: 'asDrawn' },
  on: true,
} as const;

/** Whether the root element of an SVG file, in any encoding, says a width or a height. */
export const saysSize = (bytes: Uint8Array): boolean =>
  /<(?:\w+:)?svg\b[^>]*\s(?:width|height)\s*=/.test(
    Buffer.from(bytes.subarray(0, 20_000)).toString('latin1').replaceAll('\0', ''),
  );

/**
 * The width in px at which a picture is compared: of those with a longest side from seven eighths of `side` to `side` px,
 * the one whose other side is nearest to whole px. Between two, a file keeps its proportions and covers its last row in
 * part, while each judge stretches or moves it in its own way.
 */
export function wholeWidth(width: number, height: number, side: number): number {
  const [longest, shortest] = [Math.max(width, height), Math.min(width, height)];
  const between = (px: number) => Math.abs((px * shortest) / longest - Math.round((px * shortest) / longest));
  let best = side;
  for (let px = side; px >= (side * 7) / 8; px--) if (between(px) < between(best) - 1e-6) best = px;
  return Math.max(1, Math.round((best * width) / longest));
}

/**
 * Takes an SVG file through reading, composing and rendering in three formats; the PNG about `side` px long. The SVG
 * says how large it is when its source does.
 * Throws a `Refusal` when it cannot be read.
 */
export async function throughTheChain(
  source: Uint8Array,
  name: string,
  side: number,
  shipped: Fonts,
  render: Render = renderFile,
  withPdf = true,
): Promise<Chain> {
  const artwork = readSvg(source, name);
  const doc = new ProjectDocument();
  const specId = newId();
  const output = (format: Format, widthPx?: number): Output =>
    outputRecord.parse({
      ...OUTPUT,
      kind: 'output',
      id: newId(),
      specId,
      settings:
        format === 'svg' ? { ...defaultSettings(format), dimensions: saysSize(source) } : defaultSettings(format),
      size: widthPx ? { kind: 'width', widthPx } : { kind: 'factor', factor: 1 },
    });
  const width = wholeWidth(artwork.width, artwork.height, side);
  doc.apply({
    puts: [
      specRecord.parse({ kind: 'spec', id: specId, order: 'a0', name: 'Fidelity' }),
      output('svg'),
      output('png', width),
      ...(withPdf ? [output('pdf')] : []),
    ],
    removes: [],
  });
  doc.apply({ puts: placeFiles(doc, [{ name: 'drawing', artwork }], [specId]), removes: [] });
  const pictures = new Map(artwork.blobs.map((blob) => [blob.hash, blob]));
  const fonts = documentFonts(doc, shipped, () => undefined);
  const composer = new Composer(doc, { fonts, pictures: (hash) => pictures.get(hash) });
  const plan = planFiles(doc, 'fidelity');
  const pictureSize = (hash: string) => {
    const blob = pictures.get(hash);
    return (blob && pictureFacts(blob.bytes)) ?? undefined;
  };
  const found = findTrouble({ doc, plan, fonts, pictureSize }).filter(({ check }) => TELL.has(check));
  const made: Partial<Record<Format, Made>> = {};
  for (const file of plan.files) {
    if (file.problem) throw new Error(file.problem);
    const { bytes, measured } = await render(renderJob(composer.job(file), (hash) => pictures.get(hash)));
    made[file.format] = { bytes, widthPx: measured.widthPx, heightPx: measured.heightPx };
  }
  const {
    svg,
    png,
    pdf = { bytes: Buffer.alloc(0), widthPx: 0, heightPx: 0 },
  } = made as Record<'svg' | 'png', Made> & {
    pdf?: Made;
  };
  return {
    widthPx: artwork.width,
    heightPx: artwork.height,
    svg,
    png,
    pdf,
    told: [...artwork.dropped.map(({ what }) => what), ...found.map(({ message }) => message)],
  };
}
