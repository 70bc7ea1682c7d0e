import type { Artboard } from '../document/records';
import { sourcesOf } from '../pieces/placements';
import { assignInk, gapFor } from '../variants/assign-ink';
import { paintOrder } from '../variants/colours-used';
import { inkOf } from '../variants/ink-of';
import { lostMeetings, type Meetings, meltedColours } from '../variants/meetings';
import type { Check, Surroundings } from './check';

/** Where the colours of what an artboard follows meet; null while it is not measured. */
function meetingsOf({ doc, meetingsOf: known }: Surroundings, artboard: Artboard): Meetings | null {
  const all = sourcesOf(doc, artboard).map((source) => known?.(source.id));
  return all.length > 0 && all.every((each) => each !== undefined) ? all.flatMap((each) => each ?? []) : null;
}

export const partsMelt: Check = {
  name: 'parts-melt',
  plural: 'have parts that cannot be told apart',
  about: 'Parts that are apart in the source cannot be told apart in a variant.',
  example: 'A mono variant of a badge whose light letter lies on a dark ground: both become the same ink.',
  survey(all, surroundings) {
    return all.flatMap(({ piece: { id, record } }) => {
      if (record.kind !== 'artboard' || !record.follows) return [];
      const { rule } = record.follows;
      const meetings = meetingsOf(surroundings, record);
      const melted = meetings ? meltedColours(meetings, rule) : [];
      const lost = lostMeetings(meetings ?? [], rule).filter(({ colours }) =>
        colours.some((colour) => colour !== null && melted.includes(colour)),
      );
      if (lost.length === 0) return [];
      const [one, other] = lost[0].colours.map((colour) => colour ?? 'the ground');
      const more = lost.length - 1;
      return [
        {
          severity: 'warning' as const,
          pieceId: id,
          message: `${one} and ${other} meet in the source and cannot be told apart here${more > 0 ? `, and so do ${more} more` : ''}`,
          mend: inkOf(rule) ? 'Keep the parts apart' : undefined,
        },
      ];
    });
  },
  mend({ pieceId }, surroundings) {
    const { doc } = surroundings;
    const artboard = doc.find('artboard', pieceId);
    const meetings = artboard && meetingsOf(surroundings, artboard);
    const ink = artboard?.follows && inkOf(artboard.follows.rule);
    if (!artboard?.follows || !ink || !meetings) return null;
    const sources = sourcesOf(doc, artboard);
    const parts = assignInk(meetings, paintOrder(doc, sources), gapFor(sources));
    return {
      label: `keep the parts of ${artboard.name} apart`,
      puts: [{ ...artboard, follows: { ...artboard.follows, rule: { ...ink, ...parts } } }],
      removes: [],
    };
  },
};
