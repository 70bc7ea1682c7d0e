import type { ComposeSources } from '../compose/compose';
import { meetingsView } from '../compose/meetings-view';
import { withPictures } from '../compose/write-layers';
import type { ProjectDocument } from '../document/document';
import type { Artboard } from '../document/records';
import { coloursUsed } from './colours-used';
import { type Meetings, meetingsIn } from './meetings';

/** Rows of RGBA with premultiplied alpha, so many px wide. */
export type Drawn = { pixels: Uint8Array; width: number };

/**
 * Where the colours of an artboard's own artwork meet, measured on its picture. `draw` is a rasteriser of SVG; what it
 * throws is thrown.
 */
export const measureMeetings = (
  doc: ProjectDocument,
  artboard: Artboard,
  sources: ComposeSources,
  draw: (svg: string) => Drawn,
): Meetings =>
  meetingsOn(doc, artboard, draw(withPictures(meetingsView(doc, artboard, sources).svg, sources.pictures)));

/** The same on a picture that was drawn elsewhere, as `meetingsView` composes it. */
export function meetingsOn(doc: ProjectDocument, artboard: Artboard, { pixels, width }: Drawn): Meetings {
  const colours = coloursUsed(doc, [artboard]).map(({ colour }) => colour);
  return meetingsIn(pixels, width, colours, artboard.width / width);
}
