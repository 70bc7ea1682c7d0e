import { type Composer, cellKey, type Plan, type PlannedFile, type PlannedPage, Refusal } from '@tolvik/core';

export type KeyedFile = PlannedFile & { key: string };
export type KeyedPage = PlannedPage & { key: string };

/**
 * A plan whose files get their render keys when they are asked for: a key costs the composition of its piece, so the
 * first screen of a large project, and the first files of its export, need not wait for all others.
 */
export class KeyedPlan {
  private readonly keyedFiles: (KeyedFile | undefined)[] = [];
  private readonly keyedPages: (KeyedPage | undefined)[] = [];
  private readonly fileAt: ReadonlyMap<string, number>;
  private readonly pageAt: ReadonlyMap<string, number>;

  constructor(
    readonly plan: Plan,
    private readonly composer: Composer,
  ) {
    const places = (list: readonly { pieceId: string; outputId: string }[]) =>
      new Map(list.map(({ pieceId, outputId }, i) => [cellKey(pieceId, outputId), i]));
    this.fileAt = places(plan.files);
    this.pageAt = places(plan.pages);
  }

  /** The file of a cell; undefined where the plan has none. */
  file(cell: string): KeyedFile | undefined {
    const at = this.fileAt.get(cell);
    return at === undefined ? undefined : this.nth(at);
  }

  /** The page that a piece has to itself in a file of several pages; undefined where it has none. */
  page(cell: string): KeyedPage | undefined {
    const at = this.pageAt.get(cell);
    return at === undefined ? undefined : this.nthPage(at);
  }

  /** So many files from one on, in the order of the plan. */
  files(from = 0, most = this.plan.files.length): KeyedFile[] {
    const end = Math.min(this.plan.files.length, from + most);
    return Array.from({ length: Math.max(0, end - from) }, (_, i) => this.nth(from + i));
  }

  /** Pages of files that hold several, each as a file of its own for looking at. */
  pages = (): KeyedPage[] => this.plan.pages.map((_, at) => this.nthPage(at));

  private nth(at: number): KeyedFile {
    this.keyedFiles[at] ??= this.keyed(this.plan.files[at]);
    return this.keyedFiles[at];
  }

  private nthPage(at: number): KeyedPage {
    this.keyedPages[at] ??= this.keyed(this.plan.pages[at]);
    return this.keyedPages[at];
  }

  /** With its render key; with '' and the problem where it cannot be made. */
  keyed<T extends PlannedFile | PlannedPage>(file: T): T & { key: string } {
    if (file.problem) return { ...file, key: '' };
    try {
      return { ...file, key: this.composer.key(file) };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      return { ...file, problem: error.problem.message, key: '' } as unknown as T & { key: string };
    }
  }
}
