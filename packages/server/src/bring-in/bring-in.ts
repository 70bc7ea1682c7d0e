import {
  type Artboard,
  artboardsNamed,
  type Blob,
  type Change,
  layerRecord,
  type NamedArtwork,
  nameFromFile,
  newId,
  ordersAfter,
  type PictureFacts,
  type Problem,
  type ProjectDocument,
  pictureFacts,
  placeArtwork,
  placeFiles,
  type ReadArtwork,
  Refusal,
  recordsOfLibrarySpec,
  refuse,
  replaceArtwork,
  SETTINGS_ID,
  sha256Hex,
} from '@tolvik/core';
import type { Upload } from './multipart';
import type { Reader } from './reader';
import { unzip } from './unzip';

/** What became of each file: brought in (with what was left out of it), or refused and why. */
export type BroughtIn = {
  change: Change | null;
  blobs: Blob[];
  report: { file: string; dropped: { what: string; count: number }[]; problem?: Problem }[];
};

const MAX_PICTURE_SIDE = 16_384;
const MAX_PICTURE_PIXELS = 100_000_000;
const isZip = ({ bytes }: Upload) => bytes.length > 3 && bytes.readUInt32LE(0) === 0x04034b50;

export type BringInOptions = {
  /** An artboard for each file; the artwork alone around a point; or in place of the artwork of artboards of the same name, the rest an artboard each. */
  as: 'artboards' | 'artwork' | 'replace';
  /** In px of the plane, for artwork alone. */
  at: { x: number; y: number };
  /** Told after each file; `of` grows while zips are opened. */
  onRead?(done: number, of: number): void;
  signal?: AbortSignal;
};

/** Uploaded files as one edit that puts them on the Bench. A bad file never disturbs the others. */
export async function bringIn(uploads: readonly Upload[], doc: ProjectDocument, reader: Reader, options: BringInOptions): Promise<BroughtIn> {
  const report: BroughtIn['report'] = [];
  const read: NamedArtwork[] = [];
  const blobs: Blob[] = [];
  let of = uploads.length;

  const take = async (upload: Upload) => {
    options.signal?.throwIfAborted();
    const file = upload.name.split(/[/\\]/).at(-1) || 'unnamed';
    try {
      const artwork = await readOne({ name: file, bytes: upload.bytes }, reader);
      read.push({ name: nameFromFile(file), artwork });
      blobs.push(...artwork.blobs);
      report.push({ file, dropped: artwork.dropped });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      report.push({ file, dropped: [], problem: error.problem });
    }
    options.onRead?.(report.length, Math.max(of, report.length));
  };

  for (const upload of uploads) {
    if (!isZip(upload)) {
      await take(upload);
      continue;
    }
    of--;
    try {
      for await (const entry of unzip(upload.bytes, upload.name)) await take(entry);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      report.push({ file: upload.name, dropped: [], problem: error.problem });
    }
  }
  if (read.length === 0) return { change: null, blobs, report };
  const label = read.length === 1 ? `bring in ${read[0].name}` : `bring in ${read.length} files`;
  return { change: { label, ...placed(read, doc, options) }, blobs, report };
}

/** What was read as records: where it goes, and what goes for it. */
function placed(read: readonly NamedArtwork[], doc: ProjectDocument, { as, at }: BringInOptions): Pick<Change, 'puts' | 'removes'> {
  if (as === 'artwork') return { puts: placeArtwork(doc, read, at).records, removes: [] };
  const replaced = new Map<string, { artboard: Artboard; file: NamedArtwork }>();
  if (as === 'replace') for (const file of read) for (const artboard of artboardsNamed(doc, [file.name])) replaced.set(artboard.id, { artboard, file });
  const taken = new Set([...replaced.values()].map(({ file }) => file));
  const changes = [...replaced.values()].map(({ artboard, file }) => replaceArtwork(doc, artboard, file.artwork));
  const rest = read.filter((file) => !taken.has(file));
  const puts = changes.flatMap((change) => change.puts);
  if (rest.length > 0) {
    const starting = defaultSpec(doc);
    puts.push(...starting.puts, ...placeFiles(doc, rest, [starting.specId]));
  }
  return { puts, removes: changes.flatMap((change) => change.removes) };
}

/** The spec new pieces follow; a project without one gets the ready-made one for the web. */
function defaultSpec(doc: ProjectDocument): { specId: string; puts: Change['puts'] } {
  const { settings } = doc;
  const known = settings.defaultSpecId && doc.find('spec', settings.defaultSpecId) ? settings.defaultSpecId : doc.list('spec')[0]?.id;
  if (known) return { specId: known, puts: [] };
  const { spec, outputs } = recordsOfLibrarySpec('web', doc);
  return { specId: spec.id, puts: [spec, ...outputs, { ...settings, id: SETTINGS_ID, kind: 'settings', defaultSpecId: spec.id }] };
}

async function readOne({ name, bytes }: Upload, reader: Reader): Promise<ReadArtwork> {
  if (bytes.length === 0) refuse('file.empty', `${name} is empty`, { where: name, accepted: 'SVG, PNG, JPEG or WebP' });
  const facts = pictureFacts(bytes);
  if (facts) return pictureArtwork(name, bytes, facts);
  const answer = await reader.read({ kind: 'artwork', name, bytes });
  return (answer as { artwork: ReadArtwork }).artwork;
}

/** A picture as artwork: one image layer at one px a pixel. */
export function pictureArtwork(name: string, bytes: Uint8Array, { mediaType, width, height }: PictureFacts): ReadArtwork {
  if (width < 1 || height < 1) refuse('picture.broken', `${name} is a picture of no size`, { where: name });
  if (width > MAX_PICTURE_SIDE || height > MAX_PICTURE_SIDE || width * height > MAX_PICTURE_PIXELS) {
    refuse('picture.size', `${name} has ${width} × ${height} px`, { where: name, accepted: `pictures up to ${MAX_PICTURE_SIDE} px a side and ${MAX_PICTURE_PIXELS / 1e6} million px` });
  }
  const hash = sha256Hex(bytes);
  const group = newId();
  const [order] = ordersAfter(null, 1);
  const layers = [
    layerRecord.parse({ id: group, kind: 'layer', parentId: 'root', order, tag: 'g', name: nameFromFile(name) }),
    layerRecord.parse({
      id: newId(),
      kind: 'layer',
      parentId: group,
      order,
      tag: 'image',
      name: nameFromFile(name),
      attrs: { x: '0', y: '0', width: String(width), height: String(height), href: `blob:${hash}` },
    }),
  ];
  return { width, height, layers, rootId: group, blobs: [{ hash, mediaType, bytes }], dropped: [] };
}
