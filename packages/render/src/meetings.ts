import { Resvg } from '@resvg/resvg-js';
import {
  type Artboard,
  type ComposeSources,
  type Drawn,
  type Meetings,
  measureMeetings,
  type ProjectDocument,
} from '@tolvik/core';
import { guard } from './guard';
import { sharp } from './sharp';

/** Where the colours of an artboard's own artwork meet, drawn here and now: for drawings of our own. Throws what the guard or the rasteriser throws. */
export const drawnMeetings = (doc: ProjectDocument, artboard: Artboard, sources: ComposeSources): Meetings =>
  measureMeetings(doc, artboard, sources, (svg) => {
    guard(svg, (hash) => sources.pictures(hash) !== undefined);
    return new Resvg(svg, { font: { loadSystemFonts: false }, logLevel: 'off' }).render();
  });

/** A picture that was written, as rows of RGBA with premultiplied alpha. */
export async function pixelsOf(picture: Uint8Array): Promise<Drawn> {
  const { data, info } = await (await sharp())(picture)
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let i = 0; i < data.length; i += 4)
    for (let channel = 0; channel < 3; channel++)
      data[i + channel] = Math.round((data[i + channel] * data[i + 3]) / 255);
  return { pixels: data, width: info.width };
}
