import { pagesOfModules, sharedFile } from '../parts/shared-code.mjs';

/** A build of an app whose pages begin in files of their own; `uses` says which modules each needs at once. */
function built(uses: Record<string, readonly string[]>) {
  const pages = {
    app: '/web/index.html',
    shelf: '/web/src/shelf/ShelfPage.tsx',
    project: '/web/src/app/ProjectPage.tsx',
    bench: '/web/src/bench/BenchPage.tsx',
    proof: '/web/src/proof/ProofPage.tsx',
    deliveries: '/web/src/deliveries/DeliveriesPage.tsx',
  };
  const modules = [...new Set(Object.values(uses).flat())];
  return [
    ...Object.entries(pages).map(([page, id]) => ({
      fileName: `${page}.js`,
      facadeModuleId: id,
      moduleIds: [id],
      imports: (uses[page] ?? []).map((module) => `${module}.js`),
    })),
    ...modules.map((module) => ({
      fileName: `${module}.js`,
      facadeModuleId: null,
      moduleIds: [`/core/${module}.ts`],
      // Each needs the next one, the last the first: a ring that has to come to an end.
      imports: module.startsWith('ring')
        ? modules.filter((each) => each.startsWith('ring')).map((each) => `${each}.js`)
        : [],
    })),
  ];
}

const fileOf = (uses: Record<string, readonly string[]>, module: string) => {
  const id = `/core/${module}.ts`;
  return sharedFile(id, pagesOfModules(built(uses)).get(id));
};

test('a module stands in the file of those that need it, and in no file of who does not', () => {
  expect(fileOf({ app: ['react'], bench: ['react'] }, 'react')).toBe('app');
  expect(fileOf({ shelf: ['card'] }, 'card')).toBe('shelf');
  expect(fileOf({ shelf: ['words'], project: ['words'] }, 'words')).toBe('shelf-and-project');
  expect(fileOf({ project: ['session'], proof: ['session'] }, 'session')).toBe('project');
  expect(fileOf({ proof: ['cells'], bench: ['cells'] }, 'cells')).toBe('bench-and-proof');
  expect(fileOf({ bench: ['plane'] }, 'plane')).toBe('bench');
});

test('what comes later stays apart, and so does where a page begins', () => {
  expect(sharedFile('/core/chart.ts', undefined)).toBeNull();
  const pages = pagesOfModules(built({ bench: ['plane'] }));
  for (const id of ['/web/src/bench/BenchPage.tsx', '/web/index.html'])
    expect(sharedFile(id, pages.get(id))).toBeNull();
  expect(sharedFile('/web/src/main.tsx', new Set(['app']))).toBeNull();
});

test('modules that need each other are followed once', () => {
  expect(fileOf({ proof: ['ring1', 'ring2'], bench: ['ring2'] }, 'ring1')).toBe('bench-and-proof');
});

test('a page that is not there is said', () => {
  expect(() => pagesOfModules(built({}).slice(1))).toThrow('no code begins at /index.html');
});
