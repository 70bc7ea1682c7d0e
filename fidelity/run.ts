import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { RenderPool, shippedFonts } from '@tolvik/render';
import { PNG } from 'pngjs';
import { optimize } from 'svgo';
import { intoDocument } from '../scripts/parts/documents.mjs';
import { DrawnByBrowser } from './browser';
import { crispTable } from './crisp';
import { INK_HEAD, inkRow, inOneInk, outlineAll, randomLogos } from './inks';
import { FORMATS, isSame, type Judged, judge, type Seen, SIDE, type Source } from './measure';
import { packageSources } from './packages';
import { peerSources } from './peer';
import { countOf, line, markdown } from './report';
import { SHAPES_HEAD, shapeRows } from './shapes';

/**
 * Holds what comes out against what came in, with a browser's drawing of the source as the judge: our own features
 * (`features`), drawings of others (`packages`), those by which a renderer of others is tested (`peer`), all of them in one ink (`inks`), with their shapes as outlines, united and in EPS (`shapes`), how crisp they are (`crisp`), or any folder of SVG files. `--look FOLDER` keeps the pictures that
 * were compared, `--only PATTERN` and `--every N` take some of the files. Exit code 1 when something differs and nobody was told.
 */
const root = fileURLToPath(new URL('..', import.meta.url));
const FEATURES = join(root, 'packages/render/test/features');
const AT_ONCE = 48;

const args = process.argv.slice(2);
const lookAt = args.indexOf('--look') >= 0 ? args.splice(args.indexOf('--look'), 2)[1] : undefined;
const only = args.indexOf('--only') >= 0 ? new RegExp(args.splice(args.indexOf('--only'), 2)[1]) : undefined;
const every = args.indexOf('--every') >= 0 ? Number(args.splice(args.indexOf('--every'), 2)[1]) : 1;
const which = args[0] ?? 'all';

function filesIn(path: string): string[] {
  return readdirSync(path, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((entry) =>
      entry.isDirectory()
        ? filesIn(join(path, entry.name))
        : /\.svg$/i.test(entry.name)
          ? [join(path, entry.name)]
          : [],
    );
}

const inFolder = (folder: string): Source[] =>
  (statSync(folder).isDirectory() ? filesIn(folder) : [folder]).map((path) => ({
    name: relative(folder, path).replace(/\.svg$/i, ''),
    bytes: readFileSync(path),
  }));

/** What is asked for: our features, the packages, or a folder of somebody's own. */
const parts: { part: string; sources: Source[] }[] = [];
if (which === 'all' || which === 'features') parts.push({ part: 'features', sources: inFolder(FEATURES) });
if (which === 'all' || which === 'packages') parts.push({ part: 'packages', sources: packageSources() });
if (which === 'peer') parts.push({ part: 'peer', sources: peerSources() });
const withInks = which === 'all' || which === 'inks';
const withShapes = which === 'all' || which === 'shapes';
const withCrisp = which === 'all' || which === 'crisp';
if (parts.length === 0 && !withInks && !withShapes && !withCrisp)
  parts.push({ part: '', sources: inFolder(resolve(which)) });

const pool = new RenderPool({ childPath: join(root, 'dist/render-child.mjs') });
const browser = await DrawnByBrowser.start(SIDE);
let untold = 0;
try {
  for (const { part, sources } of parts) {
    const chosen = sources.filter(({ name }, i) => (!only || only.test(name)) && i % every === 0);
    const results: Judged[] = [];
    for (let at = 0; at < chosen.length; at += AT_ONCE) {
      const some = await judge(
        chosen.slice(at, at + AT_ONCE),
        browser,
        shippedFonts(import.meta.url),
        (job) => pool.render(job),
        lookAt ? keepPictures(lookAt) : undefined,
      );
      results.push(...some);
      for (const result of some) if (FORMATS.some((format) => !isSame(result[format]))) console.log(line(result));
    }
    results.sort((a, b) => (a.name < b.name ? -1 : 1));
    for (const format of FORMATS) untold += countOf(results, format).untold;
    let text = markdown(results);
    if (part === 'packages') text += `\n\n${weights(chosen, results)}`;
    console.log(`\n${text}\n`);
    if (part && !only && every === 1) intoDocument(join(root, 'docs/fidelity.md'), part, text);
  }
  if (withInks) {
    const fonts = shippedFonts(import.meta.url);
    const some = <T>(all: readonly T[]) => all.filter((_, i) => i % every === 0);
    const rows = [
      inkRow('random logos', await outlineAll(some(randomLogos()), browser)),
      inkRow('packages', await outlineAll(inOneInk(some(packageSources()), fonts), browser)),
    ];
    const text = [INK_HEAD, ...rows].join('\n');
    console.log(text);
    if (every === 1) intoDocument(join(root, 'docs/fidelity.md'), 'inks', text);
  }
  if (withShapes) {
    const chosen = packageSources().filter(({ name }, i) => (!only || only.test(name)) && i % every === 0);
    const rows = await shapeRows(chosen, browser, shippedFonts(import.meta.url), (job) => pool.render(job));
    const text = [SHAPES_HEAD, ...rows].join('\n');
    console.log(text);
    if (every === 1 && !only) intoDocument(join(root, 'docs/fidelity.md'), 'shapes', text);
  }
  if (withCrisp) {
    const text = crispTable(packageSources());
    console.log(text);
    intoDocument(join(root, 'docs/crispness.md'), 'crisp', text);
  }
} finally {
  await browser.close();
  await pool.close();
}
process.exit(untold > 0 ? 1 : 0);

/** How heavy our SVG files are beside their sources as the optimiser leaves them at its defaults, and beside the sources themselves. */
function weights(sources: readonly Source[], results: readonly Judged[]): string {
  const ours = new Map(results.map(({ name, weight }) => [name, weight ?? 0]));
  let [sum, optimised] = [0, 0];
  const heavier: string[] = [];
  for (const { name, bytes } of sources) {
    const weight = ours.get(name) ?? 0;
    sum += weight;
    optimised += Buffer.byteLength(optimize(Buffer.from(bytes).toString('utf8')).data);
    if (weight > bytes.length) heavier.push(`${name} (${weight - bytes.length} bytes)`);
  }
  const than =
    heavier.length === 0 ? 'none is' : `${heavier.length} of ${sources.length} ${heavier.length === 1 ? 'is' : 'are'}`;
  return `Weight of the SVG files, each with or without width and height as its source: ${(sum / 1024).toFixed(0)} KB, of the sources through the optimiser at its defaults ${(optimised / 1024).toFixed(0)} KB (${(sum / optimised).toFixed(2)} of it); ${than} heavier than the source${heavier.length ? `: ${heavier.join(', ')}` : ''}.`;
}

function keepPictures(folder: string): Seen {
  mkdirSync(folder, { recursive: true });
  return (name, pictures) => {
    for (const [what, { width, height, data }] of Object.entries(pictures)) {
      const png = new PNG({ width, height });
      png.data = Buffer.from(data);
      writeFileSync(join(folder, `${name.replaceAll('/', '_')}.${what}.png`), PNG.sync.write(png));
    }
  };
}
