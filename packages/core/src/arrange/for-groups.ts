import { layerBounds } from '../artwork/bounds/bounds';
import { same } from '../basics/same';
import { ProjectDocument } from '../document/document';
import type { Artboard, Layer, ProjectRecord } from '../document/records';
import { HOLDS_TOGETHER } from '../profile/allow-list';
import { type AroundOptions, artboardsAround } from './artboards';
import { layersOn } from './move';
import { inPieceOrder, type PieceOrder } from './piece-order';
import { layOutInRows } from './rows';

export type ForGroupsOptions = AroundOptions & {
  /** Whether the new artboards stand in rows of their own, with what lies on them, or around the groups where those are. */
  rows: boolean;
  order?: PieceOrder;
  gapPx: number;
  /** What becomes of the artboard that the groups were on. One that others follow stays at the least. */
  sheet: 'stays' | 'off' | 'goes';
};

const draws = (doc: ProjectDocument, { id, shown }: Layer): boolean => shown && layerBounds(doc, id) !== null;

/**
 * The groups on an artboard that are parts of their own: those of the first level at which there are several. A file
 * that was brought in is a group around all of them, so what holds one group alone is gone into. None where there is
 * none or one.
 */
export function groupsOn(doc: ProjectDocument, artboard: Artboard): Layer[] {
  if (artboard.follows) return [];
  let level: readonly Layer[] = layersOn(doc, artboard);
  for (;;) {
    const groups = level.filter((layer) => layer.tag === 'g' && draws(doc, layer));
    if (groups.length !== 1) return groups;
    level = doc.children(groups[0].id);
  }
}

/** Whether something around a layer cuts or changes what is drawn at its place, so that it has to stay there. */
const isHeld = (doc: ProjectDocument, layer: Layer): boolean =>
  [...doc.ancestors(layer)].some(({ attrs }) => HOLDS_TOGETHER.some((name) => name in attrs));

/** How many rows of how many columns are about as wide as high. */
const columnsFor = (artboards: readonly Artboard[]): number => {
  const [wide, high] = artboards.reduce(
    ([w, h], { width, height }) => [Math.max(w, width), Math.max(h, height)],
    [1, 1],
  );
  return Math.max(1, Math.round(Math.sqrt((artboards.length * high) / wide)));
};

/**
 * An artboard for each group on some artboards, named after it and with the specs of the artboard it was on, as records
 * to put and ids to remove. Empty where no artboard has several groups. `followed` are the artboards that others follow.
 */
export function artboardsForGroups(
  doc: ProjectDocument,
  artboards: readonly Artboard[],
  options: ForGroupsOptions,
  followed: ReadonlySet<string> = new Set(),
): { puts: ProjectRecord[]; removes: string[]; made: string[] } {
  const scratch = new ProjectDocument(doc.all());
  const removes = new Set<string>();
  const made: string[] = [];
  const movable: string[] = [];
  for (const artboard of artboards) {
    const groups = groupsOn(scratch, artboard);
    if (groups.length === 0) continue;
    const ids = inPieceOrder(scratch, groups, options.order ?? 'reading').map(({ id }) => id);
    const around = artboardsAround(scratch, ids, options, artboard.specIds);
    scratch.apply({ puts: around, removes: [] });
    made.push(...around.map(({ id }) => id));
    if (!groups.some((group) => isHeld(scratch, group))) movable.push(...around.map(({ id }) => id));
    if (options.sheet === 'goes' && !followed.has(artboard.id)) {
      removes.add(artboard.id);
      for (const edition of scratch.list('edition')) if (edition.artboardId === artboard.id) removes.add(edition.id);
    } else if (options.sheet !== 'stays') scratch.apply({ puts: [{ ...artboard, on: false }], removes: [] });
  }
  scratch.apply({ puts: [], removes: [...removes] });
  if (options.rows && movable.length > 1) {
    const chosen = movable.flatMap((id) => scratch.find('artboard', id) ?? []);
    const rows = { columns: columnsFor(chosen), gapPx: options.gapPx, by: 'number', renumber: false } as const;
    scratch.apply({ puts: layOutInRows(scratch, chosen, rows), removes: [] });
  }
  const puts = [...scratch.all()].filter((record) => !same(record, doc.get(record.id)));
  return { puts, removes: [...removes], made };
}
