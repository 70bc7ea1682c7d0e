import { ON_PIXEL_WITHIN } from '../crispness';

/** How far a line, the middle of a stem, or its width may go, in px of the file. */
export const MOST_MOVED_PX = 0.5;
/** Lines further apart than this stay apart; closer ones may meet. */
const MEET_WITHIN_PX = 0.25;
/** Between two lines a drawing is made wider or narrower by at most this share; wider by half a px in any case. */
const MOST_STRETCHED = 0.5;
/** A stem that is this wide may lose or gain more of its width than a thin one, whose weight would be seen. */
const WIDE_PX = 4;
/** As much crispness is given up to move an edge by a whole px less. */
const COST_OF_MOVING = 0.001;
const EPSILON = 1e-6;

/** A place across an axis that edges hang on, in px of the file: of a shape, or the middle of strokes. */
export type Line = {
  at: number;
  /** Edges, by how far they lie from the line. */
  edges: readonly { side: number; lengthPx: number }[];
  /** Where it may lie. */
  least: number;
  most: number;
};

/** Two lines that keep their distance, or get another one together with all of its kind. The indices rise. */
export type Span = { from: number; to: number; kind: number };

/** The lines across one axis in rising order, and where they mirror each other, if they do. */
export type Axis = { lines: readonly Line[]; spans: readonly Span[]; mirror: number | null };

/** The width of a kind of spans, in px of the file; null leaves each the one that it has. */
export type Width = number | null;

/** Lines that move as one. */
type Block = { members: readonly { line: number; offset: number }[]; spans: readonly Span[]; lengthPx: number };

type Placed = { to: number[]; crispPx: number; score: number };

/** The length of the edges of a line that lie on boundaries of pixels when it lies at a place. */
const crispAt = ({ edges }: Line, at: number): number =>
  edges.reduce((sum, { side, lengthPx }) => {
    const place = at + side;
    return Math.abs(place - Math.round(place)) <= ON_PIXEL_WITHIN ? sum + lengthPx : sum;
  }, 0);

const lengthOf = ({ edges }: Line): number => edges.reduce((sum, { lengthPx }) => sum + lengthPx, 0);

/** Lines joined by spans of these widths; null when two ways from one line to another are not of one length. */
function blocksOf({ lines, spans }: Axis, widths: readonly Width[]): Block[] | null {
  const next = lines.map((): { line: number; by: number; span: Span }[] => []);
  for (const span of spans) {
    const width = widths[span.kind] ?? lines[span.to].at - lines[span.from].at;
    next[span.from].push({ line: span.to, by: width, span });
    next[span.to].push({ line: span.from, by: -width, span });
  }
  const offsets = new Map<number, number>();
  const blocks: Block[] = [];
  for (let start = 0; start < lines.length; start++) {
    if (offsets.has(start)) continue;
    offsets.set(start, 0);
    const members = [start];
    const own = new Set<Span>();
    for (const line of members)
      for (const { line: other, by, span } of next[line]) {
        own.add(span);
        const offset = (offsets.get(line) as number) + by;
        const known = offsets.get(other);
        if (known !== undefined && Math.abs(known - offset) > EPSILON * 10) return null;
        if (known !== undefined) continue;
        offsets.set(other, offset);
        members.push(other);
      }
    blocks.push({
      members: members.map((line) => ({ line, offset: offsets.get(line) as number })),
      spans: [...own],
      lengthPx: members.reduce((sum, line) => sum + lengthOf(lines[line]), 0),
    });
  }
  return blocks.sort((a, b) => b.lengthPx - a.lengthPx);
}

/** Whether a block may lie so: within its bounds, and nowhere further off than it may move. */
function mayLie({ lines }: Axis, { members, spans }: Block, to: (number | undefined)[]): boolean {
  const movedBy = (line: number) => (to[line] as number) - lines[line].at;
  const limit = MOST_MOVED_PX + EPSILON;
  for (const { line } of members) {
    const at = to[line] as number;
    if (at < lines[line].least - EPSILON || at > lines[line].most + EPSILON) return false;
    if (spans.length === 0 && Math.abs(movedBy(line)) > limit) return false;
  }
  return spans.every(({ from, to: end }) => {
    const [one, other] = [movedBy(from), movedBy(end)];
    const byEdges = Math.max(Math.abs(one), Math.abs(other)) <= limit;
    return byEdges || (Math.abs(one + other) / 2 <= limit && Math.abs(other - one) <= limit);
  });
}

/** Whether lines are in the order in which they were, and none has come too close to another. */
function inOrder({ lines }: Axis, to: readonly (number | undefined)[]): boolean {
  let before: number | null = null;
  for (let i = 0; i < lines.length; i++) {
    const at = to[i];
    if (at === undefined) continue;
    if (before !== null) {
      const gap = lines[i].at - lines[before].at;
      const after = at - (to[before] as number);
      const least = gap < MEET_WITHIN_PX ? 0 : gap * (1 - MOST_STRETCHED);
      const most = gap + Math.max(MOST_MOVED_PX, gap * MOST_STRETCHED);
      if (after < least - EPSILON || after > most + EPSILON) return false;
    }
    before = i;
  }
  return true;
}

/** Places of a block's first line at which an edge of it lies on a boundary, and the one where it is carried along. */
function placesFor({ lines }: Axis, { members }: Block, shift: number): number[] {
  const start = lines[members[0].line].at;
  const places = new Set<number>([start + shift]);
  for (const { line, offset } of members)
    for (const { side } of lines[line].edges) {
      const fraction = side + offset;
      const near = Math.round(start + fraction) - fraction;
      for (const turn of [-1, 0, 1]) places.add(near + turn);
    }
  return [...places];
}

/** For lines that mirror each other, the index of each one's mate; null for those that don't. */
export function matesAround(lines: readonly Line[], middle: number, within: number): number[] | null {
  const mates: number[] = [];
  let [low, high] = [0, lines.length - 1];
  for (; low <= high; low++, high--) {
    const [one, other] = [lines[low], lines[high]];
    if (Math.abs(one.at + other.at - 2 * middle) > within) return null;
    if (Math.abs(lengthOf(one) - lengthOf(other)) > 0.05 * lengthOf(one) + 0.05) return null;
    [mates[low], mates[high]] = [high, low];
  }
  return mates;
}

/** Lines placed block by block, the longest first; a block that finds no room is placed before the others. */
function placeBlocks(axis: Axis, blocks: Block[], mates: readonly number[] | null, middle: number): number[] | null {
  const shift = mates && axis.mirror !== null ? middle - axis.mirror : 0;
  const order = [...blocks];
  for (let tries = 0; tries <= blocks.length; tries++) {
    const to: (number | undefined)[] = axis.lines.map(() => undefined);
    const stuck = order.findIndex((block) => !placeBlock(axis, block, to, { mates, middle, shift }));
    if (stuck < 0) return to as number[];
    if (stuck === 0) return null;
    order.unshift(...order.splice(stuck, 1));
  }
  return null;
}

type Around = { mates: readonly number[] | null; middle: number; shift: number };

/** Puts a block, and the one that mirrors it, where the most of its edges lie on pixels; false where it may lie nowhere. */
function placeBlock(axis: Axis, block: Block, to: (number | undefined)[], { mates, middle, shift }: Around): boolean {
  const { lines } = axis;
  const own = block.members;
  if (own.every(({ line }) => to[line] !== undefined)) return true;
  let best: { places: Map<number, number>; score: number } | null = null;
  const mirrored = mates && own.find(({ line }) => own.some((other) => other.line === mates[line]));
  const places = mirrored
    ? [middle - (mirrored.offset + (own.find(({ line }) => line === mates[mirrored.line])?.offset ?? 0)) / 2]
    : placesFor(axis, block, shift);
  for (const place of places) {
    const tried = new Map<number, number>();
    for (const { line, offset } of own) tried.set(line, place + offset);
    if (mates)
      for (const [line, at] of [...tried]) {
        const mate = tried.get(mates[line]);
        if (mate !== undefined && Math.abs(mate + at - 2 * middle) > 1e-4) return false;
        if (mate === undefined) tried.set(mates[line], 2 * middle - at);
      }
    const all = [...to];
    for (const [line, at] of tried) all[line] = at;
    if (!mayLie(axis, block, all) || !inOrder(axis, all)) continue;
    const others = [...tried.keys()].filter((line) => !own.some((member) => member.line === line));
    if (
      others.some(
        (line) =>
          (all[line] as number) < lines[line].least - EPSILON || (all[line] as number) > lines[line].most + EPSILON,
      )
    )
      continue;
    let score = 0;
    for (const [line, at] of tried)
      score += crispAt(lines[line], at) - COST_OF_MOVING * (lengthOf(lines[line]) + 1) * Math.abs(at - lines[line].at);
    if (!best || score > best.score + 1e-9) best = { places: tried, score };
  }
  if (!best) return false;
  for (const [line, at] of best.places) to[line] = at;
  return true;
}

/** The best places of the lines of one axis with spans of these widths. */
function placeAxis(axis: Axis, widths: readonly Width[]): Placed | null {
  const blocks = blocksOf(axis, widths);
  if (!blocks) return null;
  const { lines, mirror } = axis;
  const mates = mirror === null ? null : matesAround(lines, mirror, 0.05);
  const middles = mates && mirror !== null ? middlesNear(mirror) : [0];
  let best: Placed | null = null;
  for (const middle of middles) {
    const to = placeBlocks(axis, blocks, mates, middle);
    if (!to) continue;
    let [crispPx, moved] = [0, 0];
    for (const [i, line] of lines.entries()) {
      crispPx += crispAt(line, to[i]);
      moved += Math.abs(to[i] - line.at) * (lengthOf(line) + 1);
    }
    const score = crispPx - COST_OF_MOVING * moved;
    if (!best || score > best.score + 1e-9) best = { to, crispPx, score };
  }
  return best;
}

/** Boundaries and middles of pixels that a mirror may move to, and where it lies. */
const middlesNear = (mirror: number): number[] => {
  const near = Math.round(mirror * 2) / 2;
  return [...new Set([mirror, near - 0.5, near, near + 0.5])].filter(
    (middle) => Math.abs(middle - mirror) <= MOST_MOVED_PX + EPSILON,
  );
};

/** The widths that spans of a kind may get, the best to begin with first: whole ones, and those that they have. */
export function widthsFor(widthPx: number): Width[] {
  const near = Math.round(widthPx);
  if (near < 1) return [null];
  const other = near + (widthPx > near ? 1 : -1);
  return widthPx >= WIDE_PX ? [near, other, null] : [near, null];
}

type Both = { axes: Placed[]; score: number };

const placeAll = (axes: readonly Axis[], widths: readonly Width[]): Both | null => {
  const placed: Placed[] = [];
  for (const axis of axes) {
    const one = placeAxis(axis, widths);
    if (!one) return null;
    placed.push(one);
  }
  return { axes: placed, score: placed.reduce((sum, { score }) => sum + score, 0) };
};

/** From widths to begin with, each kind by itself gets the width that makes the most edges crisp, twice around. */
function climb(axes: readonly Axis[], choices: readonly (readonly Width[])[], begin: readonly Width[]): Both | null {
  const widths = [...begin];
  let best = placeAll(axes, widths);
  for (let round = 0; round < 2; round++) {
    let better = false;
    for (const [kind, choice] of choices.entries())
      for (const width of choice) {
        const before = widths[kind];
        if (width === before) continue;
        widths[kind] = width;
        const tried = placeAll(axes, widths);
        if (tried && (!best || tried.score > best.score + 1e-6)) [best, better] = [tried, true];
        else widths[kind] = before;
      }
    if (!better) break;
  }
  return best;
}

/**
 * Where the lines of both axes go so that the most of their edges lie on boundaries of pixels: spans of one kind stay of
 * one width, what is mirrored stays so, the order stays, and no line by itself, no middle of a span and no width changes
 * by more than half a px. `choices` holds the widths that each kind may have. Null when nothing
 * gets crisper.
 */
export function placeLines(axes: readonly Axis[], choices: readonly (readonly Width[])[]): number[][] | null {
  const now = axes.reduce((sum, { lines }) => sum + lines.reduce((all, line) => all + crispAt(line, line.at), 0), 0);
  const begins = [choices.map(() => null), choices.map((choice) => choice[0])];
  let best: Both | null = null;
  for (const begin of begins) {
    const found = climb(axes, choices, begin);
    if (found && (!best || found.score > best.score + 1e-6)) best = found;
  }
  const crispPx = best?.axes.reduce((sum, axis) => sum + axis.crispPx, 0) ?? 0;
  return best && crispPx > now + EPSILON ? best.axes.map(({ to }) => to) : null;
}
