import { rmSync } from 'node:fs';

export default async () => {
  const { stop, folder } = globalThis.testPostgres;
  await stop();
  rmSync(folder, { recursive: true, force: true });
};
