import {
  type ActRequest,
  type Artboard,
  type Change,
  COVER,
  Composer,
  cellKey,
  changedSince,
  composeCover,
  type Drawn,
  documentFonts,
  type FileJob,
  type Finding,
  FORMATS,
  type FontRecord,
  type Fonts,
  type Format,
  findTrouble,
  jobsOfRequest,
  type Meetings,
  measuredSources,
  meetingsJob,
  meetingsOn,
  type NamedArtwork,
  type Outcome,
  type OutputSettings,
  type PieceSince,
  type Problem,
  ProjectDocument,
  type ProjectRecord,
  performRequest,
  planFiles,
  Refusal,
  refuse,
  type Seen,
  type StoredBlob,
  sha256Hex,
  shownOn,
  type Taker,
  takeBackPieces,
  writeProjectFile,
} from '@tolvik/core';
import { resized } from '@tolvik/render';
import { LRUCache } from 'lru-cache';
import { type Placed, type PlaceOptions, placed } from '../bring-in/placed';
import { type KeyedFile, type KeyedPage, KeyedPlan } from './keyed-plan';

/** A piece through an output; of one that makes a file of several pages, the page of the piece, or any by its number from 1. */
export type Cell = { pieceId: string; outputId: string; page?: number };
/** What a picture of the project is, without its bytes. */
export type PictureInfo = { hash: string; width: number; height: number };

/** A file composed at one version: what to render, and the key under which what comes out is kept. */
export type Composed = { cell: Cell; job: FileJob; format: Format; path: string };
export type Answered = Composed | { cell: Cell; problem: Problem };

/** What of the files is known to whoever keeps them, by render key, and what the checks go by beside the project. */
export type FindingsAsk = {
  seen: [key: string, seen: Seen][];
  bytes: [key: string, bytes: number][];
  lastDelivery?: { number: number; paths: string[] };
  intakes: Taker[];
};

export type Unmeasured = { artboardId: string; job: FileJob };
/** An artboard as it was drawn by the job of a key. */
export type DrawnArtboard = Drawn & { artboardId: string; key: string };

/** A part of a plan: some of its files from one on, and what is told with the last of them. */
export type PlanPart = {
  /** Which plan it is: parts of one plan go together. */
  of: number;
  version: number;
  offCount: number;
  /** How many files the whole plan has. */
  total: number;
  files: readonly KeyedFile[];
  pages: readonly KeyedPage[];
  formats: Record<string, Format>;
};
export type PlanAnswer = Omit<PlanPart, 'of'>;

/** `ground`: what it is only looked at on. */
export type NamedPiece = { id: string; name: string; number: number; ground: string | null };

export type ChosenFiles = { pieceIds?: readonly string[]; outputIds?: readonly string[] };
/** Those files that were chosen. */
export function chosenOf(files: readonly KeyedFile[], { pieceIds, outputIds }: ChosenFiles): readonly KeyedFile[] {
  const pieces = pieceIds && new Set(pieceIds);
  const outputs = outputIds && new Set(outputIds);
  return files.filter((file) => (!pieces || pieces.has(file.pieceId)) && (!outputs || outputs.has(file.outputId)));
}

/** What a delivery begins with, all of one version: its files, and the records they were planned from. */
export type DeliveryStart = {
  version: number;
  files: readonly KeyedFile[];
  records: string /** Pictures and fonts that the records name. */;
  hashes: string[];
};

/** How large the picture of a vector file is drawn for the Proof, at the most; and one that fills a window, or of a page of paper, which has words. */
const PICTURE_SIDE = 512;
export const LARGE_SIDE = 1600;
export const pictureKey = (key: string, side?: number): string => `${key}-picture${side ? `-${side}` : ''}`;
/** Artboards of which it is remembered where their colours meet. */
const MEASURED_AT_MOST = 2_000;
const NO_PICTURE = new Uint8Array();

/**
 * A project in memory at one version: its document, what it composes to, its plan with render keys. Lives in a
 * thread of its own, since all it does takes as long as the drawing wants; every answer is of the version it says.
 */
export class OpenProject {
  readonly doc = new ProjectDocument();
  version = 0;
  name = '';
  private readonly composer: Composer;
  private readonly fonts = new Map<string, Uint8Array>();
  private readonly pictures = new Map<string, PictureInfo>();
  /** Hashes that records named, those that are not here yet among them. */
  private readonly wanted = { pictures: new Set<string>(), fonts: new Set<string>() };
  private readonly meetings = new LRUCache<string, Meetings>({ max: MEASURED_AT_MOST });
  private planned: { keyed: KeyedPlan; of: number; revision: number; name: string } | null = null;
  private staged: { name: string; version: number; puts: ProjectRecord[]; removes: string[] } | null = null;

  constructor(shipped: Fonts) {
    const pictures = (hash: string): StoredBlob | undefined =>
      this.pictures.has(hash) ? { hash, mediaType: 'image/png', bytes: NO_PICTURE } : undefined;
    this.composer = new Composer(this.doc, {
      fonts: documentFonts(this.doc, shipped, (hash) => this.fonts.get(hash)),
      pictures,
    });
  }

  /** Takes records that changed, as JSON text; answers the pictures and fonts that have to be here before they count. */
  stage(name: string, version: number, records: string, removes: string[]): { pictures: string[]; fonts: string[] } {
    const puts = JSON.parse(records) as ProjectRecord[];
    this.staged = { name, version, puts, removes };
    for (const record of puts) {
      if (record.kind === 'font') this.wanted.fonts.add(record.hash);
      if (record.kind === 'layer' && record.tag === 'image' && record.attrs.href)
        this.wanted.pictures.add(record.attrs.href.slice('blob:'.length));
    }
    return {
      pictures: [...this.wanted.pictures].filter((hash) => !this.pictures.has(hash)),
      fonts: [...this.wanted.fonts].filter((hash) => !this.fonts.has(hash)),
    };
  }

  /** What was staged becomes the project. */
  apply(pictures: readonly PictureInfo[], fonts: readonly StoredBlob[]): void {
    const { staged } = this;
    if (!staged) return;
    for (const picture of pictures) this.pictures.set(picture.hash, picture);
    for (const { hash, bytes } of fonts) this.fonts.set(hash, bytes);
    this.doc.apply(staged);
    this.version = staged.version;
    this.name = staged.name;
    this.staged = null;
  }

  /** The plan; its files get their render keys when they are asked for. */
  private plan(): KeyedPlan {
    const { doc, name } = this;
    if (this.planned?.revision !== doc.revision || this.planned.name !== name) {
      const keyed = new KeyedPlan(planFiles(doc, name), this.composer);
      this.planned = { keyed, of: (this.planned?.of ?? 0) + 1, revision: doc.revision, name };
    }
    return this.planned.keyed;
  }

  /** So many files of the plan from one on; pages of files come with the last of them. */
  planPart(from: number, most: number): PlanPart {
    const keyed = this.plan();
    const { files, offCount } = keyed.plan;
    const formats = Object.fromEntries(this.doc.list('output').map(({ id, settings }) => [id, settings.format]));
    return {
      of: this.planned?.of ?? 0,
      version: this.version,
      offCount,
      total: files.length,
      files: keyed.files(from, most),
      pages: from + most >= files.length ? keyed.pages() : [],
      formats,
    };
  }

  /**
   * A planned file; a page of one that holds several by itself, that of the piece or the one asked for, unless the whole
   * is. Refuses one that cannot be made.
   */
  file({ pieceId, outputId, page: asked }: Cell, whole: boolean): KeyedFile {
    const cell = cellKey(pieceId, outputId);
    const page = whole ? undefined : asked ? this.pageOf(outputId, asked) : this.plan().page(cell);
    const file = page ? { ...page, clashes: [], clashCount: 0 } : this.plan().file(cell);
    if (!file) return refuse('not.found', 'there is no such file in the plan');
    if (file.problem) return refuse('file.problem', file.problem, { where: file.path });
    return file;
  }

  private pageOf(outputId: string, page: number): KeyedPage {
    const keyed = this.plan();
    const whole = keyed.plan.files.find((file) => file.outputId === outputId && file.pages);
    const planned = whole?.pages?.[page - 1];
    return planned ? keyed.keyed(planned) : refuse('not.found', 'there is no such page in the plan');
  }

  private composed(cell: Cell, file: KeyedFile, settings?: OutputSettings): Composed {
    return { cell, job: this.composer.job(file, settings), format: file.format, path: file.path };
  }

  /** Files composed, each or why it cannot be. */
  jobs(cells: readonly Cell[], whole: boolean): Answered[] {
    return cells.map((cell): Answered => {
      try {
        return this.composed(cell, this.file(cell, whole));
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        return { cell, problem: error.problem };
      }
    });
  }

  /** A file with other settings of its format. */
  trial(cell: Cell, settings: OutputSettings): Composed {
    const file = this.file(cell, false);
    if (settings.format !== file.format)
      refuse('trial.format', `this output makes ${FORMATS[file.format].title}`, {
        accepted: `settings of ${file.format}`,
      });
    return this.composed(cell, file, settings);
  }

  /** What a file looks like: the same composed SVG, as a PNG of a longest side in px, or as the Proof shows it. */
  picture(cell: Cell, side?: number): Composed {
    const file = this.file(cell, false);
    const made = this.composed(cell, file);
    const onPaper = 'sheet' in file && !!file.sheet;
    const longest = Math.max(file.widthPx, file.heightPx);
    const scale = side ? side / longest : Math.min((onPaper ? LARGE_SIDE : PICTURE_SIDE) / longest, 4);
    const [widthPx, heightPx] = [
      Math.max(1, Math.round(file.widthPx * scale)),
      Math.max(1, Math.round(file.heightPx * scale)),
    ];
    const svg = resized(made.job.svg, widthPx, heightPx);
    return {
      ...made,
      format: 'png',
      job: {
        ...made.job,
        svg,
        pages: undefined,
        standsFor: made.job.settings,
        key: pictureKey(made.job.key, side),
        settings: { format: 'png', effort: 'faster' },
        widthPx,
        heightPx,
        dpi: 96,
      },
    };
  }

  /** The contact sheet of the Shelf. */
  cover(): FileJob {
    const { svg, pictures } = composeCover(this.composer);
    return {
      svg,
      pictures,
      key: sha256Hex(`cover ${svg}`),
      settings: { format: 'png', effort: 'faster' },
      widthPx: COVER.width * 2,
      heightPx: COVER.height * 2,
      dpi: 192,
      ground: COVER.ground,
    };
  }

  projectFile(pictures: readonly StoredBlob[], id: string): string {
    const byHash = new Map(pictures.map((picture) => [picture.hash, picture]));
    const font = (hash: string): StoredBlob | undefined => {
      const bytes = this.fonts.get(hash);
      return bytes && { hash, mediaType: 'font/ttf', bytes };
    };
    return writeProjectFile(this.doc, this.name, (hash) => byHash.get(hash) ?? font(hash), id);
  }

  /** What becomes files, by name and number. */
  named = (): NamedPiece[] =>
    this.plan().plan.pieces.map((piece) => {
      const { id, name, number } = piece;
      return { id, name, number, ground: shownOn(this.doc, piece) };
    });

  pictureHashes = (): string[] => [...this.pictures.keys()];

  /** Artboards whose variants depend on where their colours meet, and that nobody measured yet, as jobs that draw them. */
  unmeasured(): Unmeasured[] {
    return [...measuredSources(this.doc)].flatMap((artboardId) => {
      const artboard = this.doc.find('artboard', artboardId);
      const job = artboard && this.meetingsJob(artboard);
      return job && !this.meetings.has(job.key) ? [{ artboardId, job }] : [];
    });
  }

  /** Measures what was drawn, and keeps it for as long as the artboard looks like that. */
  measure(drawn: readonly DrawnArtboard[]): null {
    for (const { artboardId, key, ...picture } of drawn) {
      const artboard = this.doc.find('artboard', artboardId);
      if (artboard) this.meetings.set(key, meetingsOn(this.doc, artboard, picture));
    }
    return null;
  }

  private meetingsJob = (artboard: Artboard): FileJob => meetingsJob(this.doc, artboard, this.composer.sources);

  findings({ seen: known, bytes, lastDelivery, intakes }: FindingsAsk): Finding[] {
    const seen = new Map(known);
    const weights = new Map(bytes);
    const keyed = this.plan();
    const keyOf = (pieceId: string, outputId: string) => keyed.file(cellKey(pieceId, outputId))?.key ?? '';
    return findTrouble({
      doc: this.doc,
      plan: keyed.plan,
      fonts: this.composer.sources.fonts,
      pictureSize: (hash) => this.pictures.get(hash),
      lastDelivery,
      intakes,
      bytesOf: (pieceId, outputId) => weights.get(keyOf(pieceId, outputId)),
      seenOf: (pieceId, outputId) => seen.get(keyOf(pieceId, outputId)),
      meetingsOf: (artboardId) => this.meetingsOf(artboardId),
    });
  }

  /** Where colours of an artboard meet; undefined when it was not measured as it looks now. */
  private meetingsOf(artboardId: string): Meetings | undefined {
    const artboard = this.doc.find('artboard', artboardId);
    return artboard && this.meetings.get(this.meetingsJob(artboard).key);
  }

  /** The files that were chosen and the records as they are; refuses while any of them has trouble. */
  delivery(chosen: ChosenFiles): DeliveryStart {
    const keyed = this.plan();
    const { plan } = keyed;
    const wanted = chosenOf(keyed.files(), chosen);
    if (plan.beyond > 0)
      refuse('plan.files', `this project would make ${(plan.files.length + plan.beyond).toLocaleString('en')} files`, {
        accepted: `up to ${plan.files.length.toLocaleString('en')} files at once`,
      });
    if (wanted.length === 0)
      refuse('delivery.empty', 'there are no files to export', {
        accepted: 'at least one piece and one output that are on',
      });
    const troubled = wanted.filter((file) => file.problem || file.clashCount > 0);
    if (troubled.length > 0) {
      const first = troubled[0];
      const nameOf = (id: string) => plan.pieces.find((piece) => piece.id === id)?.name ?? id;
      refuse(
        'delivery.held',
        first.problem
          ? `${nameOf(first.pieceId)}: ${first.problem}`
          : `${troubled.length} files share a path with another, the first is ${first.path}`,
        {
          where: first.path,
          accepted: 'a plan in which every file has its own path and can be made',
        },
      );
    }
    return {
      version: this.version,
      files: wanted,
      records: JSON.stringify([...this.doc.all()]),
      hashes: [...this.pictures.keys(), ...this.fonts.keys()],
    };
  }

  /** What was read, put on the Bench: the change, and which of the files found no room. */
  place(read: readonly NamedArtwork[], options: PlaceOptions): Placed {
    return placed(read, this.doc, options);
  }

  /** The drawings that an act of core needs outlined. */
  outlineJobs = (name: string, request: ActRequest): FileJob[] => jobsOfRequest(this.doc, name, request);

  /** An act of core, worked out on what the project is now. */
  act = (name: string, request: ActRequest): Outcome => performRequest(this.doc, name, request);

  /** The pieces that are not as they were when the project's records were those, as JSON text. */
  since = (records: string): PieceSince[] => changedSince(this.doc, new ProjectDocument(JSON.parse(records)));

  takeBack = (records: string, pieceIds: readonly string[]): Change =>
    takeBackPieces(this.doc, new ProjectDocument(JSON.parse(records)), pieceIds);

  addedFonts = (): FontRecord[] => [...this.doc.list('font')];
}
