/** One file per format: its settings with defaults, and what the rest needs to know of it. To add one: its file, and a line in each list here. */
import * as z from 'zod';
import { type ContactSheetSettings, DEFAULT_CONTACT_SHEET } from './contact-sheet';
import { eps, epsFormat } from './eps';
import type { FormatFacts } from './format-facts';
import { jpeg, jpegFormat } from './jpeg';
import { pdf, pdfFormat } from './pdf';
import { png, pngFormat } from './png';
import { svg, svgFormat } from './svg';

export const outputSettings = z.discriminatedUnion('format', [svg, pdf, png, jpeg, eps]);
const ALL = [svgFormat, pdfFormat, pngFormat, jpegFormat, epsFormat] as const;

export type OutputSettings = z.infer<typeof outputSettings>;
export type Format = OutputSettings['format'];
export type SettingsOf<F extends Format> = Extract<OutputSettings, { format: F }>;

/** In the order in which they are offered. */
export const FORMAT_LIST: readonly Format[] = ALL.map(({ format }) => format);
export const FORMATS = Object.fromEntries(ALL.map((facts) => [facts.format, facts])) as Record<Format, FormatFacts>;

export const defaultSettings = (format: Format): OutputSettings => outputSettings.parse({ format });

/** Whether the pieces that follow an output become one file: a page each, or a contact sheet. */
export const inOneFile = (settings: OutputSettings): boolean =>
  FORMATS[settings.format].paged && 'pages' in settings && settings.pages !== 'each';

/** How a contact sheet is laid out, where an output makes one. */
export const contactSheetOf = (settings: OutputSettings): ContactSheetSettings | null =>
  settings.format === 'pdf' && settings.pages === 'sheet' ? (settings.sheet ?? DEFAULT_CONTACT_SHEET) : null;

export { BRAND_SHEET, type ContactSheetSettings, DEFAULT_CONTACT_SHEET, PAPER_LIST, PAPERS } from './contact-sheet';
export type { FormatFacts } from './format-facts';
export { isFullChroma } from './jpeg';
export { type Shapes, shapesOf } from './shapes';
