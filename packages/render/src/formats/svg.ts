import { parseLength, type SettingsOf } from '@tolvik/core';
import { type Config, optimize } from 'svgo';
import type { Rendered, RenderJob } from '../job';
import { seenWhenDrawn } from '../seen';

/** The optimiser's settings for an SVG file; ids that the composer gave are never renamed. */
export function svgoConfig({ decimals, layout }: SettingsOf<'svg'>): Config {
  return {
    multipass: false,
    floatPrecision: decimals,
    js2svg: { pretty: layout === 'readable', indent: 2, eol: 'lf', finalNewline: layout === 'readable' },
    plugins: [
      {
        name: 'preset-default',
        params: {
          overrides: {
            cleanupIds: false,
            removeHiddenElems: false,
            convertPathData: { floatPrecision: decimals },
            convertTransform: { floatPrecision: Math.max(decimals, 3), transformPrecision: Math.max(decimals + 2, 5) },
            // Opacities and stroke widths are no coordinates: rounding them would change how things look.
            cleanupNumericValues: { floatPrecision: Math.max(decimals, 3) },
          },
        },
      },
    ],
  };
}

export function renderSvg(job: RenderJob, settings: SettingsOf<'svg'>): Rendered {
  const { svg, widthPx, heightPx } = job;
  let text = optimize(svg, svgoConfig(settings)).data;
  if (!settings.dimensions) text = text.replace(/^<svg([^>]*)>/, (_, attrs: string) => `<svg${attrs.replace(/ (?:width|height)="[^"]*"/g, '')}>`);
  const bytes = Buffer.from(text, 'utf8');
  const size = measureSvg(bytes, settings.dimensions);
  return {
    bytes,
    measured: { widthPx: size?.width ?? widthPx, heightPx: size?.height ?? heightPx, bytes: bytes.length, alpha: true, dpi: null, colourType: 'vector', seen: seenWhenDrawn(job) },
  };
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
