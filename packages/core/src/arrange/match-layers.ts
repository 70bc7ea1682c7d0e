import { layerBoxes } from '../artwork/bounds/artwork-index';
import { groupBy } from '../basics/group-by';
import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import type { Bounds } from '../geometry/matrix';
import { stepsOf } from '../geometry/path-steps';
import { SHAPES } from '../profile/allow-list';
import { assign, type Candidate } from './assign';

/** Layers of a piece, its tops and all in them, with the point from which places are measured. */
export type LayerTree = { doc: ProjectDocument; topIds: readonly string[]; origin: { x: number; y: number } };

/** How a layer was known again: by its drawing's name in its group, by its name anywhere, by what it looks like, or by where it is. */
export type MatchedBy = 'name' | 'nameElsewhere' | 'look' | 'place';
export type LayerMatch = { oldId: string; newId: string; by: MatchedBy };

type Known = {
  layer: Layer;
  at: number;
  parent: string;
  kind: 'group' | 'shape' | 'text' | 'picture';
  box: Bounds | null;
  /** What it draws, wherever it lies: equal for a copy that was moved or recoloured. */
  readonly look: string;
  /** Its steps without their numbers: equal for a shape that was redrawn by moving points. */
  readonly steps: string;
  paint: string;
};

/** Below this two layers have too little in common to be the same. */
const ENOUGH = 3;
/** Of size and place, 3 at the most, what says by itself that something stands where the other stood. */
const STANDS_THERE = 2.2;
/** Pairs that are looked at one by one; where there are more, only those near each other are. */
const MOST_PAIRS = 300_000;

/**
 * Which layers of new artwork are those of the old: by name within the same group, by name anywhere, by look, by place
 * and size. One to one, the best in total, and the same every time. A group that is known again is looked into first.
 */
export function matchLayers(before: LayerTree, after: LayerTree): LayerMatch[] {
  const old = knownIn(before);
  const fresh = knownIn(after);
  const matches = new Map<string, LayerMatch>();
  const taken = new Set<string>();
  const match = (one: Known, other: Known, by: MatchedBy) => {
    matches.set(other.layer.id, { oldId: one.layer.id, newId: other.layer.id, by });
    taken.add(one.layer.id);
  };
  const isFree = (known: Known) => !taken.has(known.layer.id) && !matches.has(known.layer.id);
  /** Whether their groups are each other's. */
  const atHome = (one: Known, other: Known) => matches.get(other.parent)?.oldId === one.parent;
  const pairUp = (ones: readonly Known[], others: readonly Known[], by: MatchedBy, least: number) => {
    const pairs = candidatesOf(ones, others, atHome, least);
    for (const { one, other } of assign(pairs)) match(old[one], fresh[other], by);
  };

  // One top on both sides is the file itself.
  if (before.topIds.length === 1 && after.topIds.length === 1) match(old[0], fresh[0], 'name');

  const byName = (within: (one: Known, other: Known) => boolean, by: MatchedBy): number => {
    const size = matches.size;
    const names = groupBy(
      old.filter((one) => drawnNameOf(one) && isFree(one)),
      keyOf,
    );
    const wanted = groupBy(
      fresh.filter((other) => drawnNameOf(other) && isFree(other) && names.has(keyOf(other))),
      keyOf,
    );
    for (const [key, others] of wanted) {
      const ones = names.get(key) ?? [];
      const near = others.filter((other) => ones.some((one) => within(one, other)));
      if (near.length === 0) continue;
      if (ones.length === 1 && near.length === 1) match(ones[0], near[0], by);
      else {
        const pairs = candidatesOf(ones, near, atHome, 0).filter(({ one, other }) => within(old[one], fresh[other]));
        for (const { one, other } of assign(pairs)) match(old[one], fresh[other], by);
      }
    }
    return matches.size - size;
  };
  // What is known again in one group lets its own groups be looked into.
  while (byName(atHome, 'name') > 0);
  while (byName(() => true, 'nameElsewhere') > 0) while (byName(atHome, 'name') > 0);

  const left = () => [old.filter(isFree), fresh.filter(isFree)] as const;
  const alike = (key: (known: Known) => string) => {
    const [ones, others] = left();
    const groups = groupBy(ones, key);
    const wanted = groupBy(
      others.filter((other) => groups.has(key(other))),
      key,
    );
    for (const [look, same] of wanted) pairUp(groups.get(look) ?? [], same, 'look', 0);
  };
  alike(({ kind, look, paint }) => `${kind} ${look} ${paint}`);
  alike(({ kind, look }) => `${kind} ${look}`);
  const [ones, others] = left();
  pairUp(ones, others, 'place', ENOUGH);
  return [...matches.values()];
}

/** For layers that are gone, which of the new ones is the likeliest to stand for each: one to one, and of any likeness. */
export function likeliest(
  before: LayerTree,
  after: LayerTree,
  goneIds: readonly string[],
  freshIds: readonly string[],
): Map<string, string> {
  const [gone, fresh] = [new Set(goneIds), new Set(freshIds)];
  const [old, now] = [knownIn(before), knownIn(after)];
  const pairs = candidatesOf(
    old.filter(({ layer }) => gone.has(layer.id)),
    now.filter(({ layer }) => fresh.has(layer.id)),
    () => false,
    0,
  );
  return new Map(assign(pairs).map(({ one, other }) => [old[one].layer.id, now[other].layer.id]));
}

/** What the drawing calls a layer, whatever it is called here. */
const drawnNameOf = ({ layer }: Known): string => layer.drawnName ?? layer.name;
const keyOf = (known: Known) => `${known.kind} ${drawnNameOf(known)}`;

/** Pairs of one kind with their scores; where there are very many, only those whose boxes meet. */
function candidatesOf(
  ones: readonly Known[],
  others: readonly Known[],
  atHome: (one: Known, other: Known) => boolean,
  least: number,
): Candidate[] {
  const found: Candidate[] = [];
  const many = ones.length * others.length > MOST_PAIRS;
  const near = many ? nearby(ones) : () => ones;
  for (const other of others) {
    for (const one of near(other)) {
      if (one.kind !== other.kind) continue;
      const { look, paint, stands } = likeness(one, other);
      const score = look + paint + stands + (atHome(one, other) ? 1 : 0);
      if (score >= least && (least === 0 || look > 0 || stands >= STANDS_THERE))
        found.push({ one: one.at, other: other.at, score });
    }
  }
  return found;
}

/** Of many, those in the same or the next field of a grid. */
function nearby(all: readonly Known[]): (other: Known) => Known[] {
  const boxes = all.flatMap(({ box }) => box ?? []);
  const side =
    Math.max(
      1e-6,
      ...boxes.map((box) => Math.max(box.maxX, box.maxY)),
      -Math.min(0, ...boxes.map((box) => Math.min(box.minX, box.minY))),
    ) / 40;
  const field = (x: number, y: number) => `${Math.floor(x / side)} ${Math.floor(y / side)}`;
  const middle = (box: Bounds) => [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2] as const;
  const fields = new Map<string, Known[]>();
  for (const known of all) {
    if (!known.box) continue;
    const key = field(...middle(known.box));
    fields.set(key, [...(fields.get(key) ?? []), known]);
  }
  return ({ box }) => {
    if (!box) return [];
    const [x, y] = middle(box);
    const list: Known[] = [];
    for (const dx of [-side, 0, side])
      for (const dy of [-side, 0, side]) list.push(...(fields.get(field(x + dx, y + dy)) ?? []));
    return list;
  };
}

/** What two layers of one kind have in common: look 0 to 4, paint 0 or 1, size and place together 0 to 3. */
function likeness(one: Known, other: Known): { look: number; paint: number; stands: number } {
  const look = one.look === other.look ? 4 : one.steps === other.steps && one.steps !== '' ? 1.5 : 0;
  const paint = one.paint === other.paint ? 1 : 0;
  if (!one.box || !other.box) return { look, paint, stands: one.box === other.box ? 1 : 0 };
  const [w1, h1, w2, h2] = [one.box, other.box].flatMap((box) => [box.maxX - box.minX, box.maxY - box.minY]);
  const ratio = (a: number, b: number) => (Math.max(a, b) === 0 ? 1 : Math.min(a, b) / Math.max(a, b));
  const size = 1.5 * ratio(w1, w2) * ratio(h1, h2);
  const far =
    Math.hypot(
      one.box.minX + one.box.maxX - other.box.minX - other.box.maxX,
      one.box.minY + one.box.maxY - other.box.minY - other.box.maxY,
    ) / 2;
  const reach = Math.max(Math.hypot(w1, h1), Math.hypot(w2, h2), 1e-9);
  return { look, paint, stands: size + 1.5 * Math.max(0, 1 - far / reach) };
}

/** All layers of a tree from its tops down, in the order of drawing. What they look like is worked out when it is asked for. */
function knownIn({ doc, topIds, origin }: LayerTree): Known[] {
  const boxes = layerBoxes(doc);
  const list: Known[] = [];
  const visit = (layer: Layer, parent: string) => {
    const box = boxes.get(layer.id);
    let looks: { look: string; steps: string } | undefined;
    const inner = () =>
      doc.children(layer.id).flatMap(({ id }) => {
        const at = places.get(id);
        return at === undefined ? [] : [list[at].look];
      });
    const looksNow = () => (looks ??= layer.tag === 'g' ? { look: inner().join(';'), steps: '' } : looksOf(layer));
    places.set(layer.id, list.length);
    list.push({
      layer,
      at: list.length,
      parent,
      kind: layer.tag === 'g' ? 'group' : layer.tag === 'text' ? 'text' : layer.tag === 'image' ? 'picture' : 'shape',
      box: box
        ? {
            minX: box.minX - origin.x,
            minY: box.minY - origin.y,
            maxX: box.maxX - origin.x,
            maxY: box.maxY - origin.y,
          }
        : null,
      get look() {
        return looksNow().look;
      },
      get steps() {
        return looksNow().steps;
      },
      paint: `${layer.attrs.fill ?? ''}|${layer.attrs.stroke ?? ''}|${layer.attrs['stroke-width'] ?? ''}`,
    });
    if (layer.tag === 'g') for (const child of doc.children(layer.id)) visit(child, layer.id);
  };
  const places = new Map<string, number>();
  for (const id of topIds) {
    const top = doc.find('layer', id);
    if (top) visit(top, '');
  }
  return list;
}

const round = (value: number) => Math.round(value * 100) / 100;

function looksOf({ tag, attrs, text }: Layer): { look: string; steps: string } {
  if (tag === 'text') return { look: (text ?? []).map((run) => run.text).join(''), steps: attrs['font-family'] ?? '' };
  if (tag === 'image') return { look: attrs.href ?? '', steps: '' };
  if (!SHAPES.has(tag)) return { look: '', steps: '' };
  const steps = stepsOf({ tag, attrs });
  const [x, y] = steps[0]?.n ?? [0, 0];
  return {
    look: steps.map(({ op, n }) => op + n.map((value, i) => round(value - (i % 2 ? y : x))).join(',')).join(''),
    steps: steps.map(({ op }) => op).join(''),
  };
}
