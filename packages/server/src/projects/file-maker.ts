import { FORMATS, groundOf, type Output, type Piece } from '@tolvik/core';
import type { Priority, RenderPool } from '@tolvik/render';
import type { NewRender, RenderRow } from '../db/renders';
import type { KeyedFile, OpenProject } from './open-project';
import type { Renders } from './renders';

/** Makes planned files, or takes them from what was made before. One file asked for twice is made once. */
export class FileMaker {
  private readonly underWay = new Map<string, Promise<NewRender>>();
  private warming: { what: string; control: AbortController } | null = null;

  constructor(
    private readonly renders: Renders,
    private readonly pool: RenderPool,
    private readonly onError: (error: Error) => void,
  ) {}

  /** Renders a file without storing it. */
  render(project: OpenProject, file: KeyedFile, priority: Priority, signal?: AbortSignal): Promise<NewRender> {
    const known = this.underWay.get(file.key);
    if (known) return known;
    const shared = priority !== 'low';
    const output = project.doc.find('output', file.outputId) as Output;
    const piece = project.composer.piece(file.pieceId) as Piece;
    const { svg, pages } = project.composer.compose(file);
    const job = { svg, pages, settings: output.settings, widthPx: file.widthPx, heightPx: file.heightPx, dpi: file.dpi, ground: groundOf(project.doc, piece, output) };
    const made = this.pool
      .render(job, priority, signal)
      .then(({ bytes, measured }): NewRender => ({ key: file.key, mediaType: FORMATS[file.format].mediaType, bytes, measured }))
      .finally(() => shared && this.underWay.delete(file.key));
    // What is made ahead of need may be called off, so nobody else waits for it.
    if (shared) this.underWay.set(file.key, made);
    return made;
  }

  /** The bytes of a file, from the cache or made now and kept. */
  async file(project: OpenProject, file: KeyedFile): Promise<RenderRow> {
    const cached = await this.renders.read(file.key);
    if (cached) return cached;
    const made = await this.render(project, file, 'high');
    await this.renders.put([made]);
    return { key: made.key, media_type: made.mediaType, bytes: made.bytes, measured: made.measured };
  }

  /**
   * Makes what the plan lacks while nobody waits for it, so that weights become known and an export
   * finds its files made. Asked again for the same version it goes on; for another one, that takes its place.
   */
  warm(project: OpenProject, files: readonly KeyedFile[], onMade: () => void): void {
    const what = `${project.id} ${project.version}`;
    if (this.warming?.what === what) return;
    this.warming?.control.abort();
    const control = new AbortController();
    this.warming = { what, control };
    void this.warmAll(project, files, control.signal, onMade)
      .catch(this.onError)
      .finally(() => {
        if (this.warming?.control === control) this.warming = null;
      });
  }

  private async warmAll(project: OpenProject, files: readonly KeyedFile[], signal: AbortSignal, onMade: () => void): Promise<void> {
    const { version } = project;
    for (let at = 0; at < files.length; at += 48) {
      const chunk = files.slice(at, at + 48).filter((file) => file.key);
      const have = await this.renders.weightsOf(chunk.map((file) => file.key));
      const missing = chunk.filter((file) => !have.has(file.key));
      if (missing.length === 0) continue;
      if (signal.aborted || project.version !== version) return;
      const results = await Promise.allSettled(missing.map((file) => this.render(project, file, 'low', signal)));
      const made = results.flatMap((result) => (result.status === 'fulfilled' ? [result.value] : []));
      await this.renders.put(made);
      if (made.length > 0) onMade();
      if (signal.aborted || project.version !== version) return;
    }
  }

  stop(): void {
    this.warming?.control.abort();
  }
}
