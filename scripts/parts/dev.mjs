/** Reloading while one works: esbuild watches the Node side, Vite serves the browser side. */
import { context } from 'esbuild';
import { createServer } from 'vite';
import { nodeBuild } from '../build.mjs';
import { root } from './machine.mjs';

/** Builds, calls `onBuilt` and again after each change; answers how to stop. */
export async function watchNode(onBuilt) {
  let turn = Promise.resolve();
  let first;
  const ready = new Promise((resolve) => (first = resolve));
  const options = nodeBuild();
  const watcher = await context({
    ...options,
    plugins: [
      ...options.plugins,
      {
        name: 'restart',
        setup: ({ onEnd }) =>
          onEnd(({ errors }) => void (errors.length === 0 && (turn = turn.then(onBuilt).then(first)))),
      },
    ],
  });
  await watcher.watch();
  await ready;
  return () => watcher.dispose();
}

export async function serveWeb(port, apiPort) {
  const target = `http://127.0.0.1:${apiPort}`;
  const vite = await createServer({
    root: `${root}packages/web`,
    server: {
      host: '127.0.0.1',
      port,
      strictPort: true,
      proxy: { '/api': { target, changeOrigin: true, headers: { origin: target } } },
    },
  });
  await vite.listen();
  return () => vite.close();
}
