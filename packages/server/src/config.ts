import { isIP } from 'node:net';
import { isAbsolute, join, resolve } from 'node:path';
import { inputWords } from '@tolvik/core';
import * as z from 'zod';

const environment = z.object({
  PORT: z.coerce.number().int().min(0).max(65535).default(4870),
  TOLVIK_BIND: z.string().default('127.0.0.1'),
  /** Asked of everybody; has to be there for the server to listen on more than loopback. */
  TOLVIK_ACCESS_KEY: z.string().min(12, 'a key of at least 12 characters').max(200).optional(),
  /** Where the database's files are, when they are on this machine: for telling how much room there is. */
  TOLVIK_DATA: z.string().optional(),
  /** Folders of this machine that deliveries may be written to, with semicolons between; `deliveries` in the data's folder where none is said. */
  TOLVIK_FOLDERS: z.string().max(10_000).optional(),
  /** Absolute paths that linked sources may be read from, several with semicolons between. */
  TOLVIK_SOURCES: z.string().max(10_000).default(''),
  /** Addresses that deliveries may be sent to, and all below them, with semicolons between; none where none is said. */
  TOLVIK_INTAKES: z.string().max(10_000).default(''),
  /** Names the app may be reached by besides loopback, with comma between. */
  TOLVIK_HOSTS: z.string().default(''),
  /** Addresses and networks (CIDR) of proxies whose word is taken for who asks and whether it was https, with comma between. */
  TOLVIK_PROXIES: z.string().max(10_000).default(''),
  TOLVIK_ROLE: z.enum(['all', 'web', 'worker']).default('all'),
  DATABASE_URL: z.string().min(1),
  TOLVIK_DIST: z.string().min(1),
  TOLVIK_WORKERS: z.coerce.number().int().min(1).max(64).optional(),
  /** How long one file may take to draw. */
  TOLVIK_FILE_SECONDS: z.coerce.number().min(0.5).max(600).default(20),
  /** How long one answer about a project may take to work out, and how much memory one project may hold. */
  TOLVIK_PROJECT_SECONDS: z.coerce.number().min(0.5).max(600).default(20),
  TOLVIK_PROJECT_MB: z.coerce.number().int().min(64).max(16_384).default(1024),
  TOLVIK_CACHE_MB: z.coerce.number().min(16).default(2048),
});

export type Config = {
  port: number;
  bind: string;
  hosts: string[];
  accessKey: string | null;
  /** Addresses and networks of proxies that are believed. */
  proxies: string[];
  dataFolder: string | null;
  /** Absolute paths of the folders that deliveries may be written to. */
  folders: string[];
  /** Absolute paths of the folders that artwork may be read from. */
  sources: string[];
  /** Addresses that deliveries may be sent to, as the URL standard writes them. */
  intakes: string[];
  /** That of them which is made when it is first needed; null where others were said. */
  ownFolder: string | null;
  role: 'all' | 'web' | 'worker';
  databaseUrl: string;
  childPath: string;
  folderChildPath: string;
  readWorkerPath: string;
  projectWorkerPath: string;
  projectSeconds: number;
  projectMb: number;
  webRoot: string;
  workers?: number;
  fileSeconds: number;
  cacheBytes: number;
};

/** Whether only this machine can reach an address. */
export const isLoopback = (address: string): boolean => /^(127(\.\d{1,3}){3}|localhost|::1|\[::1\])$/i.test(address);

/** An address of TOLVIK_INTAKES, as the URL standard writes it. */
function intakeBase(text: string): string {
  const url = URL.canParse(text) ? new URL(text) : null;
  if (!url || !/^https?:$/.test(url.protocol) || url.username || url.password || url.search || url.hash)
    throw new Error(`TOLVIK_INTAKES: ${text} is no plain http or https address`);
  return url.href;
}

/** Absolute paths from a variable that names several, with semicolons between. */
function foldersIn(variable: string, value = ''): string[] {
  const said = listIn(value);
  const relative = said.find((folder) => !isAbsolute(folder));
  if (relative) throw new Error(`${variable}: ${relative} is no absolute path`);
  return said.map((folder) => resolve(folder));
}

/** Proxies by address or network; a word such as `all` is none. */
function proxiesIn(value: string): string[] {
  const said = value
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean);
  for (const each of said) {
    const [address, bits] = each.split('/');
    const most = isIP(address) === 4 ? 32 : isIP(address) === 6 ? 128 : -1;
    if (most < 0 || (bits !== undefined && !(/^\d{1,3}$/.test(bits) && Number(bits) <= most)))
      throw new Error(`TOLVIK_PROXIES: ${each} is no address or network, such as 10.0.0.5 or 10.0.0.0/24`);
  }
  return said;
}

const listIn = (value: string): string[] =>
  value
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean);

/** Settings from the environment; throws with the variable's name when one is off. */
export function readConfig(env: Record<string, string | undefined>): Config {
  const parsed = environment.safeParse(env);
  if (!parsed.success)
    throw new Error(parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${inputWords(issue)}`).join('; '));
  const e = parsed.data;
  if (!isLoopback(e.TOLVIK_BIND) && !e.TOLVIK_ACCESS_KEY) {
    throw new Error(
      `TOLVIK_BIND is ${e.TOLVIK_BIND}, which others can reach; set TOLVIK_ACCESS_KEY to a key of at least 12 characters, which everybody is then asked for, or leave TOLVIK_BIND out.`,
    );
  }
  const said = foldersIn('TOLVIK_FOLDERS', e.TOLVIK_FOLDERS);
  const ownFolder = e.TOLVIK_FOLDERS === undefined && e.TOLVIK_DATA ? resolve(e.TOLVIK_DATA, 'deliveries') : null;
  return {
    port: e.PORT,
    bind: e.TOLVIK_BIND,
    hosts: e.TOLVIK_HOSTS.split(',')
      .map((host) => host.trim().toLowerCase())
      .filter(Boolean),
    accessKey: e.TOLVIK_ACCESS_KEY ?? null,
    proxies: proxiesIn(e.TOLVIK_PROXIES),
    dataFolder: e.TOLVIK_DATA || null,
    folders: ownFolder ? [ownFolder] : said,
    sources: foldersIn('TOLVIK_SOURCES', e.TOLVIK_SOURCES),
    ownFolder,
    intakes: listIn(e.TOLVIK_INTAKES).map(intakeBase),
    role: e.TOLVIK_ROLE,
    databaseUrl: e.DATABASE_URL,
    childPath: join(e.TOLVIK_DIST, 'render-child.mjs'),
    folderChildPath: join(e.TOLVIK_DIST, 'folder-child.mjs'),
    readWorkerPath: join(e.TOLVIK_DIST, 'read-worker.mjs'),
    projectWorkerPath: join(e.TOLVIK_DIST, 'project-worker.mjs'),
    projectSeconds: e.TOLVIK_PROJECT_SECONDS,
    projectMb: e.TOLVIK_PROJECT_MB,
    webRoot: join(e.TOLVIK_DIST, 'web'),
    workers: e.TOLVIK_WORKERS,
    fileSeconds: e.TOLVIK_FILE_SECONDS,
    cacheBytes: e.TOLVIK_CACHE_MB * 1_048_576,
  };
}
