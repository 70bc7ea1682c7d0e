import { pictureFacts, type StoredBlob } from '@tolvik/core';
import { LRUCache } from 'lru-cache';
import { pictureHeads, readBlobs } from '../db/blobs';
import type { Database } from '../db/database';
import type { PictureInfo } from './open-project';

const MOST_BYTES = 128 * 1_048_576;

/** Pictures that files show, by hash; what a hash stands for never changes, so the last ones used are kept at hand. */
export class Pictures {
  private readonly recent: LRUCache<string, StoredBlob>;

  /** `maxSize` is what is kept at hand, in bytes. */
  constructor(
    private readonly db: Database,
    maxSize = MOST_BYTES,
  ) {
    this.recent = new LRUCache({ maxSize, sizeCalculation: ({ bytes }) => Math.max(1, bytes.length) });
  }

  /** The pictures with these hashes, as far as there are any. */
  async read(hashes: readonly string[]): Promise<StoredBlob[]> {
    // Held from the first look on: what is read now may push others of them out of what is kept.
    const found = new Map<string, StoredBlob>();
    for (const hash of hashes) {
      const known = this.recent.get(hash);
      if (known) found.set(hash, known);
    }
    const missing = hashes.filter((hash) => !found.has(hash));
    for (const blob of missing.length > 0 ? await readBlobs(this.db, missing) : []) {
      found.set(blob.hash, blob);
      this.recent.set(blob.hash, blob);
    }
    return hashes.flatMap((hash) => found.get(hash) ?? []);
  }

  /** How large these pictures are, in px; those that are not here, or are no pictures, are left out. */
  async infosOf(hashes: readonly string[]): Promise<PictureInfo[]> {
    if (hashes.length === 0) return [];
    const infos: PictureInfo[] = [];
    for (const { hash, head } of await pictureHeads(this.db, hashes)) {
      // Some pictures say their size only after long notes.
      const facts = pictureFacts(head) ?? pictureFacts((await this.read([hash]))[0]?.bytes ?? head);
      if (facts) infos.push({ hash, width: facts.width, height: facts.height });
    }
    return infos;
  }
}
