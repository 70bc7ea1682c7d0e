/** Editions hold only differences from the base of their artboard; here they are made, one or many at once, listed and taken back. */
export * from './make';
export * from './overrides';
export * from './shown-artwork';
export * from './table';
