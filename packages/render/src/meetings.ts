import { Resvg } from '@resvg/resvg-js';
import { type Artboard, type ComposeSources, type Meetings, measureMeetings, type ProjectDocument } from '@tolvik/core';
import { guard } from './guard';

/** Where the colours of an artboard's own artwork meet. Throws what the guard or the rasteriser throws. */
export const drawnMeetings = (doc: ProjectDocument, artboard: Artboard, sources: ComposeSources): Meetings =>
  measureMeetings(doc, artboard, sources, (svg) => {
    guard(svg, (hash) => sources.pictures(hash) !== undefined);
    return new Resvg(svg, { font: { loadSystemFonts: false }, logLevel: 'off' }).render();
  });
