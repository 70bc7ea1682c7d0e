import { artworkChangedSince } from '../artwork/bounds/artwork-index';
import { measureTextWith } from '../artwork/bounds/bounds';
import { refuse } from '../basics/problem';
import { sha256Hex } from '../basics/sha256';
import type { ProjectDocument } from '../document/document';
import type { Output } from '../document/records';
import { type ContactSheetSettings, contactSheetOf } from '../formats';
import type { Bounds } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import { artboardOf, type Piece, pieces } from '../pieces/pieces';
import { sourcesOf } from '../pieces/placements';
import type { FileToMake, PlannedPage } from '../plan/plan';
import {
  type ComposedFile,
  type ComposeSources,
  composeContent,
  composeFile,
  type PieceContent,
  renderKey,
} from './compose';
import { type ContactSheetPage, type ContactSheetPlace, composeContactSheet, contactSheetTexts } from './contact-sheet';
import { groundOf, groundToSee, lookFor, lookKey } from './look';
import { withOutlines } from './page-words';
import { reachOf, showsAny } from './picture-changes';
import { RENDERER_VERSION } from './renderer-version';

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
    const sheet = this.onSheet(file);
    if (sheet) return this.sheetKey(sheet);
    const { piece, output } = this.parts(file);
    return renderKey(whole(this.content(piece, output)), file, output, groundOf(this.doc, piece, output), piece.region);
  }

  /** A planned file as SVG, with its key; one of several pages as the SVG of each. Throws as `key` does. */
  compose(file: FileToMake): ComposedFile {
    if (!file.pages) return this.composeAs(file);
    const composed = file.pages.map((page): Omit<ComposedFile, 'pages'> & Partial<ContactSheetPage> => {
      const sheet = this.onSheet(page);
      return sheet ? { ...this.sheetPage(sheet), key: this.sheetKey(sheet) } : this.composeAs(page);
    });
    const pages = file.pages.map(({ widthPx, heightPx, title }, i) => ({
      svg: composed[i].svg,
      widthPx,
      heightPx,
      title,
      texts: composed[i].texts,
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
    const sheet = this.onSheet(file);
    if (sheet) {
      const page = this.sheetPage(sheet);
      return { svg: withOutlines(page, this.sources.fonts), key: this.sheetKey(sheet), pictures: page.pictures };
    }
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
      ground: contactSheetOf(output.settings) ? null : groundOf(this.doc, piece, output),
    };
  }

  /** What stands on a page, where it is one of a contact sheet. */
  private onSheet(file: FileToMake | PlannedPage): OnSheet | null {
    const { sheet, page } = file as PlannedPage;
    const output = sheet && this.doc.find('output', file.outputId);
    const settings = output && contactSheetOf(output.settings);
    if (!sheet || !settings) return null;
    const pieces = sheet.pieceIds.flatMap((id) => this.piece(id) ?? []);
    return { pieces, output, settings, place: { heading: sheet.heading, page, of: sheet.of, part: sheet.part } };
  }

  private sheetKey({ pieces, output, settings, place }: OnSheet): string {
    const shown = pieces.map((piece) => {
      const { width, height } = piece.region;
      return [whole(this.content(piece, output)).hash, groundToSee(this.doc, piece, output), width, height];
    });
    const texts = contactSheetTexts(this.doc, pieces, settings, place, this.sources.fonts);
    // What is measured on a page of lockups is drawn by their rules.
    const measured =
      place.part === 'lockups' && pieces.map(({ record }) => record.kind === 'artboard' && record.follows);
    return sha256Hex(JSON.stringify([RENDERER_VERSION, 'sheet', settings, texts, shown, measured]));
  }

  private sheetPage({ pieces, output, settings, place }: OnSheet): ContactSheetPage {
    return composeContactSheet(this.doc, pieces, output, settings, place, this.sources);
  }

  private parts(file: { pieceId: string; outputId: string }): { piece: Piece; output: Output } {
    const piece = this.piece(file.pieceId);
    const output = this.doc.find('output', file.outputId);
    if (!piece || !output) throw new Error(`no piece ${file.pieceId} with output ${file.outputId}`);
    return { piece, output };
  }
}

/** A page of a contact sheet, with what it is made of. */
type OnSheet = { pieces: readonly Piece[]; output: Output; settings: ContactSheetSettings; place: ContactSheetPlace };

/** A planned file, composed: what goes to a renderer, with the key that the result is kept under. */
export type FileJob = ComposedFile & {
  settings: Output['settings'];
  widthPx: number;
  heightPx: number;
  dpi: number;
  ground: string | null;
  /** The settings of the file that it is a picture of, when it is one. */
  standsFor?: Output['settings'];
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
