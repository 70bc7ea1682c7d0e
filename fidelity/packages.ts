import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Source } from './measure';

/** Where packages of icons, flags, pictograms and emoji keep their SVG files. */
const PACKAGES: readonly [name: string, folder: string][] = [
  ['bootstrap-icons', 'icons'],
  ['flag-icons', 'flags/4x3'],
  ['heroicons', '24/solid'],
  ['feather-icons', 'dist/icons'],
  ['@twemoji/svg', '.'],
  ['@primer/octicons', 'build/svg'],
  ['eva-icons', 'fill/svg'],
  ['@carbon/pictograms', 'src/svg'],
  ['circle-flags', 'flags'],
  ['lucide-static', 'icons'],
];
const OF_EACH = 100;

/** A hundred files of each package, spread evenly over its names: a thousand drawings that nobody here drew. */
export function packageSources(): Source[] {
  const require = createRequire(import.meta.url);
  return PACKAGES.flatMap(([name, folder]) => {
    const path = join(dirname(require.resolve(`${name}/package.json`)), folder);
    const files = readdirSync(path)
      .filter((file) => file.endsWith('.svg'))
      .sort();
    const step = files.length / OF_EACH;
    return Array.from(
      { length: Math.min(OF_EACH, files.length) },
      (_, i) => files[Math.floor(i * Math.max(1, step))],
    ).map((file) => ({
      name: `${name}/${file.replace(/\.svg$/, '')}`,
      bytes: readFileSync(join(path, file)),
    }));
  });
}
