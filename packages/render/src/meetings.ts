import { Resvg } from '@resvg/resvg-js';
import {
  type Artboard,
  type ComposeSources,
  coloursUsed,
  composeForMeetings,
  MEETINGS_SIDE,
  type Meetings,
  meetingsIn,
  type ProjectDocument,
} from '@tolvik/core';
import { guard } from './guard';

/** Where the colours of an artboard's own artwork meet, measured on its picture. Throws what the rasteriser throws. */
export function measureMeetings(doc: ProjectDocument, artboard: Artboard, sources: ComposeSources): Meetings {
  const svg = composeForMeetings(doc, artboard, MEETINGS_SIDE, sources);
  guard(svg, (hash) => sources.pictures(hash) !== undefined);
  const image = new Resvg(svg, { font: { loadSystemFonts: false }, logLevel: 'off' }).render();
  const colours = coloursUsed(doc, [artboard]).map(({ colour }) => colour);
  return meetingsIn(image.pixels, image.width, colours, artboard.width / image.width);
}
