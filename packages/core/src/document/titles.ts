import { isKindOfThing, meansNothing } from './given-names';
import type { Layer } from './records';

/** What an element without a name is called. */
const TAGS: Record<string, string> = {
  g: 'group',
  path: 'path',
  rect: 'rectangle',
  circle: 'circle',
  ellipse: 'ellipse',
  line: 'line',
  polyline: 'line',
  polygon: 'polygon',
  text: 'text',
  image: 'picture',
};

/** Whether a layer's name says nothing but what it is, as a program gives it. */
export const isProgramsName = (name: string): boolean => meansNothing(name) || isKindOfThing(name);

/** A layer called otherwise; what its drawing calls it is kept, and is forgotten when it is called so again. */
export function renamedLayer(layer: Layer, name: string): Layer {
  const { drawnName = layer.name, ...rest } = layer;
  return name === drawnName ? { ...rest, name } : { ...rest, name, drawnName };
}

/** A layer as people are told of it: its name, else what it is. */
export const layerTitle = ({ name, tag }: Pick<Layer, 'name' | 'tag'>): string => name || TAGS[tag] || tag;
