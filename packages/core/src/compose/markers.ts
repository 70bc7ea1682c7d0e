import { degrees } from '../artwork/markup/css-values';
import type { Layer } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { IDENTITY, multiply, scaling, translate } from '../geometry/matrix';
import type { PathStep } from '../geometry/path-steps';
import { parseViewBox, viewBoxTransform } from '../geometry/viewport';

type Point = readonly [number, number];
/** A vertex of a path with the direction in which the path comes in and goes out; null where it does not. */
type Vertex = { at: Point; into: Point | null; out: Point | null };

const towards = (from: Point, ...to: Point[]): Point | null => {
  for (const [x, y] of to) {
    const [dx, dy] = [x - from[0], y - from[1]];
    const length = Math.hypot(dx, dy);
    if (length > 1e-9) return [dx / length, dy / length];
  }
  return null;
};
const opposite = (direction: Point | null): Point | null => direction && [-direction[0], -direction[1]];

/** The vertices of a path in their order (SVG 2 §13.7.4). */
function verticesOf(steps: readonly PathStep[]): Vertex[] {
  const vertices: Vertex[] = [];
  let first = -1;
  for (const { op, n } of steps) {
    const previous = vertices[vertices.length - 1];
    const from = previous?.at ?? [0, 0];
    if (op === 'M') {
      first = vertices.push({ at: [n[0], n[1]], into: null, out: null }) - 1;
    } else if (op === 'L') {
      const to: Point = [n[0], n[1]];
      const direction = towards(from, to);
      if (previous) previous.out = direction;
      vertices.push({ at: to, into: direction, out: null });
    } else if (op === 'C') {
      const [a, b, to]: Point[] = [
        [n[0], n[1]],
        [n[2], n[3]],
        [n[4], n[5]],
      ];
      if (previous) previous.out = towards(from, a, b, to);
      vertices.push({ at: to, into: opposite(towards(to, b, a, from)), out: null });
    } else if (first >= 0) {
      const start = vertices[first];
      const direction = towards(from, start.at) ?? previous?.into ?? null;
      if (previous && !previous.out) previous.out = direction;
      vertices.push({ at: start.at, into: direction, out: start.out });
      start.into = direction;
    }
  }
  return vertices;
}

function angleAt({ into, out }: Vertex): number {
  if (into && out) {
    const [x, y] = [into[0] + out[0], into[1] + out[1]];
    return Math.abs(x) < 1e-9 && Math.abs(y) < 1e-9 ? Math.atan2(into[1], into[0]) + Math.PI / 2 : Math.atan2(y, x);
  }
  const direction = into ?? out ?? [1, 0];
  return Math.atan2(direction[1], direction[0]);
}

export type Placed = {
  marker: Layer /** Marker content to the user space of the path. */;
  matrix: Matrix /** What of its content shows, in its own units; null for all. */;
  clip: readonly number[] | null;
};

const number = (text: string | undefined, otherwise: number): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
};

const PLACES: Record<string, number> = { left: 0, top: 0, center: 0.5, right: 1, bottom: 1 };

const turn = (angle: number): Matrix => [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 0, 0];

/** Where the markers of a path go (SVG 2 §13.7). */
export function placedMarkers(
  steps: readonly PathStep[],
  which: { start?: Layer; mid?: Layer; end?: Layer },
  strokeWidth: number,
): Placed[] {
  const vertices = verticesOf(steps);
  const placed: Placed[] = [];
  const put = (marker: Layer | undefined, vertex: Vertex, starts: boolean) => {
    if (!marker) return;
    const { attrs } = marker;
    const [width, height] = [number(attrs.markerWidth, 3), number(attrs.markerHeight, 3)];
    if (!(width > 0) || !(height > 0)) return;
    const orient = attrs.orient ?? '0';
    const angle = orient.startsWith('auto')
      ? angleAt(vertex) + (starts && orient === 'auto-start-reverse' ? Math.PI : 0)
      : ((degrees(orient) ?? 0) * Math.PI) / 180;
    const scale = attrs.markerUnits === 'userSpaceOnUse' ? 1 : strokeWidth;
    if (!(scale > 0)) return;
    const box = parseViewBox(attrs.viewBox);
    const fit = box ? viewBoxTransform({ ...box, x: 0, y: 0 }, width, height, attrs.preserveAspectRatio) : IDENTITY;
    // Words and percentages are of the viewBox (SVG 2 §13.7.2).
    const place = (text: string | undefined, from: number, length: number) => {
      const word = text?.trim() ?? '';
      if (word in PLACES) return from + PLACES[word] * length;
      return word.endsWith('%') ? from + (number(word, 0) / 100) * length : number(word, 0);
    };
    const [refX, refY] = [
      place(attrs.refX, box?.x ?? 0, box?.width ?? width),
      place(attrs.refY, box?.y ?? 0, box?.height ?? height),
    ];
    const turned = multiply(multiply(translate(...(vertex.at as [number, number])), turn(angle)), scaling(scale));
    // The reference point, in the units of the content, comes to lie on the vertex.
    const inner = multiply([fit[0], fit[1], fit[2], fit[3], 0, 0], translate(-refX, -refY));
    const shows = attrs.overflow === 'visible' || attrs.overflow === 'auto';
    const clip = box ? visiblePart(box, width, height, fit) : [0, 0, width, height];
    placed.push({ marker, matrix: multiply(turned, inner), clip: shows ? null : clip });
  };
  vertices.forEach((vertex, i) => {
    if (i === 0) put(which.start, vertex, true);
    if (i > 0 && i < vertices.length - 1) put(which.mid, vertex, false);
    if (i === vertices.length - 1) put(which.end, vertex, false);
  });
  return placed;
}

/** The marker's viewport in the units of its viewBox. */
function visiblePart(box: { x: number; y: number }, width: number, height: number, fit: Matrix): readonly number[] {
  const [sx, , , sy, tx, ty] = fit;
  return [box.x - tx / sx, box.y - ty / sy, width / sx, height / sy];
}
