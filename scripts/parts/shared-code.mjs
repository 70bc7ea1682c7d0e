/** Which file of the app's code a module goes to that several pages need: as few files as there can be, and nothing that a page does not need. */

/** Where the code of each page begins, and of the app around them all, as ends of their paths. */
const BEGINNINGS = {
  app: '/index.html',
  shelf: '/shelf/ShelfPage.tsx',
  project: '/app/ProjectPage.tsx',
  bench: '/bench/BenchPage.tsx',
  proof: '/proof/ProofPage.tsx',
  deliveries: '/deliveries/DeliveriesPage.tsx',
};
/** What the page's own script is. */
const ENTRY = '/src/main.tsx';

/**
 * Which pages need each module as soon as they are shown, told from code that was divided into files by who uses what:
 * of `{ fileName, facadeModuleId, moduleIds, imports }`, the chunks of a build.
 */
export function pagesOfModules(chunks) {
  const byName = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
  const pages = new Map();
  for (const [page, end] of Object.entries(BEGINNINGS)) {
    const seen = new Set();
    const reach = (chunk) => {
      if (!chunk || seen.has(chunk)) return;
      seen.add(chunk);
      for (const id of chunk.moduleIds) pages.set(id, (pages.get(id) ?? new Set()).add(page));
      for (const name of chunk.imports) reach(byName.get(name));
    };
    const first = chunks.find(({ facadeModuleId }) => facadeModuleId?.endsWith(end));
    if (!first) throw new Error(`no code begins at ${end}`);
    reach(first);
  }
  return pages;
}

/** The file for a module by the pages that need it; null for what none needs at first, and where a page begins. No stage is without the project's page, and no page without the app. */
export function sharedFile(id, pages) {
  if (!pages || [...Object.values(BEGINNINGS), ENTRY].some((end) => id.endsWith(end))) return null;
  if (pages.has('app')) return 'app';
  if (pages.size > 1 && pages.has('shelf')) return 'shelf-and-project';
  return pages.has('project') ? 'project' : [...pages].sort().join('-and-');
}
