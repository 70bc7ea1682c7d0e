import { layerBounds } from '../artwork/bounds/bounds';
import { fits } from '../basics/fits';
import { same } from '../basics/same';
import { type ProjectDocument, ROOT } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import {
  type Artboard,
  artboardRecord,
  type Layer,
  type PieceRule,
  type Slice,
  sliceRecord,
} from '../document/records';
import { layerTitle } from '../document/titles';
import { squared } from '../geometry/region';
import { regionOf } from '../pieces/placements';
import { aroundLayer } from './artboards';
import { groupsOn } from './for-groups';

/** Pieces that rules make at the most; what would be more is left. */
const MOST_MADE = 5000;

type Ruled = Slice | Artboard;

/** What a rule says of a piece, read off the piece. */
const saidOf = (piece: Ruled) =>
  piece.kind === 'slice'
    ? {
        name: piece.name,
        margin: piece.margin,
        square: piece.square,
        wholePx: piece.wholePx,
        specIds: piece.specIds,
      }
    : { layerId: piece.byRule?.layerId, name: piece.name, ...regionOf(piece), specIds: piece.specIds };

/** Whether a piece is as its rule made it, and no hand changed it since or hung something on it (`held` has what others hang on). */
function isAsMade(piece: Ruled, held: ReadonlySet<string>): boolean {
  const { id, byRule, on, offOutputIds } = piece;
  if (!byRule || !on || offOutputIds.length > 0 || held.has(id)) return false;
  const isPlain = piece.kind === 'slice' ? piece.shape.kind === 'rectangle' : !piece.background && !piece.follows;
  return isPlain && same(byRule, { ruleId: byRule.ruleId, ...saidOf(piece) });
}

/** The artboards that have editions, or that others follow. */
const heldArtboards = (doc: ProjectDocument): ReadonlySet<string> =>
  new Set([
    ...doc.list('edition').map(({ artboardId }) => artboardId),
    ...doc
      .list('artboard')
      .flatMap(({ follows }) => (follows ? [follows.artboardId, follows.lockup?.wordmarkId ?? ''] : [])),
  ]);

/** The layer that a piece is of; none where it was drawn or put up by hand. */
function layerOf(piece: Ruled): string | undefined {
  if (piece.kind === 'artboard') return piece.byRule?.layerId;
  return piece.source.kind === 'layer' ? piece.source.layerId : undefined;
}

/** The groups on each artboard that no rule made: what such a one holds was found already. */
const groupsOfDrawings = (doc: ProjectDocument): Layer[] => [
  ...new Set(
    doc
      .list('artboard')
      .filter(({ byRule }) => !byRule)
      .flatMap((artboard) => groupsOn(doc, artboard)),
  ),
];

/** The layers that a rule means, from back to front; of one in another that is meant, the outer. */
export function layersByRule(doc: ProjectDocument, { match }: PieceRule): Layer[] {
  if (match.kind === 'groups') return groupsOfDrawings(doc);
  const like = match.like.toLowerCase();
  const found: Layer[] = [];
  const look = (parentId: string) => {
    for (const layer of doc.children(parentId)) {
      const isMeant = layer.name !== '' && fits(like, layer.name.toLowerCase());
      if (isMeant && layer.shown && layerBounds(doc, layer.id)) found.push(layer);
      else look(layer.id);
    }
  };
  look(ROOT);
  return found;
}

type Wanted = { layer: Layer; rule: PieceRule; specIds: readonly string[] };

/** A piece as its rule makes it of a layer; `at` is the one that it made of it before, or a new one's. */
function made(doc: ProjectDocument, { layer, rule, specIds }: Wanted, at: Pick<Ruled, 'id' | 'order'>): Ruled {
  const { id, order } = at;
  const { margin, square, wholePx } = rule;
  const name = layerTitle(layer);
  const region = rule.becomes === 'artboard' && aroundLayer(doc, layer.id, margin);
  if (region) {
    const place = { name, ...(square ? squared(region, true) : region), specIds };
    const byRule = { ruleId: rule.id, layerId: layer.id, ...place };
    return artboardRecord.parse({ id, order, kind: 'artboard', ...place, byRule });
  }
  const fields = { name, margin, ...(square && { square }), ...(wholePx && { wholePx }), specIds };
  const source = { kind: 'layer', layerId: layer.id };
  return sliceRecord.parse({ id, order, kind: 'slice', source, ...fields, byRule: { ruleId: rule.id, ...fields } });
}

const kindOf = ({ becomes = 'slice' }: PieceRule): Ruled['kind'] => becomes;

/**
 * What the piece rules of a project make of it as it is: a piece for each layer that a rule means and that is none yet.
 * One that a rule made and no hand changed has its layer's name and its rule's settings again, and goes with its layer or
 * its rule; one that a hand changed stays. The first rule that means a layer has it.
 */
export function byPieceRules(doc: ProjectDocument): { puts: Ruled[]; removes: string[] } {
  const rules = doc.settings.pieceRules ?? [];
  const before: Ruled[] = [...doc.list('slice'), ...doc.list('artboard').filter(({ byRule }) => byRule)];
  if (rules.length === 0 && !before.some(({ byRule }) => byRule)) return { puts: [], removes: [] };
  const specs = new Set(doc.list('spec').map(({ id }) => id));
  const wanted = new Map<string, Wanted>();
  for (const rule of rules) {
    const specIds = rule.specIds.filter((id) => specs.has(id));
    for (const layer of layersByRule(doc, rule))
      if (!wanted.has(layer.id)) wanted.set(layer.id, { layer, rule, specIds });
  }
  const puts: Ruled[] = [];
  const removes: string[] = [];
  const taken = new Set<string>();
  const held = heldArtboards(doc);
  for (const piece of before) {
    const layerId = layerOf(piece) ?? '';
    const wish = wanted.get(layerId);
    if (!isAsMade(piece, held)) taken.add(layerId);
    else if (!wish || kindOf(wish.rule) !== piece.kind) removes.push(piece.id);
    else {
      taken.add(layerId);
      const next = made(doc, wish, piece);
      if (!same(next.byRule, piece.byRule)) puts.push(next);
    }
  }
  const fresh = [...wanted.values()].filter(({ layer }) => !taken.has(layer.id)).slice(0, MOST_MADE);
  for (const kind of ['slice', 'artboard'] as const) {
    const ofKind = fresh.filter(({ rule }) => kindOf(rule) === kind);
    const orders = ordersAfter(lastOrder(doc.list(kind)), ofKind.length);
    for (const [i, wish] of ofKind.entries()) puts.push(made(doc, wish, { id: newId(), order: orders[i] }));
  }
  return { puts, removes };
}
