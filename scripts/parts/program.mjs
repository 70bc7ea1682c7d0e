/** Programs of the repository that are built when they are run. */
import { buildIfChanged, checkNode, installPackages, root } from './machine.mjs';

// dist/ lies where these programs lie, so scripts are found by the same relative path.
const scriptsStayOutside = {
  name: 'scripts-stay-outside',
  setup: ({ onResolve }) => onResolve({ filter: /^\.\.\/scripts\// }, ({ path }) => ({ path, external: true })),
};

/** Installs what is missing, what the program needs of the machine too, builds it from its source, and runs it. */
export async function runProgram(name, source, ...needs) {
  checkNode();
  installPackages();
  for (const need of needs) need();
  buildIfChanged();
  // Only now: on a machine that had nothing they were not there, and what is bundled goes by what is installed.
  const { build } = await import('esbuild');
  const { nodeBuild } = await import('../build.mjs');
  const { plugins, ...options } = nodeBuild();
  await build({ ...options, entryPoints: { [name]: source }, plugins: [scriptsStayOutside, ...plugins] });
  await import(`${root}dist/${name}.mjs`);
}
