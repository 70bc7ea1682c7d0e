import type { StoredBlob } from '@tolvik/core';
import type { Queryable } from './database';

export async function putBlobs(
  db: Queryable,
  blobs: readonly { hash: string; mediaType: string; bytes: Uint8Array }[],
): Promise<void> {
  for (const { hash, mediaType, bytes } of blobs) {
    // What is put again is wanted again, so that it is not cleaned away a moment later.
    await db.query(
      "INSERT INTO blobs (hash, media_type, bytes) VALUES ($1, $2, $3) ON CONFLICT (hash) DO UPDATE SET put_at = now() WHERE blobs.put_at < now() - interval '1 day'",
      [hash, mediaType, Buffer.from(bytes)],
    );
  }
}

export async function readBlobs(db: Queryable, hashes: readonly string[]): Promise<StoredBlob[]> {
  if (hashes.length === 0) return [];
  const { rows } = await db.query<{ hash: string; media_type: string; bytes: Buffer }>(
    'SELECT hash, media_type, bytes FROM blobs WHERE hash = ANY($1)',
    [hashes],
  );
  return rows.map((row) => ({
    hash: row.hash,
    mediaType: row.media_type as StoredBlob['mediaType'],
    bytes: row.bytes,
  }));
}

/** The beginnings of blobs, where a picture says its size. */
export async function pictureHeads(
  db: Queryable,
  hashes: readonly string[],
): Promise<{ hash: string; head: Uint8Array }[]> {
  return (
    await db.query<{ hash: string; head: Buffer }>(
      'SELECT hash, substring(bytes FROM 1 FOR 4096) AS head FROM blobs WHERE hash = ANY($1)',
      [hashes],
    )
  ).rows;
}
