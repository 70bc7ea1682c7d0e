/** What one SVG file may hold. Each is far above real artwork and far below what hurts a machine. */
export const LIMITS = {
  fileBytes: 32 * 1024 * 1024,
  elements: 200_000,
  depth: 200,
  /** Of layers in a project: what a file may nest, in a group or two of its own. */
  nesting: 250,
  attributesPerElement: 200,
  attributeLength: 4_000_000,
  /** Of a picture inside an attribute, as Base64: nearly all that a file may be. */
  pictureLength: 31 * 1024 * 1024,
  /** How many definitions may refer to each other in a row: a clip that is clipped, and so on. */
  references: 50,
  /** Pictures of SVG in pictures of SVG. */
  picturesInside: 3,
  /** Elements after `use` has been resolved into copies. */
  expandedElements: 250_000,
  /** Characters that declared entities may grow to, all told. */
  entityCharacters: 1_000_000,
  entities: 1000,
  styleSheetLength: 1_000_000,
  textLength: 100_000,
} as const;
