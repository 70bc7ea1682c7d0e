import type { Layer, Piece } from '@tolvik/core';
import { artworkAt } from '../shown-artwork';
import { shownEdition } from '../shown-edition';
import type { GestureHost, Pointer } from './gesture';
import { atLevel, layersAt, levelOf, pieceAt, pieceFrameAt, selectedLayerAt } from './hit';

/** What a press on the plane picks: artwork at the level one is in, pieces by their frames and their empty ground. */
export class Picking {
  /** The group that was entered last; it stays while something beside it is selected. */
  private entered: string | null = null;

  constructor(private readonly host: GestureHost) {}

  /** A piece by its edge, tab or ticket; artwork where it lays paint; or else the piece whose ground is there. */
  at({ x, y, px, py }: Pointer): { id: string } | undefined {
    const { session, scene, camera } = this.host;
    const frame = pieceFrameAt(scene, camera, x, y);
    if (frame) return this.asShown(frame);
    const painted = layersAt(artworkAt(session, px, py), camera, px, py, true);
    return (
      atLevel(session.doc, painted, this.level()) ??
      this.pieceAt(x, y) ??
      atLevel(session.doc, this.layersAt(px, py), this.level())
    );
  }

  /** Whether something selected is at a point. */
  holds({ x, y, px, py }: Pointer): boolean {
    if (selectedLayerAt(this.host, px, py)) return true;
    const piece = this.pieceAt(x, y);
    return !!piece && this.host.session.selection.has(piece.id);
  }

  /** The drawn element at a point of the plane and the groups around it, as they are shown. */
  layersAt(px: number, py: number): Layer[] {
    return layersAt(artworkAt(this.host.session, px, py), this.host.camera, px, py);
  }

  /** Goes where the selection is, if it is in artwork. */
  follow(): void {
    this.entered = this.level();
  }

  /** One step out of the artwork, to the group around what is selected. Answers whether there was one. */
  goOut(): boolean {
    const { session } = this.host;
    const level = this.level();
    if (level !== null && [...session.selection].some((id) => session.doc.find('layer', id))) {
      session.select([level]);
      return true;
    }
    this.entered = null;
    return false;
  }

  private level(): string | null {
    const { doc, selection } = this.host.session;
    for (const id of selection) {
      const layer = doc.find('layer', id);
      if (layer) return levelOf(doc, layer);
    }
    return this.entered;
  }

  /** The piece at a point of the screen; on an artboard that shows an edition it is that. */
  private pieceAt(x: number, y: number): Piece | undefined {
    const piece = pieceAt(this.host.scene, this.host.camera, x, y);
    return piece && this.asShown(piece);
  }

  private asShown(piece: Piece): Piece | undefined {
    const edition = shownEdition(this.host.session);
    return piece.id === edition?.artboardId ? this.host.scene.pieceById.get(edition.id) : piece;
  }
}
