import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { RenderPool } from '@tolvik/render';
import { PNG } from 'pngjs';
import { DrawnByBrowser } from './browser';
import { isSame, type Judged, judge, SIDE, type Source } from './measure';

/**
 * Holds what comes out against what came in, with a browser's drawing of the source as the judge: our own features,
 * or any folder of SVG files. `--look FOLDER` keeps the pictures of what differs.
 */
const root = fileURLToPath(new URL('..', import.meta.url));
const FEATURES = join(root, 'packages/render/test/features');
const AT_ONCE = 48;

const args = process.argv.slice(2);
const lookAt = args.indexOf('--look') >= 0 ? args.splice(args.indexOf('--look'), 2)[1] : undefined;
const only = args.indexOf('--only') >= 0 ? new RegExp(args.splice(args.indexOf('--only'), 2)[1]) : undefined;
const folder = args[0] ? resolve(args[0]) : FEATURES;

function filesIn(path: string): string[] {
  return readdirSync(path, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((entry) => (entry.isDirectory() ? filesIn(join(path, entry.name)) : /\.svg$/i.test(entry.name) ? [join(path, entry.name)] : []));
}

const paths = (statSync(folder).isDirectory() ? filesIn(folder) : [folder]).filter((path) => !only || only.test(path));
const sources: Source[] = paths.map((path) => ({ name: relative(folder, path).replace(/\.svg$/i, ''), bytes: readFileSync(path) }));
const pool = new RenderPool({ childPath: join(root, 'dist/render-child.mjs') });
const browser = await DrawnByBrowser.start(SIDE);
const results: Judged[] = [];
try {
  for (let at = 0; at < sources.length; at += AT_ONCE) {
    const some = await judge(
      sources.slice(at, at + AT_ONCE),
      browser,
      (job) => pool.render(job),
      lookAt
        ? (name, pictures) => {
            for (const [what, { width, height, data }] of Object.entries(pictures)) {
              const png = new PNG({ width, height });
              png.data = Buffer.from(data);
              mkdirSync(lookAt, { recursive: true });
              writeFileSync(join(lookAt, `${name.replaceAll('/', '_')}.${what}.png`), PNG.sync.write(png));
            }
          }
        : undefined,
    );
    results.push(...some);
    for (const result of some) if (!isSame(result.svg) || !isSame(result.png) || !isSame(result.pdf)) console.log(line(result));
  }
} finally {
  await browser.close();
  await pool.close();
}

function line({ name, svg, png, pdf, told, failed }: Judged): string {
  const percent = (share: number | null) => (share === null ? '—' : isSame(share) ? 'same' : `${(share * 100).toFixed(1)} %`);
  return `${name.padEnd(50)} SVG ${percent(svg).padEnd(8)} PNG ${percent(png).padEnd(8)} PDF ${percent(pdf).padEnd(8)} ${failed ?? told.join('; ')}`;
}

const count = (format: 'svg' | 'png' | 'pdf') => {
  const differ = results.filter((result) => !isSame(result[format]) && !result.failed);
  return { same: results.filter((result) => isSame(result[format])).length, told: differ.filter(({ told }) => told.length > 0).length, untold: differ.filter(({ told }) => told.length === 0).length };
};
console.log(`\n${results.length} files; ${results.filter(({ failed }) => failed).length} not made`);
for (const format of ['svg', 'png', 'pdf'] as const) {
  const { same, told, untold } = count(format);
  console.log(`${format.toUpperCase()}: ${same} same, ${told} differ and told, ${untold} differ untold`);
}
