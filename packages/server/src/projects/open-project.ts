import { type Blob, Composer, cellKey, documentFonts, type Fonts, type Plan, type PlannedFile, type PlannedPage, ProjectDocument, planFiles } from '@tolvik/core';
import { readBlobs } from '../db/blobs';
import type { Queryable } from '../db/database';

export type KeyedFile = PlannedFile & { key: string };
export type KeyedPage = PlannedPage & { key: string };

type Planned = {
  plan: Plan;
  files: readonly KeyedFile[];
  byCell: ReadonlyMap<string, KeyedFile>;
  /** Pages of files that hold several, each as a file of its own for looking at. */
  pages: readonly KeyedPage[];
  pageByCell: ReadonlyMap<string, KeyedPage>;
};

/** A project in memory at one version: its document, what it composes to, its plan with render keys. */
export class OpenProject {
  readonly composer: Composer;
  private readonly pictures = new Map<string, Blob>();
  /** A picture or font by its hash, once it was fetched. */
  readonly picture = (hash: string): Blob | undefined => this.pictures.get(hash);
  private planned: (Planned & { revision: number; name: string }) | null = null;

  constructor(
    readonly id: string,
    public name: string,
    public version: number,
    readonly doc: ProjectDocument,
    fonts: Fonts,
  ) {
    this.composer = new Composer(doc, { fonts: documentFonts(doc, fonts, (hash) => this.pictures.get(hash)?.bytes), pictures: this.picture });
  }

  /** Fetches the pictures and fonts that the artwork refers to and that are not here yet. */
  async loadPictures(db: Queryable): Promise<void> {
    const missing = new Set<string>();
    for (const layer of this.doc.each('layer')) {
      const hash = layer.tag === 'image' ? layer.attrs.href?.slice('blob:'.length) : undefined;
      if (hash && !this.pictures.has(hash)) missing.add(hash);
    }
    for (const { hash } of this.doc.list('font')) if (!this.pictures.has(hash)) missing.add(hash);
    for (const blob of await readBlobs(db, [...missing])) this.pictures.set(blob.hash, blob);
  }

  /** The plan, with the render key of every file. */
  plan(): Planned {
    const { doc, name } = this;
    if (this.planned?.revision !== doc.revision || this.planned.name !== name) {
      const plan = planFiles(doc, name);
      const files = plan.files.map((file) => ({ ...file, key: file.problem ? '' : this.composer.key(file) }));
      const pages = plan.pages.map((page) => ({ ...page, key: page.problem ? '' : this.composer.key(page) }));
      const byCell = new Map(files.map((file) => [cellKey(file.pieceId, file.outputId), file]));
      const pageByCell = new Map(pages.map((page) => [cellKey(page.pieceId, page.outputId), page]));
      this.planned = { revision: doc.revision, name, plan, files, byCell, pages, pageByCell };
    }
    return this.planned;
  }
}

export const emptyProject = (id: string, name: string, fonts: Fonts): OpenProject => new OpenProject(id, name, 0, new ProjectDocument(), fonts);
