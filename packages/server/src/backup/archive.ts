import { createHash, type Hash } from 'node:crypto';
import { type FileHandle, open } from 'node:fs/promises';
import { promisify } from 'node:util';
import { constants, deflateRaw as deflateRawOf, inflateRaw as inflateRawOf } from 'node:zlib';
import * as z from 'zod';

/**
 * A backup as a file of its own kind: `TOLVIKBK`, then blocks of a type (one letter), a length (4 bytes, big-endian) and
 * so many bytes, then the SHA-256 of all before. A block is the head (H), the beginning of a table (T), rows of it as
 * PostgreSQL's COPY text, deflated (D, RFC 1951), or the end (E). It holds data alone: nothing in it is ever run.
 */
const MAGIC = Buffer.from('TOLVIKBK');
/** Bytes of rows in one block, before they are deflated. */
const BLOCK = 1_048_576;
const LARGEST_BLOCK = 64 * 1_048_576;
const LARGEST_INFLATED = 64 * 1_048_576;
const HASH_BYTES = 32;
export const BACKUP_VERSION = 1;

const deflateRaw = promisify(deflateRawOf) as (bytes: Uint8Array, options: object) => Promise<Buffer>;
const inflateRaw = promisify(inflateRawOf) as (bytes: Uint8Array, options: object) => Promise<Buffer>;

const name = z.string().regex(/^[a-z0-9_]{1,60}$/);
const head = z.strictObject({
  version: z.number().int().min(1),
  /** How many steps the database had taken. */
  step: z.number().int().min(1),
  at: z.iso.datetime(),
});
export type BackupHead = z.infer<typeof head>;
const table = z.strictObject({ table: name, columns: z.array(name).min(1).max(100) });
export type BackupTable = z.infer<typeof table>;

export type BackupPart =
  | ({ kind: 'head' } & BackupHead)
  | ({ kind: 'table' } & BackupTable)
  | { kind: 'rows'; bytes: Buffer }
  | { kind: 'end' };

/** A backup cannot be read or brought back; the message is a sentence for people. */
export class BackupTrouble extends Error {}
const damaged = (): never => {
  throw new BackupTrouble('it is damaged: what it holds is not what was written');
};

/** Writes a backup, part by part. */
export class BackupWriter {
  private readonly hash = createHash('sha256');
  private waiting: Buffer[] = [];
  private held = 0;

  private constructor(private readonly file: FileHandle) {}

  /** Makes a file that nobody else may read; throws where it is there already. */
  static async open(path: string, facts: Omit<BackupHead, 'version'>): Promise<BackupWriter> {
    const writer = new BackupWriter(await open(path, 'wx', 0o600));
    await writer.put(MAGIC);
    await writer.block('H', Buffer.from(JSON.stringify({ version: BACKUP_VERSION, ...facts })));
    return writer;
  }

  async table(facts: BackupTable): Promise<void> {
    await this.flush();
    await this.block('T', Buffer.from(JSON.stringify(facts)));
  }

  async rows(bytes: Buffer): Promise<void> {
    this.waiting.push(bytes);
    this.held += bytes.length;
    if (this.held >= BLOCK) await this.flush();
  }

  async end(): Promise<void> {
    await this.flush();
    await this.block('E', Buffer.alloc(0));
    await this.file.write(this.hash.digest());
    await this.file.sync();
    await this.file.close();
  }

  close = (): Promise<void> => this.file.close();

  private async flush(): Promise<void> {
    const all = Buffer.concat(this.waiting.splice(0));
    this.held = 0;
    // A single row may be larger than a block.
    for (let at = 0; at < all.length; at += BLOCK)
      await this.block('D', await deflateRaw(all.subarray(at, at + BLOCK), { level: constants.Z_BEST_SPEED }));
  }

  private async block(type: string, bytes: Buffer): Promise<void> {
    const before = Buffer.alloc(5);
    before.write(type, 'latin1');
    before.writeUInt32BE(bytes.length, 1);
    await this.put(before);
    await this.put(bytes);
  }

  private async put(bytes: Buffer): Promise<void> {
    this.hash.update(bytes);
    await this.file.write(bytes);
  }
}

/** Reads a backup's parts, in order. Throws `BackupTrouble` where it is none, is damaged, or was made by a newer version. */
export async function* backupParts(path: string): AsyncGenerator<BackupPart> {
  const file = await open(path, 'r');
  try {
    const stat = await file.stat();
    if (!stat.isFile()) throw new BackupTrouble('it is no file');
    const reader = new Reader(file, stat.size);
    const magic = stat.size < MAGIC.length + HASH_BYTES ? Buffer.alloc(0) : await reader.take(MAGIC.length);
    if (!magic.equals(MAGIC)) throw new BackupTrouble('it is no backup made by "npm run backup"');
    for (let kind: BackupPart['kind'] | null = null; kind !== 'end'; ) {
      const part = await reader.part();
      if ((kind === null) !== (part.kind === 'head') || (part.kind === 'rows' && kind === 'head')) damaged();
      yield part;
      kind = part.kind;
    }
    await reader.finish();
  } finally {
    await file.close();
  }
}

class Reader {
  private readonly hash: Hash = createHash('sha256');
  private at = 0;

  constructor(
    private readonly file: FileHandle,
    private readonly size: number,
  ) {}

  async take(bytes: number): Promise<Buffer> {
    if (this.at + bytes > this.size - HASH_BYTES) damaged();
    const taken = await this.read(bytes);
    this.hash.update(taken);
    return taken;
  }

  private async read(bytes: number): Promise<Buffer> {
    const into = Buffer.alloc(bytes);
    for (let done = 0; done < bytes; ) {
      const { bytesRead } = await this.file.read(into, done, bytes - done, this.at + done);
      if (bytesRead === 0) damaged();
      done += bytesRead;
    }
    this.at += bytes;
    return into;
  }

  async part(): Promise<BackupPart> {
    const before = await this.take(5);
    const length = before.readUInt32BE(1);
    if (length > LARGEST_BLOCK) damaged();
    const bytes = await this.take(length);
    switch (before.toString('latin1', 0, 1)) {
      case 'H':
        return { kind: 'head', ...readHead(bytes) };
      case 'T':
        return { kind: 'table', ...(table.safeParse(jsonIn(bytes)).data ?? damaged()) };
      case 'D':
        return {
          kind: 'rows',
          bytes: await inflateRaw(bytes, { maxOutputLength: LARGEST_INFLATED }).catch(damaged),
        };
      case 'E':
        return { kind: 'end' };
      default:
        return damaged();
    }
  }

  /** Holds what was read against the sum at the end, after which there is nothing. */
  async finish(): Promise<void> {
    if (this.at !== this.size - HASH_BYTES) damaged();
    if (!(await this.read(HASH_BYTES)).equals(this.hash.digest())) damaged();
  }
}

function readHead(bytes: Buffer): BackupHead {
  const json = jsonIn(bytes) as { version?: unknown } | null;
  if (typeof json?.version === 'number' && json.version > BACKUP_VERSION)
    throw new BackupTrouble('it was made by a newer Tolvik');
  return head.safeParse(json).data ?? damaged();
}

function jsonIn(bytes: Buffer): unknown {
  try {
    return JSON.parse(bytes.toString('utf8'));
  } catch {
    return damaged();
  }
}
