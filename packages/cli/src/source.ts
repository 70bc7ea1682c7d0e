import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
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
  let name = nameFromFile(basename(source));
  let isProject = false;
  let projectId: string | null = null;
  if (stat.isFile()) {
    const bytes = readFileSync(source);
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
    const paths = stat.isDirectory() ? artworkFilesIn(source) : [source];
    if (paths.length === 0) refuse('source.empty', `${source} holds no SVG files, pictures or zips`, { where: source });
    const artwork: NamedArtwork[] = [];
    for (const path of paths) {
      const { taken, report } = await takenFrom(path, stat.isDirectory() ? source : '', before);
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
  const wanted = new Set((pieces ? pickPieces(plan.pieces, pieces) : plan.pieces).map((piece) => piece.id));
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
  const { mtimeMs, size, ino } = statSync(path);
  const stamp = `${mtimeMs} ${size} ${ino}`;
  const known = before.get(path);
  if (known?.stamp === stamp) return known.taken;
  const taken = await takeFiles([{ name: path, bytes: readFileSync(path) }], {
    read: (file) => {
      const read = readArtwork(file.bytes, folder ? join(folder, file.name) : file.name);
      return { artwork: read, layers: read.layers.length, dropped: read.dropped };
    },
  });
  before.set(path, { stamp, taken });
  return taken;
}

const ARTWORK = /\.(svg|png|jpe?g|webp|gif|zip)$/i;

function artworkFilesIn(folder: string): string[] {
  const names = readdirSync(folder, { withFileTypes: true }).filter(
    (entry) => entry.isFile() && ARTWORK.test(entry.name),
  );
  if (names.length > MAX_FILES)
    refuse('source.many', `${folder} holds ${names.length} files of artwork`, {
      where: folder,
      accepted: `up to ${MAX_FILES}`,
    });
  return names.map((entry) => join(folder, entry.name)).sort();
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
function savedSpec(path: string): SpecFile {
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    return refuse('spec.missing', `there is no file ${path}`, { where: path });
  }
  return readSpecFile(text, path);
}
