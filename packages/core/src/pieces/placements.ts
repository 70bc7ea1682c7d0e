import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Artboard, LockupRule } from '../document/records';
import type { Region } from '../geometry/region';

/** An artboard's artwork somewhere on another one: its upper left corner in px from that one's, and how much it is grown. */
export type Placement = { source: Artboard; x: number; y: number; scale: number };

export type FollowedLayout = {
  placements: readonly Placement[];
  /** What the rule makes of it; a variant has its source's size, a lockup its parts with clear space around. */
  width: number;
  height: number;
  /** Set on lockups; the rule has them as shares of what is measured. */
  clearSpacePx: number;
  gapPx: number;
  measuredPx: number;
};

/** How much a part is moved along what is left over, for its alignment. */
const SHARE = { start: 0, centre: 0.5, end: 1 };

/** An emblem and a wordmark set together by a rule, of the artboards' own sizes. */
export function lockupLayout(emblem: Artboard | null, wordmark: Artboard, rule: LockupRule): FollowedLayout {
  const measuredPx = wordmark.height;
  const clearSpacePx = rule.clearSpace * measuredPx;
  const scale = emblem ? (rule.emblemHeight * measuredPx) / emblem.height : 1;
  const mark = emblem && { width: emblem.width * scale, height: emblem.height * scale };
  const done = (width: number, height: number, gapPx: number, placements: Placement[]): FollowedLayout => ({
    placements: placements.map((each) => ({ ...each, x: each.x + clearSpacePx, y: each.y + clearSpacePx })),
    width: width + 2 * clearSpacePx,
    height: height + 2 * clearSpacePx,
    clearSpacePx,
    gapPx,
    measuredPx,
  });
  if (!emblem || !mark || rule.arrangement === 'wordmark')
    return done(wordmark.width, wordmark.height, 0, [{ source: wordmark, x: 0, y: 0, scale: 1 }]);
  if (rule.arrangement === 'emblem') return done(mark.width, mark.height, 0, [{ source: emblem, x: 0, y: 0, scale }]);
  const gapPx = rule.gap * measuredPx;
  if (rule.arrangement === 'wide') {
    const height = Math.max(mark.height, wordmark.height);
    return done(mark.width + gapPx + wordmark.width, height, gapPx, [
      { source: emblem, x: 0, y: (height - mark.height) * SHARE[rule.align], scale },
      { source: wordmark, x: mark.width + gapPx, y: (height - wordmark.height) * SHARE[rule.align], scale: 1 },
    ]);
  }
  const width = Math.max(mark.width, wordmark.width);
  return done(width, mark.height + gapPx + wordmark.height, gapPx, [
    { source: emblem, x: (width - mark.width) * SHARE[rule.align], y: 0, scale },
    { source: wordmark, x: (width - wordmark.width) * SHARE[rule.align], y: mark.height + gapPx, scale: 1 },
  ]);
}

/** What a following artboard shows and where; a string says why it shows nothing. Null for an artboard with artwork of its own. */
export function followedLayout(
  doc: ProjectDocument,
  { follows, width, height }: Pick<Artboard, 'follows' | 'width' | 'height'>,
): FollowedLayout | string | null {
  if (!follows) return null;
  const { lockup } = follows;
  const sources = (
    lockup
      ? [...(lockup.arrangement === 'wordmark' ? [] : [follows.artboardId]), lockup.wordmarkId]
      : [follows.artboardId]
  ).map((id) => doc.find('artboard', id));
  if (sources.some((source) => !source)) return 'the artboard it follows was deleted';
  if (sources.some((source) => source?.follows)) return 'the artboard it follows has no artwork of its own';
  const [first, second] = sources as Artboard[];
  if (!lockup)
    return {
      placements: [{ source: first, x: 0, y: 0, scale: 1 }],
      width: first.width,
      height: first.height,
      clearSpacePx: 0,
      gapPx: 0,
      measuredPx: first.height,
    };
  const layout = second ? lockupLayout(first, second, lockup) : lockupLayout(null, first, lockup);
  // Where the artboard is not of the rule's size, its contents stand in the middle.
  const [dx, dy] = [(width - layout.width) / 2, (height - layout.height) / 2];
  return { ...layout, placements: layout.placements.map((each) => ({ ...each, x: each.x + dx, y: each.y + dy })) };
}

/** The artboards whose artwork an artboard shows: itself, or what it follows. */
export function sourcesOf(doc: ProjectDocument, artboard: Artboard): readonly Artboard[] {
  const layout = followedLayout(doc, artboard);
  return layout === null ? [artboard] : typeof layout === 'string' ? [] : layout.placements.map(({ source }) => source);
}

/** Whether an artboard shows the artwork of another one. */
export const isFollowing = ({ follows }: Artboard, sourceId: string): boolean =>
  follows?.artboardId === sourceId || follows?.lockup?.wordmarkId === sourceId;

/** The same rule for other artboards. */
export const withSources = (
  follows: NonNullable<Artboard['follows']>,
  other: (id: string) => string,
): NonNullable<Artboard['follows']> => ({
  ...follows,
  artboardId: other(follows.artboardId),
  ...(follows.lockup ? { lockup: { ...follows.lockup, wordmarkId: other(follows.lockup.wordmarkId) } } : {}),
});

export const regionOf = ({ x, y, width, height }: Artboard): Region => ({ x, y, width, height });

/**
 * A change with the artboards that follow what it resizes: those that had the size their rule gives them have it again
 * after. Sizes that somebody chose otherwise stay.
 */
export function withFollowerSizes(doc: ProjectDocument, change: Change): Change {
  const resized = new Map<string, Artboard>();
  for (const record of change.puts) {
    const before = record.kind === 'artboard' ? doc.find('artboard', record.id) : undefined;
    if (record.kind === 'artboard' && before && (before.width !== record.width || before.height !== record.height))
      resized.set(record.id, record);
  }
  if (resized.size === 0) return change;
  const untouched = new Set([...change.puts.map((record) => record.id), ...change.removes]);
  const after = { find: (kind: 'artboard', id: string) => resized.get(id) ?? doc.find(kind, id) } as Pick<
    ProjectDocument,
    'find'
  > as ProjectDocument;
  const puts = doc.list('artboard').flatMap((artboard): Artboard[] => {
    if (!artboard.follows || untouched.has(artboard.id) || ![...resized.keys()].some((id) => isFollowing(artboard, id)))
      return [];
    const size = ruleSize(doc, artboard);
    const next = ruleSize(after, artboard);
    const asRule = size && artboard.width === size.width && artboard.height === size.height;
    return asRule && next ? [{ ...artboard, ...next }] : [];
  });
  return puts.length > 0 ? { ...change, puts: [...change.puts, ...puts] } : change;
}

/** The size a following artboard has by its rule: its source's, or a lockup's in whole px. */
function ruleSize(doc: ProjectDocument, artboard: Artboard): { width: number; height: number } | null {
  const layout = followedLayout(doc, artboard);
  if (!layout || typeof layout === 'string') return null;
  if (!artboard.follows?.lockup) return { width: layout.width, height: layout.height };
  return { width: wholeUp(layout.width), height: wholeUp(layout.height) };
}

/** A length in whole px that holds it all. */
export const wholeUp = (length: number): number => Math.max(1, Math.ceil(length - 1e-6));

/** A lockup in the colours of its sources, of which variants can be made. */
export const isPlainLockup = ({ follows }: Artboard): boolean =>
  !!follows?.lockup && follows.rule.kind === 'asDrawn' && !follows.lockup.guide;

/** The artboards that are followed in other colours, whose own colours may melt there. */
export function measuredSources(doc: ProjectDocument): ReadonlySet<string> {
  const ids = new Set<string>();
  for (const artboard of doc.list('artboard'))
    if (artboard.follows && artboard.follows.rule.kind !== 'asDrawn')
      for (const source of sourcesOf(doc, artboard)) ids.add(source.id);
  return ids;
}
