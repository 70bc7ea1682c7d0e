import {
  type Artboard,
  type Bounds,
  type Layer,
  type NamedArtwork,
  type Output,
  type Problem,
  ProjectDocument,
  type ProjectRecord,
  placeFiles,
  type ReadArtwork,
  Refusal,
  readSvg,
  recordsOfLibrarySpec,
} from '../src';

export const svg = (inner: string, attrs = 'width="24" height="24" viewBox="0 0 24 24"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attrs}>${inner}</svg>`;

/** A project with one artboard a file, following a ready-made spec. */
export function project(
  files: Record<string, string>,
  spec = 'web',
): { doc: ProjectDocument; artboard(name: string): Artboard; outputs: Output[] } {
  const doc = new ProjectDocument();
  const { spec: record, outputs } = recordsOfLibrarySpec(spec, doc);
  doc.apply({ puts: [record, ...outputs], removes: [] });
  const artwork: NamedArtwork[] = Object.entries(files).map(([name, text]) => ({
    name,
    artwork: readSvg(text, `${name}.svg`),
  }));
  doc.apply({ puts: placeFiles(doc, artwork, [record.id]), removes: [] });
  const artboard = (name: string) => {
    const found = doc.list('artboard').find((each) => each.name === name);
    if (!found) throw new Error(`no artboard ${name}`);
    return found;
  };
  return { doc, artboard, outputs };
}

export function refusalOf(work: () => unknown): Problem {
  try {
    work();
  } catch (error) {
    if (error instanceof Refusal) return error.problem;
    throw error;
  }
  throw new Error('it was not refused');
}

export const told = (artwork: ReadArtwork) => artwork.dropped.map((each) => each.what);
export const tagsOf = (artwork: ReadArtwork) => artwork.layers.map((layer) => layer.tag);
export const named = (artwork: ReadArtwork, name: string) => artwork.layers.find((layer) => layer.name === name);

export const snapshot = (doc: ProjectDocument): Record<string, ProjectRecord> =>
  Object.fromEntries([...doc.all()].map((record) => [record.id, record]));

/** The smallest PNG there is, 1 × 1 px. */
export const TINY_PNG =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

export function layerNamed(doc: ProjectDocument, name: string): Layer {
  const found = doc.list('layer').find((each) => each.name === name);
  if (!found) throw new Error(`no layer ${name}`);
  return found;
}

/** Both boxes, side for side, to so many digits behind the point. */
export function nearlyEqual(box: Bounds | null, wanted: Bounds | null, digits = 4): void {
  for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const)
    expect(box?.[side]).toBeCloseTo(wanted?.[side] ?? Number.NaN, digits);
}
