/** Which file imports which, read from the sources: what the map of the house is drawn from and held to. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';

const IMPORT = /(?:from|import\() ?'([^']+)'|import '([^']+)'/g;

const sourcesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts'))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));

/** The file that a path without an ending stands for; null for what is no file of ours. */
const fileAt = (path) =>
  [`${path}.ts`, `${path}.tsx`, join(path, 'index.ts')].find((candidate) => existsSync(candidate)) ?? null;

/** Every source of the packages with the sources it imports: paths from the root, as a map of sets. */
export function importMap(root) {
  const packages = join(root, 'packages');
  const map = new Map();
  for (const name of readdirSync(packages)) {
    const src = join(packages, name, 'src');
    if (!existsSync(src)) continue;
    for (const file of sourcesIn(src)) {
      const imports = new Set();
      for (const [, named, bare] of readFileSync(file, 'utf8').matchAll(IMPORT)) {
        const said = named ?? bare;
        const own = /^@tolvik\/(\w+)$/.exec(said)?.[1];
        const target = own
          ? join(packages, own, 'src', 'index.ts')
          : said.startsWith('.')
            ? fileAt(join(dirname(file), said))
            : null;
        if (target && existsSync(target)) imports.add(relative(root, target));
      }
      map.set(relative(root, file), imports);
    }
  }
  return map;
}

/** The folder of a source, from the root: `packages/core/src/artwork/text`. */
export const folderOf = (file) => dirname(file);

/** The map of files as a map of folders: folder → folder → how many files import from it. */
export function folderMap(map) {
  const folders = new Map();
  for (const [file, imports] of map) {
    const from = folderOf(file);
    if (!folders.has(from)) folders.set(from, new Map());
    for (const target of imports) {
      const to = folderOf(target);
      if (to !== from) folders.get(from).set(to, (folders.get(from).get(to) ?? 0) + 1);
    }
  }
  return folders;
}

/** Circles: groups of nodes that all reach each other (Tarjan's strongly connected components of two or more). */
export function circlesIn(edges) {
  const index = new Map();
  const low = new Map();
  const stack = [];
  const circles = [];
  const visit = (node) => {
    index.set(node, index.size);
    low.set(node, index.get(node));
    stack.push(node);
    for (const next of edges.get(node)?.keys() ?? []) {
      if (!index.has(next)) visit(next);
      if (stack.includes(next)) low.set(node, Math.min(low.get(node), low.get(next)));
    }
    if (low.get(node) !== index.get(node)) return;
    const circle = [];
    let top;
    do circle.push((top = stack.pop()));
    while (top !== node);
    if (circle.length > 1) circles.push(circle.sort());
  };
  for (const node of edges.keys()) if (!index.has(node)) visit(node);
  return circles;
}

/** The room of a source: its folder right below the package, one deeper in artwork; a file that lies there alone is its own. */
export function roomOf(file) {
  const [, name, , ...rest] = file.split('/');
  const folders = rest.slice(0, -1);
  const depth = folders[0] === 'artwork' && folders.length > 1 ? 2 : 1;
  return `${name}/${folders.length > 0 ? folders.slice(0, depth).join('/') : rest[0].replace(/\.tsx?$/, '')}`;
}

/** Files that only gather what others say: the doors of the packages and of folders of folders. */
const isDoor = (file) => /^packages\/\w+\/src\/(artwork\/)?index\.ts$/.test(file);

/** The map of files as a map of rooms, doors left out: room → room → how many imports. */
export function roomMap(map) {
  const rooms = new Map();
  for (const [file, imports] of map) {
    if (isDoor(file)) continue;
    const from = roomOf(file);
    if (!rooms.has(from)) rooms.set(from, new Map());
    for (const target of imports) {
      const to = isDoor(target) ? null : roomOf(target);
      if (to && to !== from) rooms.get(from).set(to, (rooms.get(from).get(to) ?? 0) + 1);
    }
  }
  return rooms;
}

/** How high each node stands: 0 for what imports nothing, else one more than the highest it imports. */
export function ranks(edges) {
  const rank = new Map();
  const visit = (node) => {
    if (rank.has(node)) return rank.get(node);
    rank.set(node, 0);
    const below = [...(edges.get(node)?.keys() ?? [])].map(visit);
    rank.set(node, below.length > 0 ? Math.max(...below) + 1 : 0);
    return rank.get(node);
  };
  for (const node of edges.keys()) visit(node);
  return rank;
}
