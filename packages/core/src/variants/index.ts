/** Variants: artboards that follow another one, recoloured by a rule. What they draw is composed in `compose/`. */
export * from './colours-used';
export * from './following';
export * from './handover';
export * from './lockups';
