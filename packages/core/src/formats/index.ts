/** One file per format: its settings with defaults, and what the rest needs to know of it. */
import { z } from 'zod';
import { jpeg, jpegFormat } from './jpeg';

export { isFullChroma } from './jpeg';

import { pdf, pdfFormat } from './pdf';
import { png, pngFormat } from './png';
import { svg, svgFormat } from './svg';

export const outputSettings = z.discriminatedUnion('format', [svg, pdf, png, jpeg]);
export type OutputSettings = z.infer<typeof outputSettings>;
export type Format = OutputSettings['format'];
export type SettingsOf<F extends Format> = Extract<OutputSettings, { format: F }>;

export const FORMATS = { svg: svgFormat, pdf: pdfFormat, png: pngFormat, jpeg: jpegFormat } as const;
export const FORMAT_LIST: readonly Format[] = ['svg', 'pdf', 'png', 'jpeg'];

export const defaultSettings = (format: Format): OutputSettings => outputSettings.parse({ format });
