import { layerBounds } from '../artwork/bounds/bounds';
import { fits } from '../basics/fits';
import { same } from '../basics/same';
import { type ProjectDocument, ROOT } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Layer, type PieceRule, type Slice, sliceRecord } from '../document/records';
import { layerTitle } from '../document/titles';
import { groupsOn } from './for-groups';

/** Pieces that rules make at the most; what would be more is left. */
const MOST_MADE = 5000;

/** Whether a slice is as its rule made it, and no hand changed it since. */
const isAsMade = ({ byRule, name, margin, shape, specIds, on, offOutputIds }: Slice): boolean =>
  !!byRule &&
  byRule.name === name &&
  byRule.margin === margin &&
  same(byRule.specIds, specIds) &&
  shape.kind === 'rectangle' &&
  on &&
  offOutputIds.length === 0;

const layerOf = ({ source }: Slice): string | undefined => (source.kind === 'layer' ? source.layerId : undefined);

/** The layers that a rule means, from back to front; of one in another that is meant, the outer. */
export function layersByRule(doc: ProjectDocument, { match }: PieceRule): Layer[] {
  if (match.kind === 'groups') return [...new Set(doc.list('artboard').flatMap((artboard) => groupsOn(doc, artboard)))];
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

/** A slice as its rule makes it of a layer; `before` is the one that it made of it. */
function made(layer: Layer, rule: PieceRule, specIds: readonly string[], before: Pick<Slice, 'id' | 'order'>): Slice {
  const { id, order } = before;
  const fields = { name: layerTitle(layer), margin: rule.margin, specIds };
  const byRule = { ruleId: rule.id, ...fields };
  return sliceRecord.parse({
    id,
    order,
    kind: 'slice',
    source: { kind: 'layer', layerId: layer.id },
    ...fields,
    byRule,
  });
}

/**
 * What the piece rules of a project make of it as it is: a slice for each layer that a rule means and no slice is of. One
 * that a rule made and no hand changed has its layer's name and its rule's settings again, and goes with its layer or its
 * rule; one that a hand changed stays. The first rule that means a layer has it.
 */
export function byPieceRules(doc: ProjectDocument): { puts: Slice[]; removes: string[] } {
  const rules = doc.settings.pieceRules ?? [];
  const slices = doc.list('slice');
  if (rules.length === 0 && !slices.some(({ byRule }) => byRule)) return { puts: [], removes: [] };
  const specs = new Set(doc.list('spec').map(({ id }) => id));
  const specsOf = (rule: PieceRule) => rule.specIds.filter((id) => specs.has(id));
  const wanted = new Map<string, { layer: Layer; rule: PieceRule }>();
  for (const rule of rules)
    for (const layer of layersByRule(doc, rule)) if (!wanted.has(layer.id)) wanted.set(layer.id, { layer, rule });
  const puts: Slice[] = [];
  const removes: string[] = [];
  const sliced = new Set(slices.flatMap((slice) => layerOf(slice) ?? []));
  for (const slice of slices) {
    if (!isAsMade(slice)) continue;
    const { layer, rule } = wanted.get(layerOf(slice) ?? '') ?? {};
    if (!layer || !rule) removes.push(slice.id);
    else {
      const next = made(layer, rule, specsOf(rule), slice);
      if (!same(next.byRule, slice.byRule)) puts.push(next);
    }
  }
  const fresh = [...wanted.values()].filter(({ layer }) => !sliced.has(layer.id)).slice(0, MOST_MADE);
  const orders = ordersAfter(lastOrder(slices), fresh.length);
  for (const [i, { layer, rule }] of fresh.entries())
    puts.push(made(layer, rule, specsOf(rule), { id: newId(), order: orders[i] }));
  return { puts, removes };
}
