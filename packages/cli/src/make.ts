import { createHash } from 'node:crypto';
import { resolve } from 'node:path';
import {
  asWritten,
  Composer,
  type ComposeSources,
  documentFonts,
  type IntakeRules,
  incompletePieces,
  type PlannedFile,
  refusals,
  several,
  type WrittenFacts,
} from '@tolvik/core';
import { inTurn, type SeenThere } from '@tolvik/folders';
import { RenderPool, renderJob, shippedFonts } from '@tolvik/render';
import { IntoFolder } from './into-folder';
import { ownerOf } from './owner';
import { FEWEST, RENDER_CHILD } from './render-child-path';
import type { Opened } from './source';

/** Files handed to the pool ahead of the one being made. */
export const AHEAD = 64;
/** Files of which it is kept in mind what came of them. */
const MOST_KNOWN = 200_000;

export type MakeOptions = {
  out: string;
  /** What the project is called by which a folder is known to be its own, where somebody said so. */
  project?: string;
  /** Whether `delivery.json` is kept beside the files, by which it is known whose each is. */
  receipt: boolean;
  /** What the folder takes; what it does not take is not written. */
  rules?: IntakeRules;
  /** Whether what is left over from before is taken away. */
  removeLeftovers: boolean;
  /** Whether files that somebody else put or changed are replaced. */
  replaceForeign: boolean;
};

/** What became of files, in numbers. */
export type Made = {
  /** In the folder now, those among them that were there already, and those written now. */
  done: number;
  same: number;
  foreign: number;
  failed: number;
  notTaken: number;
  removed: number;
};

/** What is told meanwhile: a file that is in the folder now, and a line about something that is not as it should be. */
export type Telling = { made(file: PlannedFile, bytes: number, done: number): void; trouble(words: string): void };

type Known = { sha256: string; bytes: number; measured: WrittenFacts };

/** Makes files and writes those that differ. What it made it knows again, and does not make twice. */
export class Maker {
  private readonly pool: RenderPool;
  /** By the key of what is drawn, and so by all that it is made of. */
  private readonly known = new Map<string, Known>();
  /** What lay in folders that were looked at. */
  private readonly seen: SeenThere = new Map();

  constructor(jobs?: number) {
    this.pool = new RenderPool({ childPath: RENDER_CHILD, size: jobs, fewest: FEWEST });
  }

  close(): Promise<void> {
    return this.pool.close();
  }

  /** A file that fails is told, and the others go on. While another process writes to the folder, this one waits. */
  make(opened: Opened, options: MakeOptions, tell: Telling): Promise<Made> {
    const waits = () => tell.trouble(`another export writes to ${options.out}: this one waits for its end`);
    return inTurn(options.out, () => this.makeAlone(opened, options, tell), waits);
  }

  private async makeAlone(opened: Opened, options: MakeOptions, tell: Telling): Promise<Made> {
    const paths = opened.files.map(({ path }) => path);
    if (this.seen.size >= MOST_KNOWN) this.seen.clear();
    const owner = await ownerOf(opened, options);
    const into = await IntoFolder.open(resolve(options.out), paths, {
      owner,
      withReceipt: options.receipt,
      allowed: options,
      seen: this.seen,
    });
    return this.makeInto(into, opened, options, tell).finally(() => into.close());
  }

  private async makeInto(
    into: IntoFolder,
    { doc, pictures, files, plan }: Opened,
    options: MakeOptions,
    tell: Telling,
  ): Promise<Made> {
    const { rules } = options;
    const sources = sourcesFor({ doc, pictures });
    const composer = new Composer(doc, sources);
    const made: Made = { done: 0, same: 0, foreign: 0, failed: 0, notTaken: 0, removed: 0 };
    await several(files, AHEAD, async (file) => {
      try {
        const key = composer.key(file);
        const before = this.known.get(key);
        // What lies there as it would be made is not even composed.
        const isThere = before && (await into.has(file, before));
        const rendered = isThere ? null : await this.pool.render(renderJob(composer.job(file), sources.pictures));
        const facts = rendered ? this.keep(key, rendered) : (before as Known);
        const broken = rules ? notTakenBy(rules, file, facts.measured) : [];
        for (const words of broken) tell.trouble(`! ${words}`);
        if (broken.length > 0) {
          made.notTaken++;
          return;
        }
        const became = await into.take(file, facts, rendered?.bytes ?? null);
        if (became === 'foreign') {
          made.foreign++;
          tell.trouble(`! ${file.path}: somebody else put or changed it; --replace replaces it`);
          return;
        }
        if (became === 'same') made.same++;
        tell.made(file, facts.bytes, ++made.done);
      } catch (error) {
        made.failed++;
        tell.trouble(`! ${file.path}: ${(error as Error).message}`);
      }
    });
    const some = made.failed > 0 || made.notTaken > 0 || files.length < plan.files.length;
    const { leftovers, removed } = await into.finish(some);
    for (const path of leftovers) tell.trouble(`- ${path}: left over from before; --leftovers remove takes it away`);
    return { ...made, removed };
  }

  private keep(key: string, { bytes, measured }: { bytes: Buffer; measured: WrittenFacts }): Known {
    const known = { sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length, measured };
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(key, known);
    return known;
  }
}

/** The fonts and pictures that a drawing is made with. */
export function sourcesFor({ doc, pictures: held }: Pick<Opened, 'doc' | 'pictures'>): ComposeSources {
  const pictures = (hash: string) => held.get(hash);
  return { fonts: documentFonts(doc, shippedFonts(import.meta.url), (hash) => pictures(hash)?.bytes), pictures };
}

/** In words, why rules would not take a file as it came out; empty where they do. */
export const notTakenBy = (rules: IntakeRules, file: PlannedFile, measured: WrittenFacts): string[] =>
  refusals(rules, asWritten(file, measured)).map(({ words }) => `${file.path}: ${rules.name} ${words}`);

/** In words, where files cannot be made as they are planned; empty where all can. */
export function plannedTrouble({ files, plan }: Opened): string[] {
  const nameOf = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
  return files
    .filter((file) => file.problem || file.clashCount > 0)
    .map((file) => `! ${nameOf.get(file.pieceId)}: ${file.problem ?? `${file.path} is taken by another file`}`);
}

/** In words, the sizes that pieces lack of those that rules want to be complete. */
export function lackedSizes({ files, plan }: Pick<Opened, 'files' | 'plan'>, rules?: IntakeRules): string[] {
  if (!rules) return [];
  const nameOf = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
  return incompletePieces(rules, files).map(
    ({ pieceId, missing }) =>
      `${nameOf.get(pieceId)}: ${rules.name} wants it at ${missing.map((scale) => `${scale} ×`).join(', ')}, too`,
  );
}

/** Parts of a sentence about what is not as all the rest. */
export const notesOf = ({ foreign, failed, notTaken, removed }: Made): string[] =>
  [
    removed > 0 && `${removed} left over taken away`,
    foreign > 0 && `${foreign} left to somebody else`,
    notTaken > 0 && `${notTaken} not taken`,
    failed > 0 && `${failed} failed`,
  ].filter((note) => note !== false);
