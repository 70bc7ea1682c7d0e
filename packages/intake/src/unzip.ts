import { crc32 } from 'node:zlib';
import { type Problem, Refusal, refuse } from '@tolvik/core';
import yauzl from 'yauzl';

export const ZIP_LIMITS = { entries: 10_000, entryBytes: 32 * 1_048_576, totalBytes: 512 * 1_048_576, ratio: 1000 };

export type ZipEntry = { name: string; bytes: Buffer } | { name: string; problem: Problem };

/** Files of no use to anyone: folders, resource forks, thumbnails. */
const PASSED_OVER = /(^|\/)(__MACOSX\/|\.|Thumbs\.db$)|\/$/i;

/**
 * The files in a zip (APPNOTE 6.3), one after the other, names for people only and never paths; one that cannot be
 * unpacked, or is not what its checksum says, is told by itself. Refuses archives that are encrypted, climb out of
 * their folder, or grow beyond `ZIP_LIMITS`.
 */
export async function* unzip(archive: Buffer, name: string): AsyncGenerator<ZipEntry> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
    yauzl.fromBuffer(
      archive,
      { lazyEntries: true, validateEntrySizes: true, strictFileNames: true },
      (error, opened) => (error ? reject(error) : resolve(opened)),
    );
  }).catch((error: Error) =>
    refuse('zip.broken', `${name} is not a zip that can be read: ${error.message}`, { where: name }),
  );
  if (zip.entryCount > ZIP_LIMITS.entries)
    refuse('zip.entries', `${name} holds ${zip.entryCount} files`, {
      where: name,
      accepted: `up to ${ZIP_LIMITS.entries} files`,
    });
  const entries: yauzl.Entry[] = await new Promise<yauzl.Entry[]>((resolve, reject) => {
    const list: yauzl.Entry[] = [];
    zip.on('entry', (entry: yauzl.Entry) => {
      list.push(entry);
      zip.readEntry();
    });
    zip.on('end', () => resolve(list));
    zip.on('error', reject);
    zip.readEntry();
  }).catch((error: Error) =>
    refuse(
      /relative path|absolute path|invalid characters/.test(error.message) ? 'zip.path' : 'zip.broken',
      `${name} was refused: ${error.message}`,
      {
        where: name,
        accepted: "names inside the archive's own folders",
      },
    ),
  );
  let total = 0;
  for (const entry of entries) {
    if (PASSED_OVER.test(entry.fileName)) continue;
    if (entry.isEncrypted())
      refuse('zip.password', `${name} is locked with a password`, {
        where: name,
        accepted: 'a zip without a password',
      });
    total += entry.uncompressedSize;
    const bomb = entry.uncompressedSize > 1_048_576 && entry.uncompressedSize > entry.compressedSize * ZIP_LIMITS.ratio;
    if (bomb || total > ZIP_LIMITS.totalBytes || entry.uncompressedSize > ZIP_LIMITS.entryBytes) {
      refuse('zip.size', `${name} grows beyond what one archive may hold (at ${entry.fileName})`, {
        where: name,
        accepted: `files up to ${ZIP_LIMITS.entryBytes / 1_048_576} MB, ${ZIP_LIMITS.totalBytes / 1_048_576} MB in all`,
      });
    }
  }
  for (const entry of entries) {
    if (PASSED_OVER.test(entry.fileName)) continue;
    try {
      yield { name: entry.fileName, bytes: await readEntry(zip, entry, name) };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      yield { name: entry.fileName.split('/').at(-1) ?? entry.fileName, problem: error.problem };
    }
  }
}

function readEntry(zip: yauzl.ZipFile, entry: yauzl.Entry, name: string): Promise<Buffer> {
  return new Promise<Buffer>((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(error);
      const chunks: Buffer[] = [];
      let sum = 0;
      stream.on('data', (chunk: Buffer) => {
        sum = crc32(chunk, sum);
        chunks.push(chunk);
      });
      stream.on('end', () =>
        sum === entry.crc32 ? resolve(Buffer.concat(chunks)) : reject(new Error('its checksum is of other bytes')),
      );
      stream.on('error', reject);
    });
  }).catch((error: Error) =>
    refuse('zip.broken', `${name}: ${entry.fileName} could not be unpacked: ${error.message}`, { where: name }),
  );
}
