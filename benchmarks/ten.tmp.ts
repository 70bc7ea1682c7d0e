import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { freePort } from '../scripts/parts/machine.mjs';
import { startPostgres } from '../scripts/parts/postgres.mjs';
import { benchFrames } from './frames';
import { sentToIntake, startIntakes, watched } from './handover';
import { startServerProcess } from './server-process';
const icons = join(dirname(createRequire(import.meta.url).resolve('lucide-static/package.json')), 'icons');
const all = readdirSync(icons).filter((n) => n.endsWith('.svg')).map((name) => ({ name, text: readFileSync(join(icons, name), 'utf8').replace(/currentColor/g, '#171b1c') }));
const folder = mkdtempSync(join(tmpdir(), 'tolvik-bench-'));
const postgres = await startPostgres({ folder, port: await freePort() });
const intakes = await startIntakes();
const server = await startServerProcess(postgres.url, { TOLVIK_INTAKES: intakes.addresses.join(';') });
try {
  if (process.env.WHAT !== 'ten') {
  console.log('watch', await watched(all.slice(0, 500)));
  console.log('intake', await sentToIntake(server, intakes.addresses[0], all.slice(0, 104)));
  }
  if (process.env.WHAT !== 'hand') {
  const n = Number(process.env.N ?? 10000);
  const from = performance.now();
  const id = await server.projectOf(Array.from({ length: n }, (_, i) => ({ name: `${i}-${all[i % all.length].name}`, text: all[i % all.length].text })));
  console.log('brought in', (performance.now() - from) / 1000);
  console.log(JSON.stringify(await benchFrames(server.url, id, 15000)));
  }
} finally { await server.close(); intakes.close(); await postgres.stop(); rmSync(folder, { recursive: true, force: true }); }
process.exit(0);
