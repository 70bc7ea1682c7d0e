import {
  type Artboard,
  artboardsNamed,
  byPieceRules,
  type Change,
  type NamedArtwork,
  type Problem,
  ProjectDocument,
  placeArtwork,
  placeFiles,
  type ReplaceReport,
  recordsOfLibrarySpec,
  recordsOfSpecFile,
  replaceArtwork,
  replaceReport,
  SETTINGS_ID,
  type SpecFile,
  STARTING_SPEC,
  withFollowerSizes,
} from '@tolvik/core';

export type PlaceOptions = {
  /** An artboard for each file; the artwork alone around a point; or in place of the artwork of artboards of the same name, the rest an artboard each. */
  as: 'artboards' | 'artwork' | 'replace';
  /** In px of the plane, for artwork alone. */
  at: { x: number; y: number };
  /** Whether something that would come loose is asked of first. */
  ask?: boolean;
  /** Layers that would be gone, with the place of the new one that takes over. */
  attach?: Readonly<Record<string, number>>;
  /** Whether a replaced artboard takes the size of its file or keeps its own. */
  size?: 'new' | 'kept';
  /** What a project without specs begins with; the ready-made spec for the web when none is said. */
  firstSpec?: SpecFile | null;
};

export type Placed = {
  change: Pick<Change, 'puts' | 'removes'> /** Files that found no room on the plane. */;
  refused: { index: number; problem: Problem }[];
  /** What waits for a word before anything is changed. */
  asks?: ReplaceReport[];
};

/** What was read as records: where it goes, and what goes for it. */
export function placed(
  read: readonly NamedArtwork[],
  doc: ProjectDocument,
  { as, at, ask, attach, size, firstSpec }: PlaceOptions,
): Placed {
  if (as === 'artwork') return { change: { puts: placeArtwork(doc, read, at).records, removes: [] }, refused: [] };
  const replaced = new Map<string, { artboard: Artboard; file: NamedArtwork }>();
  if (as === 'replace')
    for (const file of read)
      for (const artboard of artboardsNamed(doc, [file.name])) replaced.set(artboard.id, { artboard, file });
  const taken = new Set([...replaced.values()].map(({ file }) => file));
  const changes = [...replaced.values()].map(({ artboard, file }) =>
    replaceArtwork(doc, artboard, file.artwork, { attach, size }),
  );
  if (ask) {
    const asks = [...replaced.values()]
      .map(({ artboard, file }, i) => replaceReport(doc, artboard, file.artwork, changes[i]))
      .filter(({ loose }) => loose.length > 0);
    if (asks.length > 0) return { change: { puts: [], removes: [] }, refused: [], asks };
  }
  const rest = read.filter((file) => !taken.has(file));
  let puts = changes.flatMap((change) => change.puts);
  const refused: Placed['refused'] = [];
  if (rest.length > 0) {
    const starting = defaultSpec(doc, firstSpec);
    const records = placeFiles(doc, rest, [starting.specId], (file, problem) =>
      refused.push({ index: read.indexOf(file), problem }),
    );
    if (records.length > 0) puts = puts.concat(starting.puts, records);
  }
  const removes = changes.flatMap((change) => change.removes);
  // What follows a replaced artboard has its size again.
  const sized = withFollowerSizes(doc, { label: '', puts, removes });
  return { change: withRuledPieces(doc, sized), refused };
}

/** A change with the pieces that the project's rules make of what comes of it. */
function withRuledPieces(doc: ProjectDocument, { puts, removes }: Change): Placed['change'] {
  if ((doc.settings.pieceRules ?? []).length === 0) return { puts, removes };
  const after = new ProjectDocument(doc.all());
  after.apply({ puts, removes });
  const ruled = byPieceRules(after);
  // A slice that is put already is put as its rule has it.
  const own = new Set([...ruled.puts.map(({ id }) => id), ...ruled.removes]);
  return {
    puts: [...puts.filter(({ id }) => !own.has(id)), ...ruled.puts],
    removes: [...removes, ...ruled.removes.filter((id) => doc.get(id))],
  };
}

/** The spec new pieces follow; a project without one gets its first. */
function defaultSpec(
  doc: ProjectDocument,
  first: SpecFile | null | undefined,
): { specId: string; puts: Change['puts'] } {
  const { settings } = doc;
  const known =
    settings.defaultSpecId && doc.find('spec', settings.defaultSpecId)
      ? settings.defaultSpecId
      : doc.list('spec')[0]?.id;
  if (known) return { specId: known, puts: [] };
  const { spec, outputs } = first ? recordsOfSpecFile(first, doc) : recordsOfLibrarySpec(STARTING_SPEC, doc);
  return {
    specId: spec.id,
    puts: [spec, ...outputs, { ...settings, id: SETTINGS_ID, kind: 'settings', defaultSpecId: spec.id }],
  };
}
