import { createHash, randomBytes } from 'node:crypto';
import { lstat, mkdir, realpath, rename, unlink } from 'node:fs/promises';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { refuse } from '@tolvik/core';

/** What a socket's path may be long, in bytes, on every system that has them. */
const LONGEST = 100;

/**
 * Does work on a folder or a file that no other process of the same user on this machine works on meanwhile; others
 * wait, and `waits` is called once before that. Who works holds a socket that listens: the system closes it with its
 * process, however that ends, so that nobody waits for one that is gone.
 */
export async function inTurn<T>(at: string, work: () => Promise<T>, waits: () => void): Promise<T> {
  const path = await placeFor(await wholePath(resolve(at)));
  let told = false;
  const tell = () => {
    if (!told) waits();
    told = true;
  };
  const waiting = new Set<Socket>();
  let server = await listenAt(path, waiting);
  while (!server) {
    if (!(await untilEnded(path, tell))) await removeDead(path);
    server = await listenAt(path, waiting);
  }
  try {
    return await work();
  } finally {
    server.close();
    for (const socket of waiting) socket.destroy();
  }
}

/** Links on the way followed, as far as it is there. */
async function wholePath(path: string): Promise<string> {
  try {
    return await realpath(path);
  } catch {
    return path === dirname(path) ? path : join(await wholePath(dirname(path)), basename(path));
  }
}

/** Where the socket of a path is: in a folder of this user's alone. */
async function placeFor(whole: string): Promise<string> {
  const name = createHash('sha256').update(whole).digest('hex').slice(0, 20);
  if (process.platform === 'win32') return `\\\\.\\pipe\\tolvik-${name}`;
  const { uid } = userInfo();
  const own = `tolvik-${uid}`;
  const folder = join(Buffer.byteLength(join(tmpdir(), own, name)) > LONGEST ? '/tmp' : tmpdir(), own);
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const found = await lstat(folder);
  if (!found.isDirectory() || found.uid !== uid)
    refuse('folder.turn', `${folder} is somebody else's`, {
      accepted: 'a folder for temporary files of your own (TMPDIR)',
    });
  return join(folder, name);
}

/** Listens, and holds those who come; null where somebody does already. */
const listenAt = (path: string, waiting: Set<Socket>): Promise<Server | null> =>
  new Promise((resolved, reject) => {
    const server = createServer((socket) => {
      waiting.add(socket);
      socket.on('error', () => {}).on('close', () => waiting.delete(socket));
    });
    server.once('error', (error: NodeJS.ErrnoException) =>
      error.code === 'EADDRINUSE' ? resolved(null) : reject(error),
    );
    server.listen(path, () => resolved(server));
  });

/** Waits for the end of who listens there; answers whether anybody did. */
const untilEnded = (path: string, onWaiting: () => void): Promise<boolean> =>
  new Promise((resolved) => {
    let met = false;
    connect(path, () => {
      met = true;
      onWaiting();
    })
      .on('error', () => {})
      .on('close', () => resolved(met))
      .resume();
  });

/** Takes away a socket whose process is gone. Another may have taken its place since: that one is put back. */
async function removeDead(path: string): Promise<void> {
  const aside = `${path}.${randomBytes(4).toString('hex')}`;
  try {
    await rename(path, aside);
  } catch (error) {
    // It went by itself.
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return;
    throw error;
  }
  const isAlive = await new Promise<boolean>((resolved) => {
    const socket = connect(aside, () => {
      socket.destroy();
      resolved(true);
    }).on('error', () => resolved(false));
  });
  await (isAlive ? rename(aside, path) : unlink(aside));
}
