import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type IntakeRules, pathWithin, refusals } from '@tolvik/core';
import { unzip } from '@tolvik/intake';
import { decoded } from './decoded';
import type { StandInKind } from './kinds';

/** Of one file, and of all that is kept, in bytes. */
const LARGEST_FILE = 50 * 1_048_576;
const MOST_KEPT = 500 * 1_048_576;
/** Requests that are answered at once; others are asked to come back. */
const MOST_AT_ONCE = 16;

export type StandIn = {
  address: string;
  /** What was taken, by its path. */
  files: ReadonlyMap<string, Buffer>;
  close(): Promise<void>;
};

/**
 * Starts an intake on this machine alone. It takes files by PUT at their paths, decodes them, and answers 201 or 204;
 * what it does not take is answered with 4xx and a problem document (RFC 9457) that says why. A zip is posted to its
 * root, and answered with those of its files that are not taken. GET lists what it has.
 */
export async function startStandIn(kind: StandInKind, port = kind.port): Promise<StandIn> {
  const files = new Map<string, Buffer>();
  let busy = 0;
  const server = createServer((request, response) => {
    busy++;
    response.once('close', () => busy--);
    const answered = busy > MOST_AT_ONCE ? comeBack(response) : answer(kind, files, request, response);
    Promise.resolve(answered).catch((error: Error) => problem(response, 500, 'It broke', error.message));
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    files,
    close: () => closed(server),
  };
}

async function answer(
  { name, key, rules }: StandInKind,
  files: Map<string, Buffer>,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  if (key !== null && request.headers.authorization !== `Bearer ${key}`)
    return problem(response, 401, 'A key is asked for', 'send it as Authorization: Bearer …');
  const { pathname } = new URL(request.url ?? '/', 'http://127.0.0.1');
  if (request.method === 'GET') {
    response.setHeader('content-type', 'application/json');
    response.end(JSON.stringify({ name, rules, files: [...files.keys()].sort() }));
    return;
  }
  if (request.method === 'POST' && pathname === '/') return answerZip(rules, files, request, response);
  if (request.method !== 'PUT') return problem(response, 405, 'Files are put at their paths', 'by PUT');
  const path = pathWithin.safeParse(decode(pathname.slice(1))).data;
  if (!path) return problem(response, 400, 'Not a path', 'a file needs a path within the intake');
  const bytes = await bodyOf(request);
  if (!bytes) return problem(response, 413, 'Too large', `files of up to ${LARGEST_FILE / 1_048_576} MB are read`);
  const isNew = !files.has(path);
  const broken = await taken(rules, files, path, bytes);
  if (broken) return problem(response, 422, 'Not taken', broken);
  response.statusCode = isNew ? 201 : 204;
  response.end();
}

/** Takes a file when it fits the rules; else says why it does not. */
async function taken(
  rules: IntakeRules,
  files: Map<string, Buffer>,
  path: string,
  bytes: Buffer,
): Promise<string | null> {
  try {
    const broken = refusals(rules, await decoded(path, bytes)).map(({ words }) => `it ${words}`);
    if (broken.length > 0) return broken.join('; ');
  } catch (error) {
    return (error as Error).message;
  }
  const kept = [...files].reduce((sum, [at, each]) => sum + (at === path ? 0 : each.length), bytes.length);
  if (kept > MOST_KEPT) return 'this stand-in has no room left';
  files.set(path, bytes);
  return null;
}

/** Takes the files of a zip, each by itself, and lists those that it does not take. */
async function answerZip(
  rules: IntakeRules,
  files: Map<string, Buffer>,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const bytes = await bodyOf(request);
  if (!bytes) return problem(response, 413, 'Too large', `zips of up to ${LARGEST_FILE / 1_048_576} MB are read`);
  const refused: { path: string; why: string }[] = [];
  try {
    for await (const entry of unzip(bytes, 'the zip')) {
      const path = pathWithin.safeParse(entry.name).data;
      const why =
        'problem' in entry ? entry.problem.message : path ? await taken(rules, files, path, entry.bytes) : 'no path';
      if (why) refused.push({ path: entry.name, why });
    }
  } catch (error) {
    return problem(response, 422, 'Not taken', (error as Error).message);
  }
  response.setHeader('content-type', 'application/json');
  response.end(JSON.stringify({ refused }));
}

function comeBack(response: ServerResponse): void {
  response.setHeader('retry-after', '1');
  problem(response, 429, 'Busy', 'come back in a moment');
}

function problem(response: ServerResponse, status: number, title: string, detail: string): void {
  response.writeHead(status, { 'content-type': 'application/problem+json' });
  response.end(JSON.stringify({ title, status, detail }));
}

function decode(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return '';
  }
}

/** The whole body, or null when it is larger than may be; the rest of it is read and let go. */
async function bodyOf(request: IncomingMessage): Promise<Buffer | null> {
  const chunks: Buffer[] = [];
  let length = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    length += chunk.length;
    if (length <= LARGEST_FILE) chunks.push(chunk);
  }
  return length > LARGEST_FILE ? null : Buffer.concat(chunks);
}

const closed = (server: Server): Promise<void> =>
  new Promise((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
