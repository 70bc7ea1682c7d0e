import { readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  few,
  looksLikeProjectFile,
  type NamedArtwork,
  nameFromFile,
  type Plan,
  type PlannedFile,
  type Problem,
  ProjectDocument,
  pickPieces,
  placeFiles,
  planFiles,
  type ReadArtwork,
  Refusal,
  readArtwork,
  readProjectFile,
  readSpecFile,
  recordsOfLibrarySpec,
  recordsOfSpecFile,
  refuse,
  SPEC_LIBRARY,
  type SpecFile,
  type StoredBlob,
  type Told,
  toldInWords,
} from '@tolvik/core';
import { takeFiles } from '@tolvik/intake';
import { readPlain } from './read-file';

export type Selection = {
  source: string;
  spec?: string;
  pieces?: string;
  /** Whether plain SVG files need a spec, as they do where files are to come out; yes unless it is said. */
  needsSpec?: boolean;
};

export type Opened = {
  name: string;
  /** Where it was read from. */
  source: string;
  /** The id in a project file; null where there is none. */
  projectId: string | null;
  /** Whether the source is a project file, and not SVG files alone. */
  isProject: boolean;
  doc: ProjectDocument;
  pictures: Map<string, StoredBlob>;
  plan: Plan;
  /** The files that were asked for. */
  files: PlannedFile[];
  /** Source files that could not be read; the others go on. */
  refused: Problem[];
  /** What was left out of files or is drawn otherwise, in words. */
  told: string[];
};

const MAX_FILES = 20_000;

type Taken = Awaited<ReturnType<typeof takeFiles<{ artwork: ReadArtwork; layers: number; dropped: Told[] }>>>;
/** What was read of files before, by their paths, and by what they are known to be unchanged. */
export type ReadBefore = Map<string, { stamp: string; taken: Taken }>;

/**
 * Reads a source and plans the files that were asked for. Files that are in `before` and did not change since are not
 * read again. Throws a `Refusal` when there is nothing to work on.
 */
export async function open(
  { source, spec, pieces, needsSpec = true }: Selection,
  before: ReadBefore = new Map(),
): Promise<Opened> {
  const doc = new ProjectDocument();
  const pictures = new Map<string, StoredBlob>();
  const refused: Problem[] = [];
  const told: string[] = [];
  let stat: ReturnType<typeof statSync>;
  try {
    stat = statSync(source);
  } catch {
    return refuse('source.missing', `there is no file or folder ${source}`, { where: source });
  }
  if (!stat.isFile() && !stat.isDirectory())
    refuse('source.kind', `${source} is neither a file nor a folder`, { where: source });
  let name = nameFromFile(basename(source));
  let isProject = false;
  let projectId: string | null = null;
  if (stat.isFile()) {
    const bytes = readPlain(source);
    if (looksLikeProjectFile(bytes.subarray(0, 4096).toString('utf8'))) {
      const project = readProjectFile(bytes, source);
      doc.apply({ puts: project.records, removes: [] });
      for (const blob of project.blobs) pictures.set(blob.hash, blob);
      name = project.name || name;
      projectId = project.id;
      isProject = true;
    }
  }
  if (!isProject) {
    const inFolder = stat.isDirectory() ? artworkFilesIn(source) : null;
    const paths = inFolder?.paths ?? [source];
    if (inFolder) told.push(...inFolder.told);
    if (paths.length === 0) refuse('source.empty', `${source} holds no SVG files, pictures or zips`, { where: source });
    const artwork: NamedArtwork[] = [];
    for (const path of paths) {
      const { taken, report } = await takenFrom(path, stat.isDirectory() ? source : '', before).catch(
        (error: unknown) => {
          // One file that cannot be read is its own trouble.
          if (!(error instanceof Refusal)) throw error;
          refused.push(error.problem);
          return { taken: [], report: [] };
        },
      );
      for (const { name: own, read } of taken) {
        artwork.push({ name: own, artwork: read.artwork });
        for (const blob of read.artwork.blobs) pictures.set(blob.hash, blob);
      }
      for (const { file, dropped, problem } of report) {
        if (problem) refused.push(problem);
        for (const line of dropped) told.push(`${file}: ${toldInWords(line)}`);
      }
    }
    if (!spec && needsSpec)
      refuse('spec.missing', 'plain SVG files need --spec', {
        accepted: SPEC_LIBRARY.map((entry) => entry.key).join(', '),
      });
    doc.apply({ puts: placeFiles(doc, artwork, [], (_, problem) => refused.push(problem)), removes: [] });
  }
  if (spec) followOnly(doc, spec);
  const plan = planFiles(doc, name);
  const picked = pieces ? pickPieces(plan.pieces, pieces) : plan.pieces;
  if (pieces && picked.length === 0)
    refuse('pieces.none', `no piece fits "${pieces}"`, {
      accepted: plan.pieces.length > 0 ? `numbers up to ${plan.pieces.length}, or a part of a name` : undefined,
    });
  const wanted = new Set(picked.map((piece) => piece.id));
  return {
    name,
    source,
    projectId,
    isProject,
    doc,
    pictures,
    plan,
    files: plan.files.filter((file) => wanted.has(file.pieceId)),
    refused,
    told,
  };
}

/** A file with all that is in it, as artwork. */
async function takenFrom(path: string, folder: string, before: ReadBefore): Promise<Taken> {
  const { mtimeMs, ctimeMs, size, ino } = statSync(path);
  const stamp = `${mtimeMs} ${ctimeMs} ${size} ${ino}`;
  const known = before.get(path);
  if (known?.stamp === stamp) return known.taken;
  const taken = await takeFiles([{ name: path, bytes: readPlain(path) }], {
    read: (file) => {
      const read = readArtwork(file.bytes, folder ? join(folder, file.name) : file.name);
      return { artwork: read, layers: read.layers.length, dropped: read.dropped };
    },
  });
  before.set(path, { stamp, taken });
  return taken;
}

const ARTWORK = /\.(svg|png|jpe?g|webp|gif|zip)$/i;

/** The files of artwork in a folder by name, and what in it is not read, in words. */
function artworkFilesIn(folder: string): { paths: string[]; told: string[] } {
  const entries = readdirSync(folder, { withFileTypes: true }).filter(({ name }) => !name.startsWith('.'));
  const names = entries.filter((entry) => entry.isFile() && ARTWORK.test(entry.name));
  if (names.length > MAX_FILES)
    refuse('source.many', `${folder} holds ${names.length} files of artwork`, {
      where: folder,
      accepted: `up to ${MAX_FILES}`,
    });
  const folders = entries.filter((entry) => entry.isDirectory()).map(({ name }) => name);
  const links = entries.filter((entry) => entry.isSymbolicLink() && ARTWORK.test(entry.name)).map(({ name }) => name);
  return {
    paths: names.map((entry) => join(folder, entry.name)).sort(),
    told: [
      ...(folders.length > 0 ? [`${folder}: folders in it are not read: ${few(folders)}`] : []),
      ...(links.length > 0 ? [`${folder}: links in it are not read: ${few(links)}`] : []),
    ],
  };
}

/** Every piece follows this spec and no other: one of the project's, by name, or a ready-made one. */
function followOnly(doc: ProjectDocument, name: string): void {
  const own = doc.list('spec').find((spec) => spec.name.toLowerCase() === name.toLowerCase());
  let specId = own?.id;
  if (!specId) {
    const file = /\.json$/i.test(name) ? savedSpec(name) : null;
    const known = SPEC_LIBRARY.some(
      (entry) => entry.key === name.toLowerCase() || entry.name.toLowerCase() === name.toLowerCase(),
    );
    if (!known && !file)
      refuse('spec.unknown', `there is no spec "${name}"`, {
        accepted: [...doc.list('spec').map((spec) => spec.name), ...SPEC_LIBRARY.map((entry) => entry.key)].join(', '),
      });
    const { spec, outputs } = file ? recordsOfSpecFile(file, doc) : recordsOfLibrarySpec(name.toLowerCase(), doc);
    doc.apply({ puts: [spec, ...outputs], removes: [] });
    specId = spec.id;
  }
  const only = [specId];
  for (const kind of ['artboard', 'slice', 'edition'] as const) {
    // A spec of the project is followed by those who follow it; a ready-made one by all.
    const puts = doc
      .list(kind)
      .map((record) => ({ ...record, specIds: own ? record.specIds.filter((id) => id === specId) : only }));
    doc.apply({ puts, removes: [] });
  }
}

/** A spec that was saved as a file. */
const savedSpec = (path: string): SpecFile => readSpecFile(readPlain(path).toString('utf8'), path);
