/** One file per check: what it looks for, an example, and the change that mends it. The list of them is the product. */
import { artworkChangedSince, artworkIndex } from '../artwork/bounds/artwork-index';
import { type Leaf, measureTextWith } from '../artwork/bounds/bounds';
import type { Seen } from '../artwork/bounds/standing-out';
import { NO_FONTS } from '../artwork/text/fonts';
import { groupBy } from '../basics/group-by';
import { same } from '../basics/same';
import { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import { type Bounds, boundsOf, overlaps, touches } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import type { Piece } from '../pieces/pieces';
import { regionOf, sourcesOf } from '../pieces/placements';
import type { PlannedFile } from '../plan/plan';
import { acceptanceOf, withAcceptances } from './acceptance';
import { belowSmallest } from './below-smallest';
import { betweenPixels } from './between-pixels';
import { cannotBeMade } from './cannot-be-made';
import type { Check, Finding, Looked, Severity, Surroundings } from './check';
import { coloursAlike } from './colours-alike';
import { cutInks } from './cut-inks';
import { cutNodes } from './cut-nodes';
import { cutThin } from './cut-thin';
import { defaultName } from './default-name';
import { differenceLost } from './difference-lost';
import { epsPicture } from './eps-picture';
import { hairline } from './hairline';
import { heavySvg } from './heavy-svg';
import { hiddenInside } from './hidden-inside';
import { inkMasked } from './ink-masked';
import { inkSolid } from './ink-solid';
import { intakeRefuses } from './intake-refuses';
import { liveText } from './live-text';
import { nameChanged } from './name-changed';
import { nameTwice } from './name-twice';
import { noLongerMade } from './no-longer-made';
import { nothingInside } from './nothing-inside';
import { offCentre } from './off-centre';
import { offGrid } from './off-grid';
import { offMultiple } from './off-multiple';
import { onlyAPicture } from './only-a-picture';
import { outputIdle } from './output-idle';
import { partsMelt } from './parts-melt';
import { pdfFlattens } from './pdf-flattens';
import { pictureEnlarged } from './picture-enlarged';
import { pokesOut } from './pokes-out';
import { setDiffers } from './set-differs';
import { shapesApart } from './shapes-apart';
import { smallInside } from './small-inside';
import { strokesLeft } from './strokes-left';
import { tooLittleContrast } from './too-little-contrast';

export const CHECKS: readonly Check[] = [
  cannotBeMade,
  differenceLost,
  nameTwice,
  tooLittleContrast,
  partsMelt,
  inkMasked,
  inkSolid,
  shapesApart,
  strokesLeft,
  cutThin,
  cutInks,
  cutNodes,
  epsPicture,
  offGrid,
  offMultiple,
  betweenPixels,
  nothingInside,
  pokesOut,
  smallInside,
  belowSmallest,
  defaultName,
  nameChanged,
  setDiffers,
  onlyAPicture,
  pictureEnlarged,
  heavySvg,
  pdfFlattens,
  hairline,
  liveText,
  intakeRefuses,
  coloursAlike,
  offCentre,
  hiddenInside,
  outputIdle,
  noLongerMade,
];

const RANK: Record<Severity, number> = { error: 0, warning: 1, hint: 2 };

/** The parts of the plane that a piece shows: a variant shows its sources'. */
const regionsOf = ({ doc }: Surroundings, { record, region }: Piece): readonly Region[] =>
  record.kind === 'artboard' && record.follows ? sourcesOf(doc, record).map(regionOf) : [region];

/**
 * What a piece was looked at with. `near` are the drawn elements, hidden ones too, that lie in its regions or touch them.
 */
type Remembered = {
  looked: Looked;
  regions: readonly Region[];
  near: readonly Leaf[];
  common: readonly unknown[];
  found: readonly Finding[];
};

type Around = Pick<Remembered, 'regions' | 'near'> & Pick<Looked, 'allLeaves'>;

/** The drawn elements in or at a piece; those of before, as long as nothing changed there. */
function lookAround(
  surroundings: Surroundings,
  piece: Piece,
  before: Remembered | undefined,
  changed: readonly Bounds[] | null,
): Around {
  const regions = piece.problem ? [] : regionsOf(surroundings, piece);
  const boxes = regions.map(boundsOf);
  if (
    before &&
    changed &&
    sameList(before.regions, regions, sameRegion) &&
    !changed.some((box) => boxes.some((each) => touches(box, each)))
  ) {
    return { regions: before.regions, near: before.near, allLeaves: before.looked.allLeaves };
  }
  const { search } = artworkIndex(surroundings.doc);
  const found = boxes.map(search);
  return {
    regions,
    near: found.flat(),
    allLeaves: found.flatMap((leaves, i) => leaves.filter((leaf) => overlaps(leaf, boxes[i]))),
  };
}

/** What every piece's findings depend on beside itself. */
const commonOf = ({ doc, fonts, pictureSize, intakes = [] }: Surroundings): readonly unknown[] => [
  JSON.stringify(intakes),
  doc.settings,
  doc.list('output'),
  doc.list('spec'),
  doc.list('edition'),
  fonts,
  pictureSize,
];

const sameFile = (a: PlannedFile, b: PlannedFile) =>
  a === b ||
  (a.path === b.path &&
    a.outputId === b.outputId &&
    a.widthPx === b.widthPx &&
    a.scale === b.scale &&
    a.problem === b.problem &&
    a.clashCount === b.clashCount &&
    a.clashes.length === b.clashes.length &&
    a.clashes.every((clash, i) => clash.pieceId === b.clashes[i].pieceId));
const sameSeen = (a: Seen | undefined, b: Seen | undefined) => a === b || (!!a && !!b && same(a, b));
const sameRegion = (a: Region, b: Region) => a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;
const sameList = <T>(a: readonly T[], b: readonly T[], same: (one: T, other: T) => boolean) =>
  a.length === b.length && a.every((each, i) => same(each, b[i]));

const unchanged = (
  { looked: before, regions, near, common }: Remembered,
  now: Looked,
  around: Around,
  commonNow: readonly unknown[],
) =>
  before.piece.record === now.piece.record &&
  before.piece.number === now.piece.number &&
  before.piece.problem === now.piece.problem &&
  sameList(common, commonNow, Object.is) &&
  sameList(before.files, now.files, sameFile) &&
  sameList(before.seen, now.seen, sameSeen) &&
  sameRegion(before.piece.region, now.piece.region) &&
  sameList(regions, around.regions, sameRegion) &&
  // A leaf stays the same object until something in its top layer changes.
  sameList(near, around.near, Object.is);

/**
 * Looks at every piece that is on with every check, and remembers: after an edit, only pieces are looked at again
 * that it may have touched. Errors come first, then warnings, each in the order of pieces; what somebody accepted last.
 */
export function troubleFinder(): (surroundings: Surroundings) => Finding[] {
  let memory = new Map<string, Remembered>();
  let last: { doc: ProjectDocument; layerRevision: number } | null = null;
  return (surroundings) => {
    const { doc } = surroundings;
    if (surroundings.fonts !== NO_FONTS) measureTextWith(doc, surroundings.fonts);
    const changed = last?.doc === doc ? artworkChangedSince(doc, last.layerRevision) : null;
    last = { doc, layerRevision: doc.layerRevision };
    const files = groupBy(surroundings.plan.files, (file) => file.pieceId);
    const common = commonOf(surroundings);
    const next = new Map<string, Remembered>();
    const all: Looked[] = [];
    for (const piece of surroundings.plan.pieces) {
      if (!piece.on) continue;
      const before = memory.get(piece.id);
      const around = lookAround(surroundings, piece, before, changed);
      const { regions, near, allLeaves } = around;
      const own = files.get(piece.id) ?? [];
      const seen = own.map((file) => surroundings.seenOf?.(piece.id, file.outputId));
      const looked: Looked = { piece, allLeaves, leaves: allLeaves.filter((leaf) => leaf.visible), files: own, seen };
      const known = before && unchanged(before, looked, around, common);
      // What was looked at before is handed on, so that surveys can remember by it, too.
      all.push(known ? before.looked : looked);
      const found = known
        ? before.found
        : CHECKS.flatMap((check) =>
            (check.look?.(looked, surroundings) ?? []).map(
              (finding): Finding => ({ check: check.name, pieceId: piece.id, ...finding }),
            ),
          );
      next.set(piece.id, { looked: known ? before.looked : looked, regions, near, common, found });
    }
    memory = next;
    const found: Finding[] = [...next.values()].flatMap((each) => each.found);
    for (const check of CHECKS)
      for (const finding of check.survey?.(all, surroundings) ?? []) found.push({ check: check.name, ...finding });
    return withAcceptances(doc, found).sort(
      (a, b) => Number(!!a.accepted) - Number(!!b.accepted) || RANK[a.severity] - RANK[b.severity],
    );
  };
}

export const findTrouble = (surroundings: Surroundings): Finding[] => troubleFinder()(surroundings);

/** The change that mends findings in one step, each on top of the one before; null when nothing is left to mend. */
export function mendFindings(findings: readonly Finding[], { doc, ...rest }: Surroundings): Change | null {
  const scratch = new ProjectDocument(doc.all());
  const touched = new Set<string>();
  let label = '';
  let count = 0;
  for (const finding of findings) {
    const change = CHECKS.find((check) => check.name === finding.check)?.mend?.(finding, { doc: scratch, ...rest });
    if (!change) continue;
    scratch.apply(change);
    for (const record of change.puts) touched.add(record.id);
    for (const id of change.removes) touched.add(id);
    label = change.label;
    count++;
  }
  if (count === 0) return null;
  const puts = [...touched].flatMap((id) => scratch.get(id) ?? []);
  return {
    label: count === 1 ? label : `mend ${count} findings`,
    puts,
    removes: [...touched].filter((id) => !scratch.get(id)),
  };
}

export type { Check, Finding, Severity, Surroundings } from './check';
export { acceptanceOf };
