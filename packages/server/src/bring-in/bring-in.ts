import { createHash } from 'node:crypto';
import { pictureArtwork, pictureFacts, type ReadArtwork, refuseEmpty, type StoredBlob } from '@tolvik/core';
import { type FileReport, type Incoming, takeFiles } from '@tolvik/intake';
import type { Upload } from './multipart';
import { type PackedArtwork, packed } from './read-worker';
import type { Reader } from './reader';

/** What was read of each file, and what became of it: brought in (with what was left out of it), or refused and why. */
export type ReadFiles = {
  read: { name: string; artwork: Uint8Array; report: FileReport }[];
  blobs: StoredBlob[];
  report: FileReport[];
};

export type ReadOptions = {
  /** Told after each file; `of` grows while zips are opened. */
  onRead?(done: number, of: number): void;
  signal?: AbortSignal;
};

/** Reads uploaded files one after the other, in threads. A bad file never disturbs the others: its trouble is its own, and told. */
export async function readFiles(uploads: readonly Upload[], reader: Reader, options: ReadOptions): Promise<ReadFiles> {
  const { taken, report } = await takeFiles(uploads, { ...options, read: (file) => readOne(file, reader) });
  return {
    read: taken.map(({ name, read, report: told }) => ({ name, artwork: read.text, report: told })),
    blobs: taken.flatMap(({ read }) => read.blobs),
    report,
  };
}

async function readOne(
  { name, bytes }: Incoming,
  reader: Reader,
): Promise<PackedArtwork & Pick<ReadArtwork, 'blobs' | 'dropped'>> {
  refuseEmpty(bytes, name);
  const facts = pictureFacts(bytes);
  if (!facts) return reader.read({ kind: 'artwork', name, bytes });
  const artwork = pictureArtwork(name, bytes, facts, createHash('sha256').update(bytes).digest('hex'));
  return { ...packed(artwork), blobs: artwork.blobs, dropped: artwork.dropped };
}
