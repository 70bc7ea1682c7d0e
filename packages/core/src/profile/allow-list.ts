/** The only elements and attributes that artwork may keep (SVG 2). Everything else is dropped and told. */

export const SHAPES = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon']);
export const DRAWN = new Set([...SHAPES, 'g', 'text', 'image']);
export const PAINT_SERVERS = new Set(['linearGradient', 'radialGradient', 'pattern']);
export const DEFINITIONS = new Set([...PAINT_SERVERS, 'clipPath', 'mask', 'filter', 'marker']);

const FILTER_PRIMITIVES =
  'feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feMerge feMergeNode feMorphology feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence'.split(
    ' ',
  );
export const INSIDE_DEFINITIONS = new Set(['stop', ...FILTER_PRIMITIVES]);

/** Elements whose loss is worth a word; others of no effect (metadata, title, comments) go silently. */
export const TOLD_WHEN_DROPPED: Record<string, string> = {
  script: 'a script',
  foreignObject: 'a foreignObject (web page content)',
  animate: 'an animation',
  animateMotion: 'an animation',
  animateTransform: 'an animation',
  set: 'an animation',
  iframe: 'an embedded page',
  video: 'a video',
  audio: 'a sound',
  feImage: 'a picture inside a filter',
};

/** Presentation attributes (SVG 2 §6.6) that renderers here honour; `inherits` as that section says. */
export const INHERITED = new Set(
  'clip-rule color color-interpolation color-interpolation-filters direction dominant-baseline fill fill-opacity fill-rule font-family font-size font-stretch font-style font-variant font-weight image-rendering letter-spacing marker-end marker-mid marker-start paint-order shape-rendering stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor text-rendering visibility word-spacing writing-mode'.split(
    ' ',
  ),
);
const NOT_INHERITED =
  'alignment-baseline baseline-shift clip-path display filter flood-color flood-opacity isolation lighting-color mask mask-type mix-blend-mode opacity overflow stop-color stop-opacity text-decoration vector-effect'.split(
    ' ',
  );
export const PRESENTATION = new Set([...INHERITED, ...NOT_INHERITED]);

const GEOMETRY =
  'd x y x1 y1 x2 y2 cx cy r rx ry fx fy fr width height points offset pathLength transform gradientTransform gradientUnits patternTransform patternUnits patternContentUnits spreadMethod clipPathUnits maskUnits maskContentUnits filterUnits primitiveUnits markerUnits markerWidth markerHeight orient refX refY viewBox preserveAspectRatio dx dy rotate textLength lengthAdjust path startOffset side'.split(
    ' ',
  );
const FILTER_ATTRIBUTES =
  'in in2 result type values mode operator k1 k2 k3 k4 radius stdDeviation tableValues slope intercept amplitude exponent order kernelMatrix divisor bias targetX targetY edgeMode preserveAlpha surfaceScale diffuseConstant specularConstant specularExponent kernelUnitLength azimuth elevation z pointsAtX pointsAtY pointsAtZ limitingConeAngle scale xChannelSelector yChannelSelector baseFrequency numOctaves seed stitchTiles'.split(
    ' ',
  );

export const ATTRIBUTES = new Set([...PRESENTATION, ...GEOMETRY, ...FILTER_ATTRIBUTES]);

/** Attributes that hold a number of px (or of the bounding box): units are resolved on reading. */
export const LENGTHS_X = new Set(['x', 'x1', 'x2', 'cx', 'fx', 'rx', 'width', 'dx', 'refX', 'markerWidth']);
export const LENGTHS_Y = new Set(['y', 'y1', 'y2', 'cy', 'fy', 'ry', 'height', 'dy', 'refY', 'markerHeight']);
export const LENGTHS_DIAGONAL = new Set([
  'r',
  'fr',
  'stroke-width',
  'stroke-dashoffset',
  'font-size',
  'letter-spacing',
  'word-spacing',
]);
/** Lengths that may not be negative; a negative one draws nothing, so it is dropped and told. */
export const NOT_NEGATIVE = new Set(['width', 'height', 'r', 'rx', 'ry', 'stroke-width', 'font-size']);

/** Attributes by which a group is drawn as one, so that what is in it cannot be taken out unchanged. */
export const EFFECTS: readonly string[] = ['clip-path', 'mask', 'filter'];
export const HOLDS_TOGETHER: readonly string[] = [...EFFECTS, 'mix-blend-mode'];
