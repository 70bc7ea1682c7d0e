import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { SHIPPED_FACES } from '@tolvik/render';
import type { Source } from './measure';

/** Where Debian's package of a renderer's own tests lies, the static part of W3C's SVG 1.1 suite (second edition) among them. */
const FIXTURES = '/usr/libexec/installed-tests/RSVG/fixtures/reftests';
/** Of a theme of several hundred icons, one of so many. */
const ICONS = 'adwaita';
const ONE_OF_ICONS = 5;

/**
 * The drawings by which others test how they draw. All letters are in the font that ships with the app, since which
 * fonts are installed is not what is judged.
 */
export function peerSources(): Source[] {
  const files = (readdirSync(FIXTURES, { recursive: true, encoding: 'utf8' }) as string[])
    .filter((path) => path.endsWith('.svg'))
    .sort();
  const icons = files.filter((path) => path.startsWith(ICONS));
  const chosen = [
    ...files.filter((path) => !path.startsWith(ICONS)),
    ...icons.filter((_, i) => i % ONE_OF_ICONS === 0),
  ];
  return chosen.map((path) => ({
    name: relative(FIXTURES, join(FIXTURES, path)).replace(/\.svg$/, ''),
    bytes: inShippedFont(readFileSync(join(FIXTURES, path))),
  }));
}

const FAMILY = SHIPPED_FACES[0].family;

/** A drawing whose letters are all in the first font of ours; what is no plain text stays as it is. */
function inShippedFont(bytes: Buffer): Uint8Array {
  const text = bytes.toString('utf8');
  if (!text.includes('<svg') || !Buffer.from(text).equals(bytes)) return bytes;
  return Buffer.from(
    text
      .replace(/<!--[\s\S]*?-->/g, '')
      .replace(/(\sfont-family\s*=\s*)("[^"]*"|'[^']*')/g, `$1"${FAMILY}"`)
      .replace(
        /(\sstyle\s*=\s*)("[^"]*"|'[^']*')/g,
        (_, name, value: string) => name + value[0] + inFamily(value.slice(1, -1)) + value[0],
      )
      .replace(/(<style[^>]*>)([\s\S]*?)(<\/style>)/g, (_, start, css: string, end) => start + inFamily(css) + end)
      .replace(/<svg(?=[\s>])(?![^>]*\sfont-family=)/, `<svg font-family="${FAMILY}"`),
  );
}

/** Declarations whose families, in shorthands too, are our own. */
const inFamily = (css: string): string =>
  css
    .replace(/(font-family\s*:\s*)[^;}]*/g, `$1${FAMILY}`)
    .replace(/((?:^|[\s;{])font\s*:[^;}]*?[\d.]+(?:px|pt|em|%)?)\s+[^;}]+/g, `$1 ${FAMILY}`);
