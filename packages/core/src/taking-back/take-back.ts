import { same } from '../basics/same';
import { count } from '../basics/words';
import { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Edition, FontRecord, ProjectRecord } from '../document/records';
import { layerTitle } from '../document/titles';
import { type PieceRecord, pieceRecord } from '../pieces/pieces';
import { isFollowing } from '../pieces/placements';
import { artworkBack } from './artwork-back';

/**
 * Pieces of a project as they were in an earlier version of it (`then`), as a change. What comes back is what they show:
 * artwork with all that it uses, size, ground, colours, an edition's differences, what a slice is cut from. Where a piece
 * is still there its name, its place and which files it makes stay as they are now; one that is gone comes back whole,
 * with its editions, with what it follows, and with the specs that it had and that are gone by now.
 */
export function takeBackPieces(doc: ProjectDocument, then: ProjectDocument, pieceIds: readonly string[]): Change {
  const wanted = withNeeded(doc, then, pieceIds).flatMap((id) => pieceRecord(then, id) ?? []);
  // One after the other, since artwork may have gone from one artboard to another.
  const scratch = new ProjectDocument(doc.all());
  const touched = new Set<string>();
  const together = new Set(wanted.map(({ id }) => id));
  const carryOut = (puts: readonly ProjectRecord[], removes: readonly string[] = []) => {
    for (const id of [...puts.map((record) => record.id), ...removes]) touched.add(id);
    scratch.apply({ puts: [...puts], removes: [...removes] });
  };
  carryOut(specsFor(doc, then, wanted));
  for (const piece of wanted) {
    if (piece.kind === 'artboard' && !piece.follows) {
      const { puts, removes } = artworkBack(scratch, then, piece, together);
      carryOut(puts, removes);
    }
    carryOut([recordBack(scratch, then, piece)]);
  }
  const changed = [...touched]
    .flatMap((id) => scratch.get(id) ?? [])
    .filter((record) => !same(doc.get(record.id), record));
  const of = wanted.length === 1 ? wanted[0].name : count(wanted.length, 'piece');
  return {
    label: `take back ${of}`,
    puts: [...changed, ...fontsFor(doc, then, changed)],
    removes: [...touched].filter((id) => doc.get(id) && !scratch.get(id)),
  };
}

/** The pieces asked for, with what has to be there for them: the artboard of an edition, sources, the editions of what is gone. */
function withNeeded(doc: ProjectDocument, then: ProjectDocument, pieceIds: readonly string[]): string[] {
  const ids = new Set<string>();
  const isGone = (id: string) => !doc.get(id);
  const add = (id: string): void => {
    if (ids.has(id)) return;
    ids.add(id);
    const edition = then.find('edition', id);
    if (edition && isGone(edition.artboardId)) add(edition.artboardId);
    const artboard = then.find('artboard', id);
    if (!artboard) return;
    for (const source of then.list('artboard'))
      if (isFollowing(artboard, source.id) && isGone(source.id)) add(source.id);
    if (isGone(id))
      for (const each of then.list('edition')) if (each.artboardId === id && isGone(each.id)) ids.add(each.id);
  };
  for (const id of pieceIds) add(id);
  return [...ids];
}

/** A piece's own record as it was; what says where it is, what it is called and which files it makes is as it is now. */
function recordBack(doc: ProjectDocument, then: ProjectDocument, piece: PieceRecord): PieceRecord {
  const now = doc.get(piece.id);
  if (piece.kind === 'artboard' && now?.kind === 'artboard') {
    const { follows: _, ...rest } = now;
    const { width, height, background, follows } = piece;
    return { ...rest, width, height, background, ...(follows && { follows }) };
  }
  if (piece.kind === 'slice' && now?.kind === 'slice') {
    const { name, order, on, specIds, offOutputIds } = now;
    return { ...piece, name, order, on, specIds, offOutputIds };
  }
  if (piece.kind === 'edition' && now?.kind === 'edition')
    return { ...now, overrides: overridesBack(doc, then, piece) };
  const known = {
    specIds: piece.specIds.filter((id) => doc.find('spec', id)),
    offOutputIds: piece.offOutputIds.filter((id) => doc.find('output', id)),
  };
  return { ...piece, ...known };
}

/** The specs that pieces had which are gone by now, with their outputs, where those are gone, too. */
function specsFor(doc: ProjectDocument, then: ProjectDocument, wanted: readonly PieceRecord[]): ProjectRecord[] {
  const ids = new Set(wanted.flatMap((piece) => (doc.get(piece.id) ? [] : piece.specIds)));
  const gone = then.list('spec').filter(({ id }) => ids.has(id) && !doc.get(id));
  const goneIds = new Set(gone.map(({ id }) => id));
  return [...gone, ...then.list('output').filter(({ id, specId }) => goneIds.has(specId) && !doc.get(id))];
}

/** An edition's differences; one whose layer is gone by now says what that was called, so that it is held and told. */
function overridesBack(doc: ProjectDocument, then: ProjectDocument, { overrides }: Edition): Edition['overrides'] {
  return Object.fromEntries(
    Object.entries(overrides).map(([id, override]) => {
      const layer = doc.find('layer', id) ? undefined : then.find('layer', id);
      return [id, layer ? { ...override, was: layerTitle(layer) } : override];
    }),
  );
}

/** Fonts added to the project then, which layers that come back are set in and which are gone by now. */
function fontsFor(doc: ProjectDocument, then: ProjectDocument, records: readonly ProjectRecord[]): FontRecord[] {
  const gone = then.list('font').filter(({ hash }) => !doc.list('font').some((font) => font.hash === hash));
  if (gone.length === 0) return [];
  const families = records.flatMap((record) =>
    record.kind === 'layer'
      ? [record.attrs, ...(record.text ?? []).map(({ attrs }) => attrs)].flatMap((attrs) => attrs['font-family'] ?? [])
      : [],
  );
  return gone.filter(({ family }) => families.some((list) => list.toLowerCase().includes(family.toLowerCase())));
}
