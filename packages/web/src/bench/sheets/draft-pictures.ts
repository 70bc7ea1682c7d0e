import {
  type Artboard,
  artworkIndex,
  boundsOf,
  composeBenchPiece,
  type Fonts,
  type StoredBlob as Picture,
  type ProjectDocument,
  pictureFacts,
  pieceAlone,
  regionOf,
  sourcesOf,
} from '@tolvik/core';
import { useEffect, useState } from 'react';
import { useSession } from '../../project/session/context';

/** Longest side of a picture of what is not made yet, in px. */
const SIDE = 420;

async function picturesIn(doc: ProjectDocument, artboard: Artboard): Promise<Map<string, Picture>> {
  const pictures = new Map<string, Picture>();
  for (const source of sourcesOf(doc, artboard)) {
    for (const { layer } of artworkIndex(doc).search(boundsOf(source))) {
      const hash = layer.tag === 'image' ? layer.attrs.href?.slice('blob:'.length) : undefined;
      if (!hash || pictures.has(hash)) continue;
      const response = await fetch(`/api/blobs/${hash}`);
      const bytes = new Uint8Array(await response.arrayBuffer());
      const facts = response.ok ? pictureFacts(bytes) : null;
      if (facts) pictures.set(hash, { hash, mediaType: facts.mediaType, bytes });
    }
  }
  return pictures;
}

function svgOf(doc: ProjectDocument, record: Artboard, fonts: Fonts, pictures: ReadonlyMap<string, Picture>): string {
  const piece = pieceAlone({ ...record, background: null }, regionOf(record));
  return composeBenchPiece(
    doc,
    piece,
    { widthPx: SIDE, heightPx: SIDE },
    { fonts, pictures: (hash) => pictures.get(hash) },
  );
}

/** What artboards will show before they are made, composed as their files will be; addresses of pictures by the artboard's id. */
export function useDraftPictures(drafts: readonly Artboard[]): ReadonlyMap<string, string> {
  const { doc } = useSession();
  const [urls, setUrls] = useState<ReadonlyMap<string, string>>(new Map());
  const key = JSON.stringify(drafts.map(({ id, follows, width, height }) => [id, follows, width, height]));
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the drafts
  useEffect(() => {
    let live = true;
    const made: string[] = [];
    const draw = async () => {
      const { loadFonts } = await import('../../painter/load-fonts');
      const fonts = await loadFonts();
      const pictures = new Map<string, Picture>();
      for (const draft of drafts)
        for (const [hash, picture] of await picturesIn(doc, draft)) pictures.set(hash, picture);
      if (!live) return;
      const next = new Map<string, string>();
      for (const draft of drafts) {
        const url = URL.createObjectURL(new Blob([svgOf(doc, draft, fonts, pictures)], { type: 'image/svg+xml' }));
        made.push(url);
        next.set(draft.id, url);
      }
      setUrls(next);
    };
    void draw();
    return () => {
      live = false;
      for (const url of made) URL.revokeObjectURL(url);
    };
  }, [key]);
  return urls;
}
