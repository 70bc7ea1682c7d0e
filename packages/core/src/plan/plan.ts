import { groupBy } from '../basics/group-by';
import type { ProjectDocument } from '../document/document';
import type { Output, Settings, Spec } from '../document/records';
import { contactSheetOf, FORMATS, type Format, inOneFile } from '../formats';
import { MAX_PDF_PAGES } from '../formats/pdf';
import type { Region } from '../geometry/region';
import { type PlannedSize, PT_PER_PX, PX_PER_INCH, sizeOf } from '../geometry/sizes';
import { lostInWords } from '../pieces/lost';
import { type Piece, pieces } from '../pieces/pieces';
import { followedLayout } from '../pieces/placements';
import { isMeasured } from '../pieces/smallest';
import { contactSheetGrid, lockupGrid, onPages, partsAfter, type SheetPart } from './contact-sheet';
import { fillTemplate, foldPath, inCase, safeFileName, safeFolders, type TemplateWord, withoutSlashes } from './names';

/** One piece through one output: a file before it exists. */
export type PlannedFile = PlannedSize & {
  pieceId: string;
  outputId: string;
  format: Format;
  /** Folders and name, `/` between them: what is on screen, in the archive and on disk. */
  path: string;
  widthPt: number;
  heightPt: number;
  /** Other files that would take the same path, the first `MAX_CLASHES_LISTED` of them; empty when none would. */
  clashes: readonly { pieceId: string; outputId: string }[];
  /** How many others there are in all. */
  clashCount: number;
  /** Set when one file holds a page for each of several pieces; `pieceId` is then the first of them. */
  pages?: readonly PlannedPage[];
};

/** A planned file without what it shares its path with, which nothing it is made of depends on. */
export type FileToMake = Omit<PlannedFile, 'clashes' | 'clashCount'>;

/** One piece as a page of a file that holds several; `path` is that file's. */
export type PlannedPage = Omit<PlannedFile, 'clashes' | 'clashCount' | 'pages'> & {
  /** From 1. */ page: number;
  title: string;
  /** Of a contact sheet: what stands above, how many pages there are, and the pieces on this one. */
  sheet?: { heading: string; of: number; part: SheetPart; pieceIds: readonly string[] };
};

/** Pages by the pieces that are on them: a page of a contact sheet once for each. */
export const pagesByPiece = ({ pages = [] }: Pick<PlannedFile, 'pages'>): readonly PlannedPage[] =>
  pages.flatMap((page) => {
    if (!page.sheet) return [page];
    return page.sheet.part === 'pieces' ? page.sheet.pieceIds.map((pieceId) => ({ ...page, pieceId })) : [];
  });

export type Plan = {
  pieces: readonly Piece[];
  specs: readonly Spec[];
  /** In the order of specs and then of outputs. */
  outputs: readonly Output[];
  /** What will be made, piece by piece. */
  files: readonly PlannedFile[];
  /** Pages of files that hold several, piece by piece. */
  pages: readonly PlannedPage[];
  /** Files that hold the export up: two for one path, or one that cannot be made. */
  troubled: readonly PlannedFile[];
  /** Files that are more than a project may make; they are not listed and not made. */
  beyond: number;
  /** Cells of the matrix that are off: pieces follow the output's spec but do not make it. */
  offCount: number;
};

/** The place of a file in the matrix: one key for a piece and an output. */
export const cellKey = (pieceId: string, outputId: string): string => `${pieceId} ${outputId}`;

/** Outputs that a piece follows, on or off, in order. */
export function outputsOf(doc: ProjectDocument, piece: Pick<Piece, 'specIds'>): Output[] {
  const followed = new Set(piece.specIds);
  return allOutputs(doc).filter((output) => followed.has(output.specId));
}

/** Every output, spec by spec. */
export function allOutputs(doc: ProjectDocument): Output[] {
  const bySpec = groupBy(doc.list('output'), (output) => output.specId);
  return doc.list('spec').flatMap((spec) => bySpec.get(spec.id) ?? []);
}

/** What of the plane fills the files of a piece: its region, without clear space or as a square where an output says so. */
function frameOf(doc: ProjectDocument, { record, region }: Piece, { room, square }: Output): Region {
  const layout = room === 'none' && record.kind === 'artboard' ? followedLayout(doc, record) : null;
  const clear = layout && typeof layout !== 'string' ? layout.clearSpacePx : 0;
  const { x, y, width, height }: Region =
    layout && typeof layout !== 'string' && clear > 0
      ? { x: region.x + clear, y: region.y + clear, width: layout.width - 2 * clear, height: layout.height - 2 * clear }
      : region;
  const side = Math.max(width, height);
  return square
    ? { x: x - (side - width) / 2, y: y - (side - height) / 2, width: side, height: side }
    : { x, y, width, height };
}

/** Where and how large one piece through one output becomes. */
export function planFile(doc: ProjectDocument, projectName: string, piece: Piece, output: Output): FileToMake {
  const { settings } = doc;
  const spec = doc.find('spec', output.specId);
  const { format } = output.settings;
  const { extension, raster } = FORMATS[format];
  const size = sizeOf(frameOf(doc, piece, output), output.size, spec?.drawnAtScale, raster ? 'pixels' : 'vectors');
  const values = (word: TemplateWord): string => {
    switch (word) {
      case 'piece':
        return piece.name;
      case 'suffix':
        return fillTemplate(output.suffix, (inner) => (inner === 'suffix' ? '' : values(inner)));
      case 'width':
        return String(size.widthPx);
      case 'height':
        return String(size.heightPx);
      case 'scale':
        return String(+size.scale.toFixed(3));
      case 'format':
        return extension;
      case 'spec':
        return spec?.name ?? '';
      case 'project':
        return projectName;
      case 'number':
        return String(piece.number).padStart(settings.numberDigits, '0');
    }
  };
  // Snapshots from before specs could say so have none.
  const own = spec?.letterCase;
  const letterCase = own && own !== 'project' ? own : settings.letterCase;
  const named = (inner: typeof values) => inCase(withoutSlashes(fillTemplate(settings.naming, inner)), letterCase);
  const name = safeFileName(named(values), () => named((word) => (word === 'suffix' ? '' : values(word))));
  const folder = [settings.folders, output.folder]
    .map((part) => part && safeFolders(fillTemplate(part, values)))
    .filter(Boolean)
    .join('/');
  const vector = !FORMATS[format].raster;
  return {
    ...size,
    problem: piece.problem ?? lostInWords(piece.record) ?? (vector ? undefined : size.problem),
    pieceId: piece.id,
    outputId: output.id,
    format,
    path: `${folder ? `${folder}/` : ''}${name}.${extension}`,
    widthPt: size.widthPx * PT_PER_PX,
    heightPt: size.heightPx * PT_PER_PX,
  };
}

/** Files of one project; what would be more is counted. */
export const MAX_PLANNED_FILES = 100_000;
/** Files of the same path that each of them names. */
export const MAX_CLASHES_LISTED = 20;

const NO_CLASHES: PlannedFile['clashes'] = [];

type Remembered = {
  spec: Spec | undefined;
  settings: Settings;
  projectName: string;
  number: number;
  region: Region;
  problem?: string;
  file: PlannedFile;
};
const remembered = new WeakMap<Piece['record'], Map<Output, Remembered>>();

/** `planFile`, answered from before when nothing it depends on has changed: after one edit a plan costs little more than the edit. */
function planFileAgain(
  doc: ProjectDocument,
  projectName: string,
  piece: Piece,
  output: Output,
  spec: Spec,
): PlannedFile {
  const { settings } = doc;
  let byOutput = remembered.get(piece.record);
  if (!byOutput) remembered.set(piece.record, (byOutput = new Map()));
  const known = byOutput.get(output);
  const { region, number, problem } = piece;
  if (
    known &&
    known.spec === spec &&
    known.settings === settings &&
    known.projectName === projectName &&
    known.number === number &&
    known.problem === problem &&
    sameRegion(known.region, region)
  )
    return known.file;
  const file = { ...planFile(doc, projectName, piece, output), clashes: NO_CLASHES, clashCount: 0 };
  if (byOutput.size > MAX_REMEMBERED) byOutput.clear();
  byOutput.set(output, { spec, settings, projectName, number, region, problem, file });
  return file;
}

const MAX_REMEMBERED = 64;
const sameRegion = (a: Region, b: Region) => a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

/** Every file of a project: the one list that the Proof shows and the export writes. */
export function planFiles(doc: ProjectDocument, projectName: string): Plan {
  const specs = doc.list('spec');
  const outputs = allOutputs(doc);
  const bySpec = groupBy(outputs, (output) => output.specId);
  const list = pieces(doc);
  const pieceOf = new Map(list.map((piece) => [piece.id, piece]));
  const taken: PlannedFile[] = [];
  const byPath = new Map<string, PlannedFile[]>();
  const together = new Map<string, PlannedPage[]>();
  let offCount = 0;
  let beyond = 0;
  let planned = 0;
  const take = (file: PlannedFile) => {
    taken.push(file);
    const key = foldPath(file.path);
    const same = byPath.get(key);
    if (same) same.push(file);
    else byPath.set(key, [file]);
  };
  for (const piece of list) {
    for (const spec of specs) {
      if (!piece.specIds.includes(spec.id)) continue;
      for (const output of bySpec.get(spec.id) ?? []) {
        if (!piece.on || !output.on || piece.offOutputIds.includes(output.id)) {
          offCount++;
          continue;
        }
        if (planned === MAX_PLANNED_FILES) {
          beyond++;
          continue;
        }
        planned++;
        const file = planFileAgain(doc, projectName, piece, output, spec);
        if (inOneFile(output.settings)) {
          const pages = together.get(output.id) ?? [];
          pages.push({ ...file, page: pages.length + 1, title: piece.name });
          together.set(output.id, pages);
        } else take(file);
      }
    }
  }
  for (const [outputId, list] of together) {
    // The file is of the project, so it has the project's name where others have their piece's.
    const { path } = planFile(
      doc,
      projectName,
      { ...(pieceOf.get(list[0].pieceId) as Piece), name: projectName },
      doc.find('output', outputId) as Output,
    );
    const pages = asSheet(doc, list, doc.find('output', outputId) as Output, projectName, path);
    const problem =
      pages.find((page) => page.problem)?.problem ??
      (pages.length > MAX_PDF_PAGES
        ? `a PDF of ${pages.length} pages is more than one file may have (${MAX_PDF_PAGES})`
        : undefined);
    take({ ...pages[0], problem, pages, clashes: NO_CLASHES, clashCount: 0 });
  }
  // A file is the same object in every plan until something about it changes, so those that clash are told apart by copies.
  const clashing = new Map<PlannedFile, PlannedFile>();
  for (const same of byPath.values()) {
    if (same.length < 2) continue;
    // A hundred pieces of one name are told by their number; the list of each would be as long as the project.
    const listed = same.slice(0, MAX_CLASHES_LISTED + 1).map(({ pieceId, outputId }) => ({ pieceId, outputId }));
    const others = listed.slice(1);
    same.forEach((file, i) =>
      clashing.set(file, {
        ...file,
        clashes:
          i === 0
            ? others
            : i <= MAX_CLASHES_LISTED
              ? listed.filter((_, at) => at !== i)
              : listed.slice(0, MAX_CLASHES_LISTED),
        clashCount: same.length - 1,
      }),
    );
  }
  const files = clashing.size > 0 ? taken.map((file) => clashing.get(file) ?? file) : taken;
  return {
    pieces: list,
    specs,
    outputs,
    files,
    pages: files.flatMap(pagesByPiece),
    troubled: files.filter((file) => file.problem || file.clashCount > 0),
    beyond,
    offCount,
  };
}

const PART_TITLES: Record<SheetPart, string> = { pieces: '', lockups: 'Lockups', colours: 'Colours', files: 'Files' };

/** Pages of pieces as they are, or as the pages of paper on which they stand together. */
function asSheet(
  doc: ProjectDocument,
  list: readonly PlannedPage[],
  output: Output,
  projectName: string,
  path: string,
): PlannedPage[] {
  const settings = contactSheetOf(output.settings);
  if (!settings) return list.map((page) => ({ ...page, path }));
  const grid = contactSheetGrid(settings);
  const { widthPx, heightPx } = grid;
  const sheets: { part: SheetPart; some: readonly PlannedPage[] }[] = [
    ...onPages(list, grid).map((some) => ({ part: 'pieces' as const, some })),
    ...(settings.lockups
      ? onPages(
          list.filter(({ pieceId }) => isMeasured(doc.find('artboard', pieceId))),
          lockupGrid(settings),
        ).map((some) => ({ part: 'lockups' as const, some }))
      : []),
    ...partsAfter(settings).map((part) => ({ part, some: [] })),
  ];
  return sheets.map(({ part, some }, i): PlannedPage => {
    const [first, last] = [some[0], some.at(-1)];
    return {
      ...list[0],
      path,
      page: i + 1,
      title: PART_TITLES[part] || (first === last ? first.title : `${first.title} – ${last?.title}`),
      problem: some.find((page) => page.problem)?.problem,
      widthPx,
      heightPx,
      widthPt: widthPx * PT_PER_PX,
      heightPt: heightPx * PT_PER_PX,
      scale: 1,
      dpi: PX_PER_INCH,
      view: { x: 0, y: 0, width: widthPx, height: heightPx },
      sheet: {
        heading: settings.heading || projectName,
        of: sheets.length,
        part,
        pieceIds: some.map(({ pieceId }) => pieceId),
      },
    };
  });
}
