import { colourDistance, opaqueKey, parseColour, type Rgba, recolourBy } from '../artwork/colour/colours';
import type { RecolourRule } from '../document/records';

/** Where two colours of a drawing meet, or one of them and open ground, and along what length, in px of the artboard. */
export type Meeting = { colours: readonly [one: string, other: string | null]; length: number };
export type Meetings = readonly Meeting[];

/** Colours nearer than this in OKLab pass into one another, as in a gradient, and do not meet. */
const EDGE = 0.06;
/** Of the longest side: what is shorter is a corner, not an edge. */
const NOTICED = 0.04;

/**
 * Where the colours of a drawing meet, measured on its picture: rows of RGBA with premultiplied alpha, drawn without
 * smoothing and without a ground. Pixels belong to the nearest of the colours it is painted with. `pxPerPixel` is the
 * size of a pixel in px of the artboard.
 */
export function meetingsIn(
  pixels: Uint8Array | Uint8ClampedArray,
  width: number,
  colours: readonly string[],
  pxPerPixel: number,
): Meetings {
  const height = Math.floor(pixels.length / 4 / width);
  const palette = colours.flatMap((each) => parseColour(each) ?? []);
  const names = palette.map(opaqueKey);
  const nearest = nearestOf(palette);
  const labels = new Int16Array(width * height);
  const seen: Rgba[] = new Array(width * height);
  for (let i = 0; i < labels.length; i++) {
    const alpha = pixels[4 * i + 3];
    labels[i] = -1;
    if (alpha < 128) continue;
    const straight = (channel: number) => Math.min(255, Math.round((pixels[4 * i + channel] * 255) / alpha));
    seen[i] = { r: straight(0), g: straight(1), b: straight(2), a: 1 };
    labels[i] = nearest(seen[i]);
  }
  const lengths = new Map<string, number>();
  const edge = (i: number, j: number) => {
    const [one, other] = labels[i] < labels[j] ? [j, i] : [i, j];
    if (labels[one] === labels[other]) return;
    if (labels[other] >= 0 && colourDistance(seen[one], seen[other]) < EDGE) return;
    const key = `${labels[one]} ${labels[other]}`;
    lengths.set(key, (lengths.get(key) ?? 0) + 1);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) edge(i, i + 1);
      if (y + 1 < height) edge(i, i + width);
    }
  }
  const least = NOTICED * Math.max(width, height);
  return [...lengths]
    .filter(([, length]) => length > least)
    .map(([key, length]) => {
      const [one, other] = key.split(' ').map(Number);
      return { colours: [names[one], names[other] ?? null] as const, length: length * pxPerPixel };
    })
    .sort((a, b) => b.length - a.length);
}

function nearestOf(palette: readonly Rgba[]): (colour: Rgba) => number {
  const known = new Map<number, number>();
  return ({ r, g, b }) => {
    const key = (r << 16) | (g << 8) | b;
    let found = known.get(key);
    if (found === undefined) {
      const far = palette.map((each) => (each.r - r) ** 2 + (each.g - g) ** 2 + (each.b - b) ** 2);
      found = far.indexOf(Math.min(...far));
      known.set(key, found);
    }
    return found;
  };
}

/** Nearer than this in OKLab, two colours side by side are taken for one. */
export const ONE_COLOUR = 0.08;
/** Of the length along which a colour meets others, the share from which losing it loses the part. */
const MISSED = 0.2;

/**
 * The meetings that a rule loses: two parts that were told apart become one, or a part becomes the open ground around
 * it. What meets open ground by its own gap, keeps it.
 */
export function lostMeetings(meetings: Meetings, rule: RecolourRule): Meetings {
  const change = recolourBy(rule);
  if (!change) return [];
  const apart = new Set(rule.kind === 'ink' && rule.gap > 0 ? rule.apart : []);
  const becomes = (colour: string | null): Rgba | null => {
    const parsed = colour && parseColour(colour);
    const next = parsed ? change(parsed) : 'none';
    return next === 'none' ? null : next;
  };
  return meetings.filter(({ colours: [one, other] }) => {
    const [a, b] = [becomes(one), becomes(other)];
    if (!a || !b) return !a && !b;
    return colourDistance(a, b) < ONE_COLOUR && !apart.has(one) && !apart.has(other ?? '');
  });
}

/**
 * The colours of a drawing whose parts a rule melts into what is beside them, the most melted first. A short way along
 * which a hole meets open ground loses no part.
 */
export function meltedColours(meetings: Meetings, rule: RecolourRule): string[] {
  const lost = new Set(lostMeetings(meetings, rule));
  const lengths = new Map<string, { all: number; lost: number }>();
  for (const meeting of meetings) {
    for (const colour of meeting.colours) {
      if (colour === null) continue;
      const length = lengths.get(colour) ?? { all: 0, lost: 0 };
      length.all += meeting.length;
      if (lost.has(meeting)) length.lost += meeting.length;
      lengths.set(colour, length);
    }
  }
  return [...lengths]
    .filter(([, length]) => length.lost >= MISSED * length.all)
    .sort(([, a], [, b]) => b.lost / b.all - a.lost / a.all)
    .map(([colour]) => colour);
}
