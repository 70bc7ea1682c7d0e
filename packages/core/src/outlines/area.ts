import type { Bounds, Matrix } from '../geometry/matrix';
import { IDENTITY, largestScale, multiply, overlaps, touches } from '../geometry/matrix';
import { type PathStep, pathSteps } from '../geometry/path-steps';
import { pathWalk } from '../geometry/path-walk';
import { halvedCurves } from '../geometry/split-curves';
import type { InkStep } from './ink-steps';
import { type KernelPath, NoOutline, type PathKernel } from './kernel';

/** Beyond so many segments a kernel may take minutes. */
const MOST_SEGMENTS = 20_000;
const MOST_DASHES = 5_000;

/** An area as a simple path of the kernel (even-odd, no crossings), with the box around it. */
type Area = { path: KernelPath; box: Bounds };

export type AreaSettings = {
  /** How many units of the kernel a px is: it reckons in 32-bit numbers, and finds crossings best when they are far apart. */
  scale: number;
  /** By how many degrees the drawing is turned for the kernel, and curves are halved: other ways, where the first fails. */
  turned: number;
  halved: boolean;
};

/**
 * Areas united and cut by the kernel, in the order in which they are drawn. Parts whose boxes do not meet stay apart, so that
 * a word costs by its letters. Keeps and frees the kernel's memory; use once.
 */
export class AreaBuilder {
  private islands: Area[] = [];
  /** Added, and not united yet. */
  private waiting: Area[] = [];
  private readonly made = new Set<KernelPath>();
  private segments = 0;

  constructor(
    private readonly kernel: PathKernel,
    private readonly settings: AreaSettings,
  ) {}

  add(step: InkStep): void {
    const area = this.areaOf(step);
    if (!area) return;
    if (!step.cuts) {
      this.waiting.push(area);
      return;
    }
    this.unite();
    const [meet, apart] = parted(this.islands, ({ box }) => overlaps(box, area.box));
    const cut = meet.map((island) => this.combined(island, area, this.kernel.PathOp.DIFFERENCE));
    this.islands = [...apart, ...cut.filter(isSome)];
    this.free(area.path);
  }

  /** Unites what was added with what there is: by halves, so that what is large is touched a few times only. */
  private unite(): void {
    const united = (areas: readonly Area[]): Area[] => {
      if (areas.length < 2) return [...areas];
      const middle = areas.length >> 1;
      return this.together(united(areas.slice(0, middle)), united(areas.slice(middle)));
    };
    this.islands = this.together(this.islands, united(this.waiting));
    this.waiting = [];
  }

  /** Two sets of areas apart from each other as one such set. */
  private together(some: readonly Area[], others: readonly Area[]): Area[] {
    let all = [...some];
    for (const other of others) {
      const [meet, apart] = parted(all, ({ box }) => touches(box, other.box));
      all = [...apart, meet.reduce((whole, each) => this.combined(whole, each, this.kernel.PathOp.UNION), other)];
    }
    return all;
  }

  /** Only what lies in a rectangle of the drawing, in px, stays. */
  within({ minX, minY, maxX, maxY }: Bounds): void {
    this.unite();
    const page = this.filled(pathSteps(`M${minX} ${minY}H${maxX}V${maxY}H${minX}Z`), IDENTITY, 'nonzero');
    if (!page) return;
    this.islands = this.islands
      .map((island) => this.combined(island, page, this.kernel.PathOp.INTERSECT))
      .filter(isSome);
    this.free(page.path);
  }

  /** The united areas as path commands of the kernel, in kernel units. */
  commands(): number[][][] {
    return this.islands.map(({ path }) => path.toCmds());
  }

  /** Frees all memory of the kernel. */
  end(): void {
    for (const path of this.made) path.delete();
    this.made.clear();
    this.islands = this.waiting = [];
  }

  private areaOf({ d, matrix, rule, clips, stroke }: InkStep): Area | null {
    const steps = pathSteps(d);
    this.segments += steps.length;
    if (this.segments > MOST_SEGMENTS) throw new NoOutline(`more than ${MOST_SEGMENTS} segments`, true);
    let area = stroke ? this.stroked(d, stroke, matrix) : this.filled(steps, matrix, rule);
    for (const clip of clips) {
      if (!area) return null;
      const inside = this.filled(pathSteps(clip.d), clip.matrix, clip.rule);
      if (!inside || !overlaps(inside.box, area.box)) return null;
      area = this.combined(area, inside, this.kernel.PathOp.INTERSECT);
      this.free(inside.path);
      if (!isSome(area)) return null;
    }
    return area;
  }

  private filled(steps: readonly PathStep[], matrix: Matrix, rule: 'nonzero' | 'evenodd'): Area | null {
    const { kernel } = this;
    const path = this.keep(kernel.FromCmds(commandsOf(this.ready(steps), this.toKernel(matrix))));
    path.setFillType(rule === 'evenodd' ? kernel.FillType.EVENODD : kernel.FillType.WINDING);
    return this.simple(path);
  }

  /** What a stroke covers (SVG 2 §13.5): made in the units of its shape, and taken to the drawing's then. */
  private stroked(d: string, stroke: NonNullable<InkStep['stroke']>, matrix: Matrix): Area | null {
    const { kernel, settings } = this;
    const grown = settings.scale * (largestScale(matrix) || 1);
    const line = this.keep(kernel.FromCmds(commandsOf(this.ready(pathSteps(d)), [grown, 0, 0, grown, 0, 0])));
    const options = {
      width: stroke.width * grown,
      miter_limit: stroke.miterLimit,
      join: kernel.StrokeJoin[stroke.join === 'round' ? 'ROUND' : stroke.join === 'bevel' ? 'BEVEL' : 'MITER'],
      cap: kernel.StrokeCap[stroke.cap === 'round' ? 'ROUND' : stroke.cap === 'square' ? 'SQUARE' : 'BUTT'],
    };
    const [xx, yx, xy, yy, x, y] = this.toKernel(matrix);
    const toDrawing = [xx / grown, xy / grown, x, yx / grown, yy / grown, y, 0, 0, 1];
    const cover = (path: KernelPath): Area | null => {
      const covered = this.keep(path.stroke(options) ?? gaveUp('stroke'));
      // Its answer is the path itself; both are kept once.
      covered.transform(...toDrawing);
      covered.setFillType(kernel.FillType.WINDING);
      return this.simple(covered);
    };
    if (stroke.dash.length === 0) return cover(line);
    const dash = stroke.dash.length % 2 ? [...stroke.dash, ...stroke.dash] : stroke.dash;
    const total = dash.reduce((sum, length) => sum + length, 0);
    if (pathWalk(d).length / total > MOST_DASHES) throw new NoOutline(`more than ${MOST_DASHES} dashes`, true);
    let all: Area | null = null;
    let from = 0;
    for (let i = 0; i < dash.length; i += 2) {
      const phase = (((stroke.dashOffset - from) % total) + total) % total;
      const part = this.keep(line.copy());
      if (dash[i + 1] > 0 || dash.length > 2)
        part.dash(dash[i] * grown, (total - dash[i]) * grown, phase * grown) ?? gaveUp('dash');
      const covered = cover(part);
      all = all && covered ? this.combined(all, covered, kernel.PathOp.UNION) : (all ?? covered);
      from += dash[i] + dash[i + 1];
    }
    this.free(line);
    return all;
  }

  /** A path without crossings and overlaps; null when nothing is in it. */
  private simple(path: KernelPath): Area | null {
    path.simplify() ?? gaveUp('simplify');
    const area = { path, box: boxOf(path) };
    if (isSome(area)) return area;
    this.free(path);
    return null;
  }

  /** The first becomes both, and the second is given up, unless it is the one to combine with others, too. */
  private combined(one: Area, other: Area, operation: object): Area {
    one.path.op(other.path, operation) ?? gaveUp('op');
    if (operation === this.kernel.PathOp.UNION) this.free(other.path);
    return { path: one.path, box: boxOf(one.path) };
  }

  private toKernel(matrix: Matrix): Matrix {
    const { scale, turned } = this.settings;
    return multiply(turnedBy(turned, scale), matrix);
  }

  private ready(steps: readonly PathStep[]): readonly PathStep[] {
    return this.settings.halved ? halvedCurves(steps) : steps;
  }

  private keep(path: KernelPath): KernelPath {
    this.made.add(path);
    return path;
  }

  private free(path: KernelPath): void {
    if (this.made.delete(path)) path.delete();
  }
}

const gaveUp = (what: string): never => {
  throw new NoOutline(`the kernel gave up: ${what}`);
};

/** The matrix that turns by so many degrees and grows. */
export function turnedBy(degrees: number, scale: number): Matrix {
  const angle = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  return [cos, sin, -sin, cos, 0, 0];
}

function commandsOf(steps: readonly PathStep[], [a, b, c, d, e, f]: Matrix): number[][] {
  const verbs = { M: 0, L: 1, C: 4, Z: 5 } as const;
  return steps.map(({ op, n }) => {
    const command: number[] = [verbs[op]];
    for (let i = 0; i < n.length; i += 2) {
      const [x, y] = [a * n[i] + c * n[i + 1] + e, b * n[i] + d * n[i + 1] + f];
      if (!Number.isFinite(x) || !Number.isFinite(y)) throw new NoOutline('a number that is none', true);
      command.push(x, y);
    }
    return command;
  });
}

/** Whether anything is left of an area. */
const isSome = ({ box }: Area) => box.maxX > box.minX && box.maxY > box.minY;

function boxOf(path: KernelPath): Bounds {
  const { fLeft, fTop, fRight, fBottom } = path.computeTightBounds();
  return { minX: fLeft, minY: fTop, maxX: fRight, maxY: fBottom };
}

function parted<T>(all: readonly T[], isFirst: (each: T) => boolean): [T[], T[]] {
  const parts: [T[], T[]] = [[], []];
  for (const each of all) parts[isFirst(each) ? 0 : 1].push(each);
  return parts;
}
