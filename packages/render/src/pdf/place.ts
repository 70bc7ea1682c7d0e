import {
  type Bounds,
  IDENTITY,
  invert,
  largestScale,
  type Matrix,
  multiply,
  type TreeNode,
  transformBounds,
} from '@tolvik/core';
import type { Style } from '../svg/style';
import type { Content, Doc } from './content';
import type { Picture } from './pictures';

/** Definitions within definitions, one in the other. */
export const DEEPEST = 60;

/** Where something is drawn. */
export type Place = {
  style: Style;
  /** User space to the initial space of the stream it is drawn in. */
  toStream: Matrix;
  /** User space to px of the page. */
  toPage: Matrix;
  /** What can be seen, in user space. */
  seen: Bounds;
  /** Colours become what a mask makes of them. */
  grey: boolean;
  depth: number;
};

/** One page's drawing: what it needs of its surroundings. */
export type Page = {
  doc: Doc;
  byId: ReadonlyMap<string, TreeNode>;
  root: TreeNode;
  pictures: ReadonlyMap<string, Picture>;
  widthPx: number;
  heightPx: number;
  /** Whether anything had to become a picture. */
  flattened: boolean;
  /** Draws what is in a node; definitions hold artwork like any other. */
  drawChildren(page: Page, node: TreeNode, place: Place, content: Content): void;
  drawNode(page: Page, node: TreeNode, parent: Place, content: Content): void;
};

export const within = (place: Place, matrix: Matrix, style = place.style): Place => ({
  ...place,
  style,
  toStream: multiply(place.toStream, matrix),
  toPage: multiply(place.toPage, matrix),
  seen: transformBounds(invert(matrix), place.seen),
});

/** The place inside a stream of its own, whose initial space is the user space here. */
export const inStream = (place: Place): Place => ({ ...place, toStream: IDENTITY });

export const decimalsFor = ({ toPage }: Place): number =>
  Math.min(10, Math.max(1, 3 + Math.ceil(Math.log10(Math.max(1e-9, largestScale(toPage))))));
