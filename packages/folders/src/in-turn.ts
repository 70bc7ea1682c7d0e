import { createHash, randomBytes } from 'node:crypto';
import { lstat, mkdir, readdir, realpath, rename, unlink } from 'node:fs/promises';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';

/** What a socket's path may be long, in bytes, on every system that has them. */
const LONGEST = 100;
/** Who met others waits up to so long beside, so that not all of them try again in one moment. */
const ASIDE_MS = 60;

/**
 * Does work on a folder or a file that no other process of the same user on this machine works on meanwhile; others
 * wait, and `waits` is called once before that. Who works holds a socket that listens: the system closes it with its
 * process, however that ends, so that nobody waits for one that is gone. Where a machine has no place for sockets the
 * work is done all the same.
 */
export async function inTurn<T>(at: string, work: () => Promise<T>, waits: () => void): Promise<T> {
  const place = await placeFor(await wholePath(resolve(at))).catch(() => null);
  const end = place ? await turnAt(place, waits) : () => {};
  try {
    return await work();
  } finally {
    end();
  }
}

/**
 * Waits for the turn at a place; answers how it is ended. Each says first that it is there, under a name that nobody else
 * ever has, and looks at the others then: of two, the second to say so sees the first. Who sees anybody steps back.
 */
async function turnAt({ folder, name }: Place, waits: () => void): Promise<() => void> {
  for (let told = false; ; ) {
    const end = await sayThere(folder, name);
    const other = await metAmong(folder, name, end.own).catch((error) => {
      end();
      throw error;
    });
    if (!other) return end;
    end();
    if (!told) waits();
    told = true;
    await new Promise<void>((ended) => (other.closed ? ended() : other.once('close', () => ended())));
    await new Promise((resolved) => setTimeout(resolved, Math.random() * ASIDE_MS));
  }
}

/** An absolute path with the links on the way followed, as far as it is there. */
export async function wholePath(path: string): Promise<string> {
  try {
    return await realpath(path);
  } catch {
    return path === dirname(path) ? path : join(await wholePath(dirname(path)), basename(path));
  }
}

/** Where the sockets of a path are, and how their names begin. */
type Place = { folder: string; name: string };

/** A folder of this user's alone. Throws where there can be none, or no socket in it. */
async function placeFor(whole: string): Promise<Place> {
  const name = createHash('sha256').update(whole).digest('hex').slice(0, 20);
  // Not by name: in a container a user may have none.
  const uid = process.getuid?.();
  const own = `tolvik-${uid}`;
  const longest = join(tmpdir(), own, `${name}.${'0'.repeat(16)}`);
  const folder = join(Buffer.byteLength(longest) > LONGEST ? '/tmp' : tmpdir(), own);
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const found = await lstat(folder);
  if (!found.isDirectory() || found.uid !== uid) throw new Error(`${folder} is somebody else's`);
  (await sayThere(folder, 'tried'))();
  return { folder, name };
}

/** Listens, and holds who comes until the end. It is seen under its name only once it listens. */
async function sayThere(folder: string, name: string): Promise<(() => void) & { own: string }> {
  const key = randomBytes(8).toString('hex');
  const own = `${name}.${key}`;
  const waiting = new Set<Socket>();
  const server = createServer((socket) => {
    waiting.add(socket);
    socket.on('error', () => {}).on('close', () => waiting.delete(socket));
  });
  await listening(server, join(folder, key));
  await rename(join(folder, key), join(folder, own));
  const end = () => {
    // Its name goes first: whoever reads it afterwards finds nobody there, and is right.
    unlinkSoon(join(folder, own));
    server.close();
    for (const socket of waiting) socket.destroy();
  };
  return Object.assign(end, { own });
}

const listening = (server: Server, path: string): Promise<void> =>
  new Promise((resolved, reject) => {
    server.once('error', reject);
    server.listen(path, resolved);
  });

/** A connection to one of the others that is there; what those left that are gone is taken away. */
async function metAmong(folder: string, name: string, own: string): Promise<Socket | null> {
  for (const each of await readdir(folder)) {
    if (!each.startsWith(`${name}.`) || each === own) continue;
    const socket = await connected(join(folder, each));
    if (socket) return socket;
    unlinkSoon(join(folder, each));
  }
  return null;
}

/** What a connection fails with where nobody listens, or no longer by the time that it is taken up. */
const GONE = new Set(['ECONNREFUSED', 'ENOENT', 'ECONNRESET', 'EPIPE']);

/** A connection, or null where nobody listens. One that fails for any other reason counts as somebody: it ends at once. */
const connected = (path: string): Promise<Socket | null> =>
  new Promise((resolved) => {
    const socket = connect(path, () => resolved(socket)).resume();
    socket.on('error', ({ code = '' }: NodeJS.ErrnoException) => resolved(GONE.has(code) ? null : socket));
  });

const unlinkSoon = (path: string): void => void unlink(path).catch(() => {});
