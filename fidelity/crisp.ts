import {
  artworkIndex,
  CRISP_ENOUGH,
  type Crispness,
  crisperPlace,
  crispness,
  edgesIn,
  fittedEdges,
  ProjectDocument,
  placeFiles,
  readSvg,
} from '@tolvik/core';
import type { Source } from './measure';

/** The sizes at which icons are measured, in px. */
const SIZES = [16, 20, 24, 32];

/** One icon at one size: as it came, moved to its crispest place, and with its edges fitted. */
type Measured = Record<'before' | 'moved' | 'fitted', Crispness['share']>;

/** An icon at each of the sizes, and how long the first look took, in ms; null when it cannot be read. */
function measured({ name, bytes }: Source): { sizes: Measured[]; ms: number; fitMs: number } | null {
  try {
    const doc = new ProjectDocument();
    const artwork = readSvg(Buffer.from(bytes).toString('utf8'), `${name}.svg`);
    doc.apply({ puts: placeFiles(doc, [{ name, artwork }], []), removes: [] });
    const [view] = doc.list('artboard');
    const { leaves } = artworkIndex(doc);
    const grids = SIZES.map((side) => {
      const scale = side / Math.max(view.width, view.height);
      return { view, widthPx: view.width * scale, heightPx: view.height * scale };
    });
    const from = performance.now();
    const edges = edgesIn(doc, leaves);
    const befores = grids.map((grid) => crispness(edges, grid).share);
    const ms = performance.now() - from;
    const moved = grids.map((grid, i) => crisperPlace(doc, view, grid)?.share ?? befores[i]);
    const fitFrom = performance.now();
    const fitted = grids.map((grid, i) => fittedEdges(doc, view, grid, 'whole')?.share ?? befores[i]);
    const fitMs = performance.now() - fitFrom;
    const sizes = befores.map((before, i) => ({ before, moved: moved[i], fitted: fitted[i] }));
    return { sizes, ms, fitMs };
  } catch {
    return null;
  }
}

const percent = (share: number | undefined) => (share === undefined ? '–' : `${Math.round(share * 100)} %`);
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** How crisp the icons of each package are at each size: as they came, each moved to its crispest place, and each fitted. */
export function crispTable(sources: readonly Source[]): string {
  const packages = new Map<string, Measured[][]>();
  let [count, ms, fitMs] = [0, 0, 0];
  for (const source of sources) {
    const icon = measured(source);
    if (!icon) continue;
    count++;
    ms += icon.ms;
    fitMs += icon.fitMs;
    const name = source.name.split('/').slice(0, -1).join('/');
    packages.set(name, [...(packages.get(name) ?? []), icon.sizes]);
  }
  const rows = [...packages].flatMap(([name, icons]) =>
    SIZES.map((side, i) => {
      const all = icons.flatMap((sizes) => (sizes[i].before === null ? [] : [sizes[i]]));
      const told = (of: keyof Measured) => {
        const shares = all.map((each) => each[of] ?? 0);
        return `${percent(median(shares))} | ${percent(shares.filter((share) => share < CRISP_ENOUGH).length / shares.length)}`;
      };
      return `| ${name} | ${side} | ${icons.length} | ${told('before')} | ${told('moved')} | ${told('fitted')} |`;
    }),
  );
  return [
    '| package | px | icons | median | soft | median, moved | soft, moved | median, fitted | soft, fitted |',
    '|---|---|---|---|---|---|---|---|---|',
    ...rows,
    '',
    `${count.toLocaleString('en')} icons at ${SIZES.length} sizes took ${(ms / 1000).toFixed(2)} s on one thread the first time; after that an icon's edges are at hand. Fitting took ${Math.round(fitMs / count / SIZES.length)} ms for an icon at a size.`,
  ].join('\n');
}
