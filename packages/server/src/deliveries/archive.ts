import { finished, type Writable } from 'node:stream';
import { FORMATS, type Format } from '@tolvik/core';
import yazl from 'yazl';
import type { Database } from '../db/database';
import type { DeliveryFileRow } from '../db/deliveries';
import { byBytes } from '../db/renders';

const BATCH = 50;
/** Bytes of files read at once: with those that are large, few of them. */
const BATCH_BYTES = 32 * 1_048_576;
/** Every entry has this date, so that the same files make the same archive. */
const DATE = new Date(Date.UTC(2000, 0, 1, 12));
/** How an entry is kept: pictures stored, text deflated. */
const entry = (isText: boolean) => ({ mtime: DATE, mode: 0o100644, compress: isText });

/**
 * Streams the made files of a delivery as a zip: pictures stored, text deflated, a batch at a time
 * in memory; `again` makes those whose bytes went to make room, `more` comes first. Paths are the plan's, which are safe by construction.
 */
export async function streamArchive(
  db: Database,
  files: readonly DeliveryFileRow[],
  again: (file: DeliveryFileRow) => Promise<Buffer | undefined>,
  out: Writable,
  more: { path: string; text: string } | null = null,
): Promise<void> {
  const zip = new yazl.ZipFile();
  const ended = new Promise<void>((resolve, reject) => {
    // Also where whoever wanted it is gone already.
    finished(out, (error) => (error && error.code !== 'ERR_STREAM_PREMATURE_CLOSE' ? reject(error) : resolve()));
    zip.on('error', reject);
  });
  zip.outputStream.pipe(out);
  if (more) zip.addBuffer(Buffer.from(more.text), more.path, entry(true));
  const made = files.filter((file) => file.state === 'made');
  const weightOf = (file: DeliveryFileRow) => Math.max(BATCH_BYTES / BATCH, file.measured?.bytes ?? 0);
  for (const batch of byBytes(made, weightOf, BATCH_BYTES)) {
    if (out.destroyed) break;
    const { rows } = await db.query<{ key: string; bytes: Buffer }>(
      'SELECT key, bytes FROM renders WHERE key = ANY($1)',
      [batch.map((file) => file.render_key)],
    );
    const bytes = new Map(rows.map((row) => [row.key, row.bytes]));
    for (const file of batch) {
      const content = bytes.get(file.render_key) ?? (await again(file));
      if (content) zip.addBuffer(content, file.path, entry(FORMATS[file.format as Format].markup));
    }
    if (out.writableNeedDrain && !out.destroyed)
      await new Promise((resolve) => out.once('drain', resolve).once('close', resolve));
  }
  zip.end();
  await ended;
}

/** Files as one zip in memory, pictures stored and text deflated; the same files make the same bytes. */
export async function zipOf<T extends { path: string; format: Format }>(
  files: readonly T[],
  bytesOf: (file: T) => Promise<Uint8Array>,
): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  const chunks: Buffer[] = [];
  const whole = new Promise<Buffer>((resolve, reject) => {
    zip.outputStream.on('data', (chunk: Buffer) => chunks.push(chunk));
    zip.outputStream.on('end', () => resolve(Buffer.concat(chunks)));
    zip.on('error', reject);
  });
  for (const file of files)
    zip.addBuffer(Buffer.from(await bytesOf(file)), file.path, entry(FORMATS[file.format].markup));
  zip.end();
  return whole;
}
