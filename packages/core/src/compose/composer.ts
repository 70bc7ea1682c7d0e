import { artworkChangedSince, layerBoxes } from '../artwork/bounds/artwork-index';
import { measureTextWith } from '../artwork/bounds/bounds';
import { sha256Hex } from '../artwork/pictures/pictures';
import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import type { Output, ProjectRecord } from '../document/records';
import { type Bounds, boundsOf, overlaps, touches } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import { artboardOf, type Piece, pieces } from '../pieces/pieces';
import { sourcesOf } from '../pieces/placements';
import type { FileToMake } from '../plan/plan';
import {
  type ComposedFile,
  type ComposeSources,
  composeContent,
  composeFile,
  groundOf,
  lookFor,
  lookKey,
  type PieceContent,
  renderKey,
} from './compose';

/** The content of a piece with what it was composed from. */
type Kept = {
  content: PieceContent;
  records: readonly unknown[];
  region: Region;
  /** Boxes of the plane whose artwork it may show; null for any. */
  reach: readonly Bounds[] | null;
};

/**
 * Composes files of one document and keeps the content of each piece until something it shows changes,
 * so that the many files of a piece cost one composition, and an edit only what it touches.
 */
export class Composer {
  private revision = -1;
  private layerRevision = -1;
  private readonly contents = new Map<string, Map<string, Kept>>();
  private byId = new Map<string, Piece>();

  constructor(
    readonly doc: ProjectDocument,
    readonly sources: ComposeSources,
  ) {
    measureTextWith(doc, sources.fonts);
  }

  private refresh(): void {
    const { doc } = this;
    if (this.revision === doc.revision) return;
    const changed = artworkChangedSince(doc, this.layerRevision);
    this.revision = doc.revision;
    this.layerRevision = doc.layerRevision;
    this.byId = new Map(pieces(doc).map((piece) => [piece.id, piece]));
    if (!changed) return this.contents.clear();
    for (const [id, looks] of this.contents) {
      const piece = this.byId.get(id);
      const [kept] = looks.values();
      if (!piece || !kept || !isFresh(doc, piece, kept, changed)) this.contents.delete(id);
    }
  }

  piece(id: string): Piece | undefined {
    this.refresh();
    return this.byId.get(id);
  }

  content(piece: Piece, output: Output): PieceContent {
    this.refresh();
    const look = lookFor(output);
    const key = lookKey(look);
    let looks = this.contents.get(piece.id);
    if (!looks) this.contents.set(piece.id, (looks = new Map()));
    let kept = looks.get(key);
    if (!kept)
      looks.set(
        key,
        (kept = {
          content: composeContent(this.doc, piece, look, this.sources),
          records: recordsOf(this.doc, piece),
          region: piece.region,
          reach: reachOf(this.doc, piece),
        }),
      );
    return kept.content;
  }

  /** The render key of a planned file. Throws a `Refusal` when a picture it shows is not here. */
  key(file: FileToMake): string {
    if (file.pages) return pagesKey(file.pages.map((page) => [this.key(page), page.title]));
    const { piece, output } = this.parts(file);
    return renderKey(whole(this.content(piece, output)), file, output, groundOf(this.doc, piece, output), piece.region);
  }

  /** A planned file as SVG, with its key; one of several pages as the SVG of each. Throws as `key` does. */
  compose(file: FileToMake): ComposedFile {
    if (!file.pages) return this.composeAs(file);
    const composed = file.pages.map((page) => this.composeAs(page));
    const pages = file.pages.map(({ widthPx, heightPx, title }, i) => ({
      svg: composed[i].svg,
      widthPx,
      heightPx,
      title,
    }));
    const pictures = [...new Set(composed.flatMap((page) => page.pictures))];
    return {
      svg: pages[0].svg,
      key: pagesKey(file.pages.map((page, i) => [composed[i].key, page.title])),
      pages,
      pictures,
    };
  }

  /** A planned file of one page, as it would be with other settings of the same output when some are given. */
  composeAs(file: FileToMake, settings?: Output['settings']): ComposedFile {
    const parts = this.parts(file);
    const output = settings ? { ...parts.output, settings } : parts.output;
    const content = whole(this.content(parts.piece, output));
    const ground = groundOf(this.doc, parts.piece, output);
    const { region } = parts.piece;
    return {
      svg: composeFile(content, file, ground, region),
      key: renderKey(content, file, output, ground, region),
      pictures: [...content.noticed.blobHashes],
    };
  }

  /** All a renderer needs to make a planned file, but the bytes of its pictures. */
  job(file: FileToMake, settings?: Output['settings']): FileJob {
    const { piece, output } = this.parts(file);
    const { widthPx, heightPx, dpi } = file;
    return {
      ...(settings ? this.composeAs(file, settings) : this.compose(file)),
      settings: settings ?? output.settings,
      widthPx,
      heightPx,
      dpi,
      ground: groundOf(this.doc, piece, output),
    };
  }

  private parts(file: { pieceId: string; outputId: string }): { piece: Piece; output: Output } {
    const piece = this.piece(file.pieceId);
    const output = this.doc.find('output', file.outputId);
    if (!piece || !output) throw new Error(`no piece ${file.pieceId} with output ${file.outputId}`);
    return { piece, output };
  }
}

/** A planned file, composed: what goes to a renderer, with the key that the result is kept under. */
export type FileJob = ComposedFile & {
  settings: Output['settings'];
  widthPx: number;
  heightPx: number;
  dpi: number;
  ground: string | null;
};

const pagesKey = (pages: readonly (readonly [key: string, title: string])[]): string =>
  sha256Hex(JSON.stringify(['pages', ...pages]));

/** Content is never made into a file without what it shows. */
function whole(content: PieceContent): PieceContent {
  if (content.noticed.missingPictures)
    refuse('file.picture', 'a picture that it shows is not here', {
      accepted: 'artwork whose pictures were brought in with it',
    });
  return content;
}

/** The records beside artwork that decide what a piece shows; a slice may show any artboard. */
function recordsOf(doc: ProjectDocument, { record }: Piece): readonly unknown[] {
  if (record.kind === 'slice') return [record, doc.list('artboard')];
  const base = artboardOf(doc, record);
  return [record, base, ...(base ? sourcesOf(doc, base) : [])];
}

function reachOf(doc: ProjectDocument, { record, region }: Piece): readonly Bounds[] | null {
  if (record.kind === 'slice') {
    // It may be cut by an outline that lies anywhere.
    if (record.shape.kind === 'outline') return null;
    const following = doc
      .list('artboard')
      .filter((artboard) => artboard.follows && overlaps(boundsOf(artboard), boundsOf(region)));
    return [boundsOf(region), ...following.flatMap((artboard) => sourcesOf(doc, artboard).map(boundsOf))];
  }
  const base = artboardOf(doc, record);
  const reach = base?.follows ? sourcesOf(doc, base).map(boundsOf) : [boundsOf(region)];
  if (record.kind === 'edition') {
    const boxes = layerBoxes(doc);
    for (const id of Object.keys(record.overrides)) {
      const box = boxes.get(id);
      if (!box) return null;
      reach.push(box);
    }
  }
  return reach;
}

/**
 * Tells of pieces whether a change may have changed their picture. `artwork` are the boxes of the plane in which it
 * changed artwork, as `artworkChangedSince` tells them; null for anywhere.
 */
export function pictureChanges(
  doc: ProjectDocument,
  { puts, removes }: { puts: readonly ProjectRecord[]; removes: readonly string[] },
  artwork: readonly Bounds[] | null,
): (piece: Piece) => boolean {
  if (!artwork || puts.some((record) => record.kind === 'font')) return () => true;
  const ids = new Set([...puts.flatMap((record) => (record.kind === 'layer' ? [] : [record.id])), ...removes]);
  const boards = removes.length > 0 || puts.some((record) => record.kind === 'artboard');
  return (piece) => {
    const { record } = piece;
    if (piece.problem || ids.has(record.id)) return true;
    if (record.kind === 'slice') {
      // The box around everything may have changed from somewhere that is not in it now.
      if (boards || (record.source.kind === 'everything' && artwork.length > 0)) return true;
    } else {
      const base = artboardOf(doc, record);
      if (!base || ids.has(base.id) || sourcesOf(doc, base).some((source) => ids.has(source.id))) return true;
    }
    return artwork.length > 0 && showsAny(reachOf(doc, piece), artwork);
  };
}

const showsAny = (reach: readonly Bounds[] | null, boxes: readonly Bounds[]): boolean =>
  !reach || boxes.some((box) => reach.some((part) => touches(part, box)));

const sameRecords = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((record, i) => record === b[i]);

function isFresh(
  doc: ProjectDocument,
  piece: Piece,
  { records, region, reach }: Kept,
  changed: readonly Bounds[],
): boolean {
  const { x, y, width, height } = piece.region;
  return (
    x === region.x &&
    y === region.y &&
    width === region.width &&
    height === region.height &&
    sameRecords(recordsOf(doc, piece), records) &&
    (changed.length === 0 || !showsAny(reach, changed))
  );
}
