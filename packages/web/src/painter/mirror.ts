import {
  type ComposeSources,
  documentFonts,
  type Fonts,
  measureTextWith,
  NO_FONTS,
  type StoredBlob as Picture,
  type PictureFacts,
  ProjectDocument,
  type ProjectRecord,
  pictureFacts,
} from '@tolvik/core';
import { loadFonts } from './load-fonts';

/** How a worker is told what the page's document holds: all of it once, then every edit. */
export type ToMirror =
  | { kind: 'open'; records: ProjectRecord[] }
  | { kind: 'apply'; puts: readonly ProjectRecord[]; removes: readonly string[] };

/** A worker's own copy of the page's document, with the fonts and pictures that it has a use for. */
export class Mirror {
  doc = new ProjectDocument();
  fonts: Fonts = NO_FONTS;
  private readonly pictures = new Map<string, Picture>();
  private readonly fontBytes = new Map<string, Uint8Array>();
  private needs: { revision: number; fetched: Promise<void> } | null = null;

  readonly picture = (hash: string): Picture | undefined => this.pictures.get(hash);

  get sources(): ComposeSources {
    return { fonts: this.fonts, pictures: this.picture };
  }

  follow(told: ToMirror): void {
    if (told.kind === 'open') {
      this.doc = new ProjectDocument(told.records);
      this.fonts = NO_FONTS;
    } else this.doc.apply({ puts: [...told.puts], removes: [...told.removes] });
  }

  /** Whoever draws or checks waits for what the document needs, also when somebody else asked for it first. */
  loadNeeds(): Promise<void> {
    const { layerRevision } = this.doc;
    if (this.needs?.revision !== layerRevision) {
      const fetched = this.fetchNeeds();
      this.needs = { revision: layerRevision, fetched };
      // What could not be fetched is asked for again by the next.
      fetched.catch(() => {
        if (this.needs?.fetched === fetched) this.needs = null;
      });
    }
    return this.needs.fetched;
  }

  /** Fonts and pictures are fetched from this very server, once the document has a use for them. */
  private async fetchNeeds(): Promise<void> {
    const { doc } = this;
    const wanted = new Set<string>();
    let text = false;
    for (const layer of doc.each('layer')) {
      if (layer.tag === 'text') text = true;
      if (layer.tag === 'image') {
        const hash = layer.attrs.href?.slice('blob:'.length);
        if (hash && !this.pictures.has(hash)) wanted.add(hash);
      }
    }
    if (text) {
      await Promise.all(doc.list('font').map(({ hash }) => this.fetchFont(hash)));
      if (this.fonts === NO_FONTS)
        this.fonts = documentFonts(doc, await loadFonts(), (hash) => this.fontBytes.get(hash));
      measureTextWith(doc, this.fonts);
    }
    await Promise.all([...wanted].map((hash) => this.fetchPicture(hash)));
  }

  private async fetchPicture(hash: string): Promise<void> {
    const response = await fetch(`/api/blobs/${hash}`);
    const bytes = new Uint8Array(await response.arrayBuffer());
    const facts = response.ok ? pictureFacts(bytes) : null;
    if (facts) this.pictures.set(hash, { hash, ...(await drawable(bytes, facts)) });
  }

  private async fetchFont(hash: string): Promise<void> {
    if (this.fontBytes.has(hash)) return;
    const response = await fetch(`/api/blobs/${hash}`);
    if (response.ok) this.fontBytes.set(hash, new Uint8Array(await response.arrayBuffer()));
  }
}

/** A picture as the rasteriser draws it: what it does not know, and what lies on its side, becomes an upright PNG, as the server makes it for files. */
async function drawable(bytes: Uint8Array, facts: PictureFacts): Promise<Pick<Picture, 'mediaType' | 'bytes'>> {
  const { mediaType } = facts;
  if (mediaType === 'image/png' || (mediaType === 'image/jpeg' && !facts.turned && !facts.inks))
    return { mediaType, bytes };
  const bitmap = await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mediaType }), {
    imageOrientation: 'from-image',
  });
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
  bitmap.close();
  const png = await canvas.convertToBlob({ type: 'image/png' });
  return { mediaType: 'image/png', bytes: new Uint8Array(await png.arrayBuffer()) };
}
