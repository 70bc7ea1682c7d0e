import type { Edit } from './edits';
import {
  DEFAULT_SETTINGS,
  type Layer,
  type ProjectRecord,
  type RecordKind,
  type RecordOf,
  SETTINGS_ID,
  type Settings,
} from './records';

export { DEFS, ROOT } from './records';

/** Back to front; ids settle equal keys, so that everyone sorts alike. */
export const byOrder = (a: { order: string; id: string }, b: { order: string; id: string }) =>
  a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1;

/** Changed layers that are told one by one; after more, all count as changed. */
const CHANGES_KEPT = 20_000;

const NO_LAYERS: readonly Layer[] = [];

/**
 * The records of one project with the lookups that everything else needs. Records are immutable;
 * the document changes only by `apply`, which bumps `revision`. Lookups are kept as edits come, so
 * that one edit costs the same in a large project as in a small one.
 */
export class ProjectDocument {
  private readonly records = new Map<string, ProjectRecord>();
  private readonly kinds = new Map<RecordKind, Map<string, ProjectRecord>>();
  private readonly childIds = new Map<string, Set<string>>();
  private readonly sortedChildren = new Map<string, readonly Layer[]>();
  private readonly sortedKinds = new Map<RecordKind, readonly ProjectRecord[]>();
  /** Counts changes of any record. */
  revision = 0;
  /** Counts changes of layers only; what is derived from artwork is kept until it moves on. */
  layerRevision = 0;
  /** Ids of changed layers, one for each layer revision after `changesFrom`. */
  private changes: string[] = [];
  private changesFrom = 0;

  constructor(records: Iterable<ProjectRecord> = []) {
    for (const record of records) this.set(record);
  }

  get size(): number {
    return this.records.size;
  }

  all(): IterableIterator<ProjectRecord> {
    return this.records.values();
  }

  get(id: string): ProjectRecord | undefined {
    return this.records.get(id);
  }

  /** The record if it exists and is of that kind. */
  find<K extends RecordKind>(kind: K, id: string): RecordOf<K> | undefined {
    return this.kinds.get(kind)?.get(id) as RecordOf<K> | undefined;
  }

  /** The groups around a layer, from the nearest out. */
  *ancestors({ parentId }: { parentId: string }): Generator<Layer, void> {
    for (let at = this.find('layer', parentId); at; at = this.find('layer', at.parentId)) yield at;
  }

  /** A layer and the groups around it, from the inside out. */
  *lineage(layer: Layer): Generator<Layer, void> {
    yield layer;
    yield* this.ancestors(layer);
  }

  /** A layer and all in it, from the top down. */
  descendants(layerId: string): string[] {
    const ids = [layerId];
    for (let i = 0; i < ids.length; i++) for (const child of this.children(ids[i])) ids.push(child.id);
    return ids;
  }

  /** Every record of a kind, in no order; spares sorting where none is needed. */
  each<K extends RecordKind>(kind: K): Iterable<RecordOf<K>> {
    return (this.kinds.get(kind)?.values() ?? []) as Iterable<RecordOf<K>>;
  }

  /** Every record of a kind, in its order. */
  list<K extends RecordKind>(kind: K): readonly RecordOf<K>[] {
    let sorted = this.sortedKinds.get(kind);
    if (!sorted) {
      const all = [...(this.kinds.get(kind)?.values() ?? [])];
      if (kind !== 'settings' && kind !== 'acceptance') (all as { order: string; id: string }[]).sort(byOrder);
      sorted = all;
      this.sortedKinds.set(kind, sorted);
    }
    return sorted as readonly RecordOf<K>[];
  }

  /** The children of a layer (or of `root`, `defs`) from back to front. */
  children(parentId: string): readonly Layer[] {
    const ids = this.childIds.get(parentId);
    if (!ids || ids.size === 0) return NO_LAYERS;
    let sorted = this.sortedChildren.get(parentId);
    if (!sorted) {
      sorted = [...ids].map((id) => this.records.get(id) as Layer).sort(byOrder);
      this.sortedChildren.set(parentId, sorted);
    }
    return sorted;
  }

  get settings(): Settings {
    return this.find('settings', SETTINGS_ID) ?? DEFAULT_SETTINGS;
  }

  /** Carries out puts and removes; answers the edit that takes them back. Unknown removes are nothing. */
  apply(edit: Pick<Edit, 'puts' | 'removes'>): Pick<Edit, 'puts' | 'removes'> {
    const puts: ProjectRecord[] = [];
    const removes: string[] = [];
    const seen = new Set<string>();
    for (const id of edit.removes) {
      const before = this.records.get(id);
      if (!before) continue;
      seen.add(id);
      puts.push(before);
      this.delete(before);
    }
    for (const record of edit.puts) {
      const before = this.records.get(record.id);
      if (!seen.has(record.id)) {
        if (before) puts.push(before);
        else removes.push(record.id);
        seen.add(record.id);
      }
      if (before) this.delete(before);
      this.set(record);
    }
    return { puts, removes };
  }

  /** The layers that changed since a layer revision; null when any may have. */
  layersChangedSince(revision: number): ReadonlySet<string> | null {
    return revision < this.changesFrom ? null : new Set(this.changes.slice(revision - this.changesFrom));
  }

  /** All that is derived from artwork is out of date, though no layer changed. */
  artworkMeasuredAnew(): void {
    this.layerRevision++;
    this.forgetChanges();
  }

  private forgetChanges(): void {
    this.changes = [];
    this.changesFrom = this.layerRevision;
  }

  private set(record: ProjectRecord): void {
    this.records.set(record.id, record);
    let kind = this.kinds.get(record.kind);
    if (!kind) this.kinds.set(record.kind, (kind = new Map()));
    kind.set(record.id, record);
    this.touched(record);
    if (record.kind === 'layer') {
      let ids = this.childIds.get(record.parentId);
      if (!ids) this.childIds.set(record.parentId, (ids = new Set()));
      ids.add(record.id);
    }
  }

  private delete(record: ProjectRecord): void {
    this.records.delete(record.id);
    this.kinds.get(record.kind)?.delete(record.id);
    this.touched(record);
    if (record.kind === 'layer') this.childIds.get(record.parentId)?.delete(record.id);
  }

  private touched(record: ProjectRecord): void {
    this.revision++;
    this.sortedKinds.delete(record.kind);
    // Text is as wide as its font makes it.
    if (record.kind === 'font') this.artworkMeasuredAnew();
    if (record.kind !== 'layer') return;
    this.layerRevision++;
    this.changes.push(record.id);
    if (this.changes.length > CHANGES_KEPT) this.forgetChanges();
    this.sortedChildren.delete(record.parentId);
  }
}
