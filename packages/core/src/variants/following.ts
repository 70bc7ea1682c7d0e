import { layersOn } from '../arrange/move';
import { artworkIndex } from '../artwork/bounds/artwork-index';
import { layerToPlane } from '../artwork/bounds/bounds';
import { inheritedValue } from '../artwork/style/inherited';
import { refuse } from '../basics/problem';
import { AS_DRAWN, asMask, type Recolouring, recolourAttributes, recolours, withRule } from '../compose/paint';
import { ringPaint, runsOf } from '../compose/rings';
import { DEFS, ProjectDocument, ROOT } from '../document/document';
import type { Change } from '../document/edits';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, type Layer, layerRecord, type ProjectRecord, type RecolourRule } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { boundsOf, multiply, overlaps, translate, unlessIdentity } from '../geometry/matrix';
import { followedLayout, isFollowing, type Placement } from '../pieces/placements';
import { EFFECTS } from '../profile/allow-list';
import { withRenamedReferences } from '../profile/references';

/** Whether an artboard may follow another: throws a `Refusal` for itself, chains and rings. */
export function mayFollow(doc: ProjectDocument, artboard: Artboard, sourceId: string): Artboard {
  const source = doc.find('artboard', sourceId);
  if (!source)
    return refuse('follow.gone', 'that artboard was deleted', { accepted: 'an artboard with artwork of its own' });
  if (source.id === artboard.id)
    refuse('follow.itself', `${artboard.name} cannot follow itself`, { accepted: 'another artboard' });
  if (source.follows)
    refuse('follow.chain', `${source.name} follows another artboard itself`, {
      accepted: 'an artboard with artwork of its own',
    });
  const followers = doc.list('artboard').filter((other) => isFollowing(other, artboard.id));
  if (followers.length > 0)
    refuse(
      'follow.ring',
      `${artboard.name} is followed by ${followers[0].name}${followers.length > 1 ? ` and ${followers.length - 1} more` : ''}`,
      { accepted: 'an artboard that nothing follows' },
    );
  return source;
}

/** An artboard shows the artwork of another one from now on; its own, if it has any, goes. It takes the source's size. */
export function follow(doc: ProjectDocument, artboard: Artboard, sourceId: string, rule: RecolourRule): Change {
  const source = mayFollow(doc, artboard, sourceId);
  const own = artboard.follows ? [] : layersOn(doc, artboard).flatMap((layer) => doc.descendants(layer.id));
  const { width, height } = source;
  return {
    label: `${artboard.name} follows ${source.name}`,
    puts: [{ ...artboard, width, height, follows: { artboardId: sourceId, rule } }],
    removes: own,
  };
}

/** The rule by which a variant recolours its source. */
export function changeRule(artboard: Artboard, rule: RecolourRule): Change {
  const { follows } = artboard;
  if (!follows) return { label: '', puts: [], removes: [] };
  return {
    label: `change the colours of ${artboard.name}`,
    puts: [{ ...artboard, follows: { ...follows, rule } }],
    removes: [],
  };
}

/** A following artboard becomes an ordinary one: what it shows is artwork of its own from now on, and looks the same. */
export function stopFollowing(doc: ProjectDocument, artboard: Artboard): Change {
  const { follows } = artboard;
  const layout = followedLayout(doc, artboard);
  if (!follows || !layout)
    return refuse('follow.not', `${artboard.name} follows nothing`, { accepted: 'an artboard that follows another' });
  const { follows: _, ...plain } = artboard;
  if (typeof layout === 'string') return { label: `stop ${artboard.name} following`, puts: [plain], removes: [] };
  const { rule } = follows;
  const recolouring = rule.kind === 'ink' ? asMask(rule) : withRule(AS_DRAWN, rule);
  const copies = layout.placements.map((placement) => copyOf(doc, artboard, placement, recolouring));
  const inside = copies.flatMap((copy) => copy.inside);
  const drawn = copies.flatMap((copy) => copy.tops);
  const tops = rule.kind === 'ink' ? [inkLayer(artboard, rule.colour, drawn, inside)] : drawn;
  const orders = ordersAfter(lastOrder(doc.children(ROOT)), tops.length);
  const puts: ProjectRecord[] = [plain, ...tops.map((layer, i) => ({ ...layer, order: orders[i] })), ...inside];
  return { label: `stop ${artboard.name} following`, puts, removes: [] };
}

/** A source is deleted: those that follow it keep what they show as artwork of their own. */
export function keepFollowers(doc: ProjectDocument, sourceIds: ReadonlySet<string>): ProjectRecord[] {
  // One after the other, so that each gets an order of its own in front of the one before.
  const scratch = new ProjectDocument(doc.all());
  return followersOf(doc, sourceIds).flatMap((artboard) => {
    const { puts } = stopFollowing(scratch, artboard);
    scratch.apply({ puts, removes: [] });
    return puts;
  });
}

/** Artboards that follow any of these and are not among them. */
export const followersOf = (doc: ProjectDocument, sourceIds: ReadonlySet<string>): Artboard[] =>
  doc
    .list('artboard')
    .filter((artboard) => !sourceIds.has(artboard.id) && [...sourceIds].some((id) => isFollowing(artboard, id)));

/** One ink over an artboard, masked by layers, which go into a definition beside it. */
function inkLayer(
  { x, y, width, height, name }: Artboard,
  colour: string,
  drawn: readonly Layer[],
  inside: Layer[],
): Layer {
  const place = { x: `${x}`, y: `${y}`, width: `${width}`, height: `${height}` };
  const mask = newId();
  const orders = ordersAfter(null, drawn.length + 1);
  inside.push(
    layerRecord.parse({
      id: mask,
      kind: 'layer',
      parentId: DEFS,
      order: orders[0],
      tag: 'mask',
      attrs: { maskUnits: 'userSpaceOnUse', ...place },
    }),
    ...drawn.map((layer, i) => ({ ...layer, parentId: mask, order: orders[i + 1] })),
  );
  return layerRecord.parse({
    id: newId(),
    kind: 'layer',
    parentId: ROOT,
    order: orders[0],
    name,
    tag: 'rect',
    attrs: { ...place, fill: colour, mask: `url(#${mask})` },
  });
}

/** The layers of a source as they look on a follower: recoloured, moved there, with definitions of their own where colours are in them. */
function copyOf(
  doc: ProjectDocument,
  follower: Artboard,
  { source, x, y, scale }: Placement,
  recolouring: Recolouring,
): { tops: Layer[]; inside: Layer[] } {
  const box = boundsOf(source);
  const wanted = new Set<string>();
  for (const leaf of artworkIndex(doc).search(box)) {
    if (leaf.visible && overlaps(leaf, box)) for (const at of doc.lineage(leaf.layer)) wanted.add(at.id);
  }
  const inside: Layer[] = [];
  const definitions = new Map<string, string>();
  const recoloured = recolours(recolouring);
  /** A definition that holds colours is copied with them changed; clips and masks never are. */
  const definition = (id: string): string => {
    const known = definitions.get(id);
    if (known) return known;
    const layer = doc.find('layer', id);
    if (!layer || !recoloured || layer.tag === 'clipPath' || layer.tag === 'mask') return id;
    const made = newId();
    definitions.set(id, made);
    inside.push({ ...painted(layer, layer.attrs.color), id: made, order: layer.order, parentId: DEFS });
    copyAll(doc.children(id), made, layer.attrs.color);
    return made;
  };
  const painted = (layer: Layer, currentColour: string | undefined, initial = false): Layer => {
    const attrs = withRenamedReferences(
      recolourAttributes(layer.attrs, recolouring, currentColour, initial),
      definition,
    );
    const text = layer.text?.map((run) => ({
      ...run,
      attrs: withRenamedReferences(recolourAttributes(run.attrs, recolouring, currentColour), definition),
    }));
    return { ...layer, attrs, ...(text ? { text } : {}) };
  };
  const holdsAll = (layer: Layer) => EFFECTS.some((name) => name in layer.attrs);
  const copy = (
    layer: Layer,
    parentId: string,
    currentColour: string | undefined,
    all: boolean,
    ring: boolean,
  ): Layer | undefined => {
    if (!layer.shown || layer.benchOnly || (!all && !wanted.has(layer.id))) return undefined;
    if (ring && layer.tag === 'image') return undefined;
    const colour = layer.attrs.color ?? currentColour;
    const look = ring
      ? asGap(doc, layer, recolouring.ink?.gapPx ?? 0)
      : painted(layer, colour, parentId === ROOT && recoloured);
    const made: Layer = { ...look, id: newId(), parentId };
    inside.push(made);
    copyAll(doc.children(layer.id), made.id, colour, all || holdsAll(layer), ring);
    return made;
  };
  /** Layers of one parent; in one ink those that are set apart come after the gap that is cut around them. */
  const copyAll = (
    layers: readonly Layer[],
    parentId: string,
    currentColour: string | undefined,
    all = true,
    ring = false,
  ): Layer[] => {
    const { ink } = recolouring;
    const runs =
      ink && !ring && layers.length > 0 && parentId !== DEFS
        ? runsOf(doc, layers, styleAround(doc, layers[0]), ink)
        : [{ ring: false, layers }];
    const made = runs.flatMap((run) => [
      ...(run.ring ? run.layers.map((layer) => copy(layer, parentId, currentColour, all, true)) : []),
      ...run.layers.map((layer) =>
        copy(layer, parentId, parentId === ROOT ? inheritedValue(doc, layer, 'color') : currentColour, all, ring),
      ),
    ]);
    const copies = made.flatMap((layer) => layer ?? []);
    if (runs.some((run) => run.ring)) {
      const orders = ordersAfter(null, copies.length);
      copies.forEach((layer, i) => {
        layer.order = orders[i];
      });
    }
    return copies;
  };
  const place: Matrix = multiply(
    multiply(translate(follower.x + x, follower.y + y), [scale, 0, 0, scale, 0, 0]),
    translate(-source.x, -source.y),
  );
  const layers = doc.children(ROOT).filter(({ id }) => wanted.has(id));
  const tops = copyAll(layers, ROOT, undefined, false).map((made) => {
    inside.splice(inside.indexOf(made), 1);
    const transform = multiply(place, made.transform ?? [1, 0, 0, 1, 0, 0]).map(
      (value) => +value.toFixed(12),
    ) as Matrix;
    return { ...made, transform: unlessIdentity(transform) };
  });
  return { tops, inside };
}

/** What a layer's parents give it. */
function styleAround(doc: ProjectDocument, layer: Layer): Record<string, string> {
  return Object.assign({}, ...[...doc.ancestors(layer)].reverse().map(({ attrs }) => attrs));
}

/** A layer as the gap around it is cut; its groups are as they are. */
function asGap(doc: ProjectDocument, layer: Layer, gap: number): Layer {
  if (layer.tag === 'g') return layer;
  const paint = ringPaint({ ...styleAround(doc, layer), ...layer.attrs }, gap, layerToPlane(doc, layer));
  const text = layer.text?.map((run) => ({
    ...run,
    attrs: Object.fromEntries(Object.entries(run.attrs).filter(([name]) => !(name in paint))),
  }));
  return { ...layer, name: '', attrs: { ...layer.attrs, ...paint }, ...(text ? { text } : {}) };
}
