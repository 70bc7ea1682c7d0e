/** What is drawn where: leaves in the order of drawing, boxes around them, what is at a point. Nothing here draws. */
export * from './artwork-index';
export * from './bounds';
export * from './paints-at';
export * from './standing-out';
