import type { ComposeSources } from '../compose/compose';
import { composeForMeetings } from '../compose/meetings-view';
import type { ProjectDocument } from '../document/document';
import type { Artboard } from '../document/records';
import { coloursUsed } from './colours-used';
import { MEETINGS_SIDE, type Meetings, meetingsIn } from './meetings';

/**
 * Where the colours of an artboard's own artwork meet, measured on its picture. `draw` is a rasteriser: an SVG as rows
 * of RGBA with premultiplied alpha, so many px wide; what it throws is thrown.
 */
export function measureMeetings(
  doc: ProjectDocument,
  artboard: Artboard,
  sources: ComposeSources,
  draw: (svg: string) => { pixels: Uint8Array; width: number },
): Meetings {
  const { pixels, width } = draw(composeForMeetings(doc, artboard, MEETINGS_SIDE, sources));
  const colours = coloursUsed(doc, [artboard]).map(({ colour }) => colour);
  return meetingsIn(pixels, width, colours, artboard.width / width);
}
