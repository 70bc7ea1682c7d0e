import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { FIRST_FILES } from '@tolvik/core';

/** What a page of the app will need as soon as it is there, told with it so that the browser begins with all of it at once. */
export type FirstNeeds = {
  /** What of the API the stage reads before it can show anything. */
  data: string[];
  /** The code of the stage, beside what the page itself names. */
  code: readonly string[];
  /** Code of where one goes from here, to be fetched when there is nothing else to do. */
  later: readonly string[];
};

/** Where the code of each stage begins, by its route. */
const PAGES: Readonly<Record<string, string>> = {
  bench: 'src/bench/BenchPage.tsx',
  proof: 'src/proof/ProofPage.tsx',
  deliveries: 'src/deliveries/DeliveriesPage.tsx',
};
const PROJECT = 'src/app/ProjectPage.tsx';
const SHELF = 'src/shelf/ShelfPage.tsx';
const FIRST_STAGE = 'bench';

/** What the build tells of each module that it made a file of: where that is, and which others it imports. */
type BuiltModules = Record<string, { file: string; imports?: string[]; isEntry?: boolean }>;

/** Reads what the build told of the app's code; nothing where there is no build. */
export function builtModules(webRoot: string): BuiltModules {
  const path = join(webRoot, '.vite', 'manifest.json');
  return existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as BuiltModules) : {};
}

/** What the app will need first at each of its paths. */
export function firstNeedsOf(built: BuiltModules): (path: string) => FirstNeeds {
  const reached = (from: readonly string[], seen = new Set<string>()): Set<string> => {
    for (const name of from)
      if (!seen.has(name) && built[name]) {
        seen.add(name);
        reached(built[name].imports ?? [], seen);
      }
    return seen;
  };
  const withPage = reached(Object.keys(built).filter((name) => built[name].isEntry));
  const codeOf = (...pages: string[]) =>
    [...reached(pages)].filter((name) => !withPage.has(name)).map((name) => `/${built[name].file}`);
  const shelf = codeOf(SHELF);
  const project = codeOf(PROJECT, ...Object.values(PAGES)).filter((path) => !shelf.includes(path));
  const stages = new Map(Object.entries(PAGES).map(([route, page]) => [route, codeOf(PROJECT, page)]));
  return (path) => {
    const [, id, stage = FIRST_STAGE] = /^\/projects\/([\w-]{1,64})(?:\/(\w+)(?:\/|$)|\/?$)/.exec(path) ?? [];
    if (!id) return path === '/' ? { data: [], code: shelf, later: project } : { data: [], code: [], later: [] };
    const records = `/api/projects/${id}/records?since=0`;
    return {
      data: stage === 'proof' ? [records, `/api/projects/${id}/made?first=${FIRST_FILES}`] : [records],
      code: stages.get(stage) ?? [],
      later: [],
    };
  };
}
