import { createHash } from 'node:crypto';
import {
  type Blob,
  layerRecord,
  nameFromFile,
  newId,
  ordersAfter,
  type PictureFacts,
  type Problem,
  pictureFacts,
  type ReadArtwork,
  Refusal,
  refuse,
  type Told,
} from '@tolvik/core';
import type { Upload } from './multipart';
import { type PackedArtwork, packed } from './read-worker';
import type { Reader } from './reader';
import { unzip } from './unzip';

export type FileReport = { file: string; dropped: Told[]; problem?: Problem };

/** What was read of each file, and what became of it: brought in (with what was left out of it), or refused and why. */
export type ReadFiles = {
  read: { name: string; artwork: Uint8Array; report: FileReport }[];
  blobs: Blob[];
  report: FileReport[];
};

const MAX_PICTURE_SIDE = 16_384;
const MAX_PICTURE_PIXELS = 100_000_000;
const MAX_PICTURE_BYTES = 64 * 1_048_576;
/** Layers that come in at once, all files together. */
const MAX_LAYERS = 250_000;
const isZip = ({ bytes }: Upload) => bytes.length > 3 && bytes.readUInt32LE(0) === 0x04034b50;

export type ReadOptions = {
  /** Told after each file; `of` grows while zips are opened. */
  onRead?(done: number, of: number): void;
  signal?: AbortSignal;
};

/** Reads uploaded files one after the other. A bad file never disturbs the others: its trouble is its own, and told. */
export async function readFiles(uploads: readonly Upload[], reader: Reader, options: ReadOptions): Promise<ReadFiles> {
  const report: FileReport[] = [];
  const read: ReadFiles['read'] = [];
  const blobs: Blob[] = [];
  let layers = 0;
  let of = uploads.length;

  const take = async (upload: Upload) => {
    options.signal?.throwIfAborted();
    const file = nameOfUpload(upload);
    const told: FileReport = { file, dropped: [] };
    report.push(told);
    try {
      const artwork = await readOne({ name: file, bytes: upload.bytes }, reader);
      layers += artwork.layers;
      if (layers > MAX_LAYERS) {
        layers -= artwork.layers;
        refuse('bring-in.layers', `${file} would make it more than ${MAX_LAYERS.toLocaleString('en')} layers at once`, {
          where: file,
          accepted: 'fewer files at a time',
        });
      }
      read.push({ name: nameFromFile(file), artwork: artwork.text, report: told });
      for (const blob of artwork.blobs) blobs.push(blob);
      told.dropped = artwork.dropped;
    } catch (error) {
      told.problem = problemOf(error, file);
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
      for await (const entry of unzip(upload.bytes, nameOfUpload(upload))) {
        if ('problem' in entry) report.push({ file: entry.name, dropped: [], problem: entry.problem });
        else await take(entry);
      }
    } catch (error) {
      if (options.signal?.aborted) throw error;
      report.push({ file: nameOfUpload(upload), dropped: [], problem: problemOf(error, nameOfUpload(upload)) });
    }
  }
  return { read, blobs, report };
}

const nameOfUpload = ({ name }: Upload) => name.split(/[/\\]/).at(-1)?.slice(0, 300) || 'unnamed';

/** Whatever went wrong with a file is told of that file; only a call that was given up is not. */
function problemOf(error: unknown, file: string): Problem {
  if (error instanceof Refusal) return error.problem;
  if (error instanceof Error && error.name === 'AbortError') throw error;
  return {
    code: 'read.failed',
    message: `${file} could not be read: ${error instanceof Error ? error.message : String(error)}`,
    where: file,
  };
}

async function readOne(
  { name, bytes }: Upload,
  reader: Reader,
): Promise<PackedArtwork & Pick<ReadArtwork, 'blobs' | 'dropped'>> {
  if (bytes.length === 0) refuse('file.empty', `${name} is empty`, { where: name, accepted: 'SVG, PNG, JPEG or WebP' });
  const facts = pictureFacts(bytes);
  if (!facts) return reader.read({ kind: 'artwork', name, bytes });
  const artwork = pictureArtwork(name, bytes, facts);
  return { ...packed(artwork), blobs: artwork.blobs, dropped: artwork.dropped };
}

/** A picture as artwork: one image layer at one px a pixel. */
export function pictureArtwork(
  name: string,
  bytes: Uint8Array,
  { mediaType, width, height }: PictureFacts,
): ReadArtwork {
  if (width < 1 || height < 1) refuse('picture.broken', `${name} is a picture of no size`, { where: name });
  if (width > MAX_PICTURE_SIDE || height > MAX_PICTURE_SIDE || width * height > MAX_PICTURE_PIXELS) {
    refuse('picture.size', `${name} has ${width} × ${height} px`, {
      where: name,
      accepted: `pictures up to ${MAX_PICTURE_SIDE} px a side and ${MAX_PICTURE_PIXELS / 1e6} million px`,
    });
  }
  if (bytes.length > MAX_PICTURE_BYTES)
    refuse('picture.bytes', `${name} is ${(bytes.length / 1_048_576).toFixed(0)} MB`, {
      where: name,
      accepted: `pictures up to ${MAX_PICTURE_BYTES / 1_048_576} MB`,
    });
  const hash = createHash('sha256').update(bytes).digest('hex');
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
