import type { ProjectDocument } from '../../document/document';
import { chosenArtboards, chosenLayers, chosenPieces } from './chosen';

type Chosen = ReadonlySet<string>;

/** What an act needs to be selected: null when it is, else in which words it is missing. */
const NEEDS = {
  nothing: () => null,
  anything: (_doc, chosen) => (chosen.size > 0 ? null : 'Nothing is selected'),
  several: (_doc, chosen) => (chosen.size > 1 ? null : 'Two or more have to be selected'),
  layers: (doc, chosen) => (chosenLayers(doc, chosen).length > 0 ? null : 'No layer is selected'),
  layer: (doc, chosen) => (chosenLayers(doc, chosen).length === 1 ? null : 'One layer has to be selected'),
  groups: (doc, chosen) =>
    chosenLayers(doc, chosen).length === 0
      ? 'No layer is selected'
      : chosenLayers(doc, chosen).some(({ tag }) => tag === 'g')
        ? null
        : 'No group is selected',
  artboards: (doc, chosen) => (chosenArtboards(doc, chosen).length > 0 ? null : 'No artboard is selected'),
  severalArtboards: (doc, chosen) =>
    chosenArtboards(doc, chosen).length > 1 ? null : 'Two artboards or more have to be selected',
  pieces: (doc, chosen) => (chosenPieces(doc, chosen).length > 0 ? null : 'No piece is selected'),
  piece: (doc, chosen) => (chosenPieces(doc, chosen).length === 1 ? null : 'One piece has to be selected'),
} satisfies Record<string, (doc: ProjectDocument, chosen: Chosen) => string | null>;

export type Need = keyof typeof NEEDS;

/** In which words what an act needs is missing; null when all is there. */
export const missing = (need: Need, doc: ProjectDocument, chosen: Chosen): string | null => NEEDS[need](doc, chosen);
