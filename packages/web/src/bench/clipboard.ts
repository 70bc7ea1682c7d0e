import {
  type Clip,
  layersAsSvg,
  layersOn,
  type StoredBlob as Picture,
  pasteClip,
  pictureFacts,
  stepsOnto,
  takeCopy,
} from '@tolvik/core';
import type { Session } from '../project/session/session';
import { nameOfSelection, selectedArtboards } from './act';
import { removePieces } from './remove';

/** What was copied here last, with the text that stands for it on the system's clipboard. */
let held: { session: Session; clip: Clip; text: string } | null = null;

/** SVG text of what is selected; artboards stand for what lies on them. */
async function asSvg({ doc, selection }: Session): Promise<string | null> {
  const ids = [...selection].flatMap((id) => {
    const artboard = doc.find('artboard', id);
    return artboard ? layersOn(doc, artboard).map((layer) => layer.id) : [id];
  });
  const hashes = new Set<string>();
  layersAsSvg(doc, ids, (hash) => void hashes.add(hash));
  const pictures = new Map<string, Picture>();
  for (const hash of hashes) {
    const bytes = new Uint8Array(await (await fetch(`/api/blobs/${hash}`)).arrayBuffer());
    const facts = pictureFacts(bytes);
    if (facts) pictures.set(hash, { hash, mediaType: facts.mediaType, bytes });
  }
  return layersAsSvg(doc, ids, (hash) => pictures.get(hash));
}

/** Copies what is selected: for here as it is, for elsewhere as SVG text. Answers how it is said, or null when there is nothing. */
export async function copySelected(session: Session, data?: DataTransfer | null): Promise<string | null> {
  const clip = takeCopy(session.doc, session.selection);
  if (!clip) return null;
  const name = nameOfSelection(session);
  const plain = layersAsSvg(session.doc, clip.topIds, () => undefined) ?? '';
  held = { session, clip, text: plain };
  if (data) data.setData('text/plain', plain);
  if (!data || clip.layers.some((layer) => layer.tag === 'image')) {
    const full = (await asSvg(session)) ?? plain;
    await navigator.clipboard.writeText(full);
    held = { session, clip, text: full };
  }
  return `${name} copied`;
}

export async function cutSelected(session: Session, data?: DataTransfer | null): Promise<string | null> {
  const name = nameOfSelection(session);
  if (!(await copySelected(session, data))) return null;
  removePieces(session, [...session.selection]);
  return `${name} cut`;
}

/** Whether this text is what was copied here, so that it is pasted as it was and not read again. */
export const isHeld = (session: Session, text: string): boolean =>
  held?.session === session && held.text.replace(/\r\n/g, '\n') === text.replace(/\r\n/g, '\n');

/** Pastes what was copied in this window to the place that it was copied from; answers what there is to say. */
export function pasteWhereItWas(session: Session): string {
  if (held?.session !== session) return 'Nothing of this project was copied in this window yet';
  const { puts, selected } = pasteClip(session.doc, held.clip, [{ dx: 0, dy: 0 }]);
  session.commit({ label: 'paste', puts, removes: [] });
  session.select(selected);
  return '';
}

/**
 * Pastes what was copied here: onto each selected artboard, as far from its corner as it was from its own; or into the
 * middle of the view.
 */
export function pasteHeld(session: Session, middle: { x: number; y: number }): string {
  if (!held) return '';
  const { clip } = held;
  const onto = clip.artboards.length === 0 ? selectedArtboards(session) : [];
  const centred = {
    dx: Math.round(middle.x - (clip.box.minX + clip.box.maxX) / 2),
    dy: Math.round(middle.y - (clip.box.minY + clip.box.maxY) / 2),
  };
  const steps = onto.length > 0 ? stepsOnto(clip, onto) : [centred];
  const { puts, selected } = pasteClip(session.doc, clip, steps);
  session.commit({
    label: onto.length > 1 ? `paste onto ${onto.length} artboards` : 'paste',
    puts,
    removes: [],
  });
  session.select(selected);
  return onto.length > 0 ? `Pasted onto ${onto.length === 1 ? onto[0].name : `${onto.length} artboards`}` : '';
}
