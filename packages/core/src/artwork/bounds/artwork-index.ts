import Flatbush from 'flatbush';
import { DEFS, type ProjectDocument, ROOT } from '../../document/document';
import type { Layer } from '../../document/records';
import { type Bounds, touches, unite } from '../../geometry/matrix';
import { eachLeaf, type Leaf } from './bounds';

/** Every drawn element of a document from back to front, found by place. */
export type ArtworkIndex = {
  leaves: readonly Leaf[] /** Back to front. */;
  search(box: Bounds): Leaf[];
  bounds: Bounds | null;
};

/** The box of a layer with all in it, and how many drawn elements that is. */
export type LayerBox = Bounds & { count: number };

/** What lies in one layer without a parent; kept as long as nothing in it changes. */
type Top = {
  leaves: readonly Leaf[];
  ids: readonly string[];
  box: Bounds | null /** Of what is visible. */;
  visible: Bounds | null;
  boxes?: ReadonlyMap<string, LayerBox>;
};

/** Where artwork changed, at which layer revision. */
type Entry = { revision: number; boxes: readonly Bounds[] };

type Kept = {
  revision: number;
  index: ArtworkIndex;
  tops: ReadonlyMap<string, Top>;
  /** The top of every layer. */
  topOf: Map<string, string>;
  /** Layers in definitions, which artwork anywhere may refer to. */
  inDefs: ReadonlySet<string>;
  journal: readonly Entry[];
  /** The journal tells of everything after this layer revision. */
  journalFrom: number;
  boxes?: ReadonlyMap<string, LayerBox>;
};

const JOURNAL_LENGTH = 100;
/** The box of what draws nothing now, but may where an edition moves it: meets no other. */
const NOWHERE: Bounds = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
const kept = new WeakMap<ProjectDocument, Kept>();

/** The spatial index of a document. After an edit only the top layers that it touched are walked again. */
export const artworkIndex = (doc: ProjectDocument): ArtworkIndex => upToDate(doc).index;

/**
 * Boxes of the plane in which artwork may look different since a layer revision; null when it may anywhere,
 * because a definition or a font changed or because it is too long ago.
 */
export function artworkChangedSince(doc: ProjectDocument, layerRevision: number): readonly Bounds[] | null {
  const { journal, journalFrom } = upToDate(doc);
  return layerRevision < journalFrom
    ? null
    : journal.flatMap((entry) => (entry.revision > layerRevision ? entry.boxes : []));
}

/** Boxes of all layers at once, hidden ones too; kept with the index. */
export function layerBoxes(doc: ProjectDocument): ReadonlyMap<string, LayerBox> {
  const now = upToDate(doc);
  if (now.boxes) return now.boxes;
  const all = new Map<string, LayerBox>();
  for (const top of now.tops.values()) {
    top.boxes ??= boxesIn(doc, top);
    for (const [id, box] of top.boxes) all.set(id, box);
  }
  now.boxes = all;
  return all;
}

function boxesIn(doc: ProjectDocument, { leaves }: Top): ReadonlyMap<string, LayerBox> {
  const map = new Map<string, LayerBox>();
  for (const { minX, minY, maxX, maxY, layer } of leaves) {
    for (const at of doc.lineage(layer)) {
      const box = map.get(at.id);
      if (!box) map.set(at.id, { minX, minY, maxX, maxY, count: 1 });
      else {
        box.minX = Math.min(box.minX, minX);
        box.minY = Math.min(box.minY, minY);
        box.maxX = Math.max(box.maxX, maxX);
        box.maxY = Math.max(box.maxY, maxY);
        box.count++;
      }
    }
  }
  return map;
}

function upToDate(doc: ProjectDocument): Kept {
  const before = kept.get(doc);
  if (before?.revision === doc.layerRevision) return before;
  const touched = before && touchedTops(doc, before);
  const now = touched ? walkedAgain(doc, before, touched) : walked(doc);
  kept.set(doc, now);
  return now;
}

/** The top layers that changes since then lie in, lay in or are; null when they cannot be told apart from the rest. */
function touchedTops(doc: ProjectDocument, { revision, topOf, inDefs }: Kept): ReadonlySet<string> | null {
  const changed = doc.layersChangedSince(revision);
  if (!changed) return null;
  const touched = new Set<string>();
  for (const id of changed) {
    if (inDefs.has(id)) return null;
    const was = topOf.get(id);
    if (was) touched.add(was);
    for (const at of doc.ancestors({ parentId: id })) {
      if (at.parentId === DEFS) return null;
      if (at.parentId === ROOT) touched.add(at.id);
    }
  }
  return touched;
}

function topFrom(doc: ProjectDocument, layer: Layer, topOf: Map<string, string>): Top {
  const leaves: Leaf[] = [];
  let box: Bounds | null = null;
  let visible: Bounds | null = null;
  eachLeaf(doc, [layer], (leaf) => {
    leaves.push(leaf);
    box = unite(box, leaf);
    if (leaf.visible) visible = unite(visible, leaf);
  });
  const ids: string[] = [];
  eachInside(doc, layer, (id) => {
    ids.push(id);
    topOf.set(id, layer.id);
  });
  return { leaves, ids, box, visible };
}

/** A layer and everything in it. */
function eachInside(doc: ProjectDocument, layer: Layer, report: (id: string) => void): void {
  report(layer.id);
  for (const child of doc.children(layer.id)) eachInside(doc, child, report);
}

function walked(doc: ProjectDocument): Kept {
  const topOf = new Map<string, string>();
  const tops = new Map(doc.children(ROOT).map((layer) => [layer.id, topFrom(doc, layer, topOf)]));
  const inDefs = new Set<string>();
  for (const layer of doc.children(DEFS)) eachInside(doc, layer, (id) => inDefs.add(id));
  return {
    revision: doc.layerRevision,
    index: indexOf(tops),
    tops,
    topOf,
    inDefs,
    journal: [],
    journalFrom: doc.layerRevision,
  };
}

function walkedAgain(doc: ProjectDocument, before: Kept, touched: ReadonlySet<string>): Kept {
  const { topOf } = before;
  const changed: Bounds[] = [];
  const note = (top: Top | undefined) => top && changed.push(top.box ?? NOWHERE);
  for (const id of touched) {
    const old = before.tops.get(id);
    note(old);
    for (const inside of old?.ids ?? []) topOf.delete(inside);
  }
  const tops = new Map<string, Top>();
  for (const layer of doc.children(ROOT)) {
    const old = touched.has(layer.id) ? undefined : before.tops.get(layer.id);
    const top = old ?? topFrom(doc, layer, topOf);
    if (!old) note(top);
    tops.set(layer.id, top);
  }
  const journal = [...before.journal, { revision: doc.layerRevision, boxes: changed }];
  const dropped = journal.length > JOURNAL_LENGTH ? journal.shift() : undefined;
  return {
    revision: doc.layerRevision,
    index: indexOf(tops),
    tops,
    topOf,
    inDefs: before.inDefs,
    journal,
    journalFrom: dropped?.revision ?? before.journalFrom,
  };
}

/** A tree pays off once it is searched this often; until then every element is looked at. */
const SEARCHES_BEFORE_TREE = 16;

function indexOf(tops: ReadonlyMap<string, Top>): ArtworkIndex {
  const leaves: Leaf[] = [];
  for (const top of tops.values()) for (const leaf of top.leaves) leaves.push(leaf);
  let bounds: Bounds | null = null;
  for (const top of tops.values()) bounds = top.visible ? unite(bounds, top.visible) : bounds;
  let tree: Flatbush | null = null;
  let searches = 0;
  const search = (box: Bounds): Leaf[] => {
    if (leaves.length === 0) return [];
    if (!tree && searches++ < SEARCHES_BEFORE_TREE) return leaves.filter((leaf) => touches(leaf, box));
    tree ??= treeOf(leaves);
    return tree
      .search(box.minX, box.minY, box.maxX, box.maxY)
      .sort((a, b) => a - b)
      .map((i) => leaves[i]);
  };
  return { leaves, bounds, search };
}

function treeOf(leaves: readonly Leaf[]): Flatbush {
  const tree = new Flatbush(leaves.length, 16, Float64Array);
  for (const leaf of leaves) tree.add(leaf.minX, leaf.minY, leaf.maxX, leaf.maxY);
  tree.finish();
  return tree;
}
