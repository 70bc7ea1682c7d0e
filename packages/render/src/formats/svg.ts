import {
  largestScale,
  type Matrix,
  multiply,
  PX_PER_MM,
  parseLength,
  parseTransform,
  parseViewBox,
  printTree,
  readTree,
  type SettingsOf,
  sturdyPath,
  type TreeNode,
  viewBoxTransform,
} from '@tolvik/core';
// One file of it; the other entry reads hundreds, and looks for settings on the disk.
import { type Config, optimize } from 'svgo/browser';
import type { Rendered, RenderJob } from '../job';
import { seenWhenDrawn } from '../seen';
import { withOwnIds } from '../svg/own-ids';
import { withoutPageClips } from '../svg/page-clips';
import { shortReferences } from '../svg/references';
import { withSharedParts } from '../svg/share';

/** Definitions that are never drawn need nothing around them (SVG 2 §5.3). */
const ONLY_DEFINITIONS =
  /^(<svg[^>]*>)<defs>((?:<(linearGradient|radialGradient|clipPath|mask|filter|pattern)\b[^>]*(?:\/>|>(?:(?!<\/\3>)[\s\S])*<\/\3>))+)<\/defs>/;
/** Coordinates with few digits get many when they are scaled or turned: then the transform may be lighter. */
const RESCALED = / transform="[^"]*(?:scale|matrix|rotate|skew)/;
/** Below so many characters nothing repeats for long enough. */
const WORTH_SHARING = 400;
/** Path data with arcs or mirrored curves in it. */
const PATH_DATA = / d="([^"]*[aAsStT][^"]*)"/g;
/** No coordinate is written with more digits than this. */
const MOST_DECIMALS = 12;

/**
 * Digits behind the point so that as many are right in px of the file, whatever the transforms: one more for each
 * time that anything in it is drawn ten times as large as its own units say, one less the other way round.
 */
function decimalsSeen(svg: string, decimals: number, widthPx: number, heightPx: number): number {
  const { root } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: widthPx, height: heightPx };
  let most = 0;
  const visit = (node: TreeNode, outer: Matrix) => {
    const own = node.attrs.transform ? parseTransform(node.attrs.transform) : undefined;
    const matrix = own ? multiply(outer, own) : outer;
    most = Math.max(most, largestScale(matrix));
    for (const child of node.children) visit(child, matrix);
  };
  visit(root, viewBoxTransform(box, widthPx, heightPx, 'none'));
  // Definitions may measure in the box of what they are used for.
  if (/="objectBoundingBox"/.test(svg)) most = Math.max(most, widthPx, heightPx);
  return Math.min(MOST_DECIMALS, Math.max(0, decimals + Math.ceil(Math.log10(Math.max(1e-9, most)) - 0.31)));
}

const js2svgOf = ({ layout }: Pick<SettingsOf<'svg'>, 'layout'>) =>
  ({ pretty: layout === 'readable', indent: 2, eol: 'lf', finalNewline: layout === 'readable' }) as const;

/**
 * The optimiser's settings for an SVG file: what there is to do for a composed one. Ids that the composer gave are never
 * renamed. Transforms are worked into coordinates where it `bakes`.
 */
export function svgoConfig(
  { layout }: SettingsOf<'svg'>,
  decimals: number,
  { blends, strokes, bakes = true }: { blends: boolean; strokes: boolean; bakes?: boolean },
): Config {
  const pathData = {
    name: 'convertPathData',
    params: { floatPrecision: decimals, applyTransforms: bakes },
  } as const;
  return {
    multipass: false,
    js2svg: js2svgOf({ layout }),
    plugins: [
      // Opacities and stroke widths are no coordinates: rounding them would change how things look.
      { name: 'cleanupNumericValues', params: { floatPrecision: Math.max(decimals, 3) } },
      'convertColors',
      'removeUnknownsAndDefaults',
      'removeNonInheritableGroupAttrs',
      'removeUselessStrokeAndFill',
      'removeEmptyText',
      { name: 'convertShapeToPath', params: { floatPrecision: decimals } },
      'convertEllipseToCircle',
      // A group that blends, or that holds what blends, is more than its attributes.
      ...(blends ? [] : (['moveElemsAttrsToGroup', 'moveGroupAttrsToElems', 'collapseGroups'] as const)),
      // Strokes that meet are drawn one over the other; as one path they would be drawn once, with other edges.
      ...(strokes ? [] : (['mergePaths'] as const)),
      // Of many paths that became one, the group is of no use any more; nor is what was said against a group that is gone.
      ...(strokes || blends ? [] : (['collapseGroups'] as const)),
      ...(blends ? [] : (['removeUnknownsAndDefaults'] as const)),
      pathData,
      {
        name: 'convertTransform',
        params: { floatPrecision: Math.max(decimals, 3), transformPrecision: Math.max(decimals + 2, 6) },
      },
      // What is rounded once may round further; afterwards a file that is read again is written as it was.
      pathData,
      'removeEmptyAttrs',
      'removeEmptyContainers',
      'removeUnusedNS',
      shortReferences,
      'sortAttrs',
      'sortDefsChildren',
    ],
  };
}

export function renderSvg(job: RenderJob, settings: SettingsOf<'svg'>): Rendered {
  const { widthPx, heightPx } = job;
  const svg = (job.svg.includes('clip-path') ? withoutClips(job.svg) : job.svg).replace(
    PATH_DATA,
    (_, d: string) => ` d="${sturdyPath(d)}"`,
  );
  const decimals = decimalsSeen(svg, settings.decimals, widthPx, heightPx);
  const shared = svg.length > WORTH_SHARING ? withSharedParts(readTree(svg).root) : null;
  const known = { blends: svg.includes(' style="'), strokes: /stroke="(?!none)/.test(svg) };
  const whole = shared ? printTree(shared) : svg;
  const written = (bakes: boolean) => optimize(whole, svgoConfig(settings, decimals, { ...known, bakes })).data;
  let text = written(true);
  if (RESCALED.test(whole)) {
    const apart = written(false);
    if (apart.length < text.length) text = apart;
  }
  if (!shared && settings.layout === 'oneLine') text = text.replace(ONLY_DEFINITIONS, '$1$2');
  text = withOwnIds(text, settings.ids === 'kept', js2svgOf(settings));
  if (settings.dimensions !== true)
    text = withDimensions(text, settings.dimensions === 'mm' ? [widthPx, heightPx] : null);
  const bytes = Buffer.from(text, 'utf8');
  const size = measureSvg(bytes, settings.dimensions !== false);
  return {
    bytes,
    measured: {
      widthPx: size?.width ?? widthPx,
      heightPx: size?.height ?? heightPx,
      bytes: bytes.length,
      alpha: true,
      dpi: null,
      colourType: 'vector',
      seen: seenWhenDrawn(job),
    },
  };
}

/** A file with its width and height in mm, or without any. */
function withDimensions(text: string, px: readonly [number, number] | null): string {
  const [width, height] = (px ?? []).map((side) => `${+(side / PX_PER_MM).toFixed(4)}mm`);
  return text.replace(/^<svg([^>]*)>/, (_, attrs: string) => {
    const others = attrs.replace(/ (?:width|height)="[^"]*"/g, '');
    return `<svg${others}${px ? ` width="${width}" height="${height}"` : ''}>`;
  });
}

function withoutClips(svg: string): string {
  const { root } = readTree(svg);
  const made = withoutPageClips(root);
  return made === root ? svg : printTree(made);
}

/** Width and height as the written file says; null when it says none on purpose. Throws when it should and does not. */
export function measureSvg(bytes: Buffer, dimensions: boolean): { width: number; height: number } | null {
  const root = /<svg[^>]*>/.exec(bytes.toString('utf8'))?.[0];
  if (!root) throw new Error('the written file has no <svg>');
  if (!/ viewBox="[^"]+"/.test(root)) throw new Error('the written file has no viewBox');
  const width = parseLength(/ width="([^"]*)"/.exec(root)?.[1]);
  const height = parseLength(/ height="([^"]*)"/.exec(root)?.[1]);
  if (width !== undefined && height !== undefined) return { width, height };
  if (dimensions) throw new Error('the written file has no width and height');
  return null;
}
