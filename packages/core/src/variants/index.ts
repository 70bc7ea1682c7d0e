/** Variants: artboards that follow another one, recoloured by a rule. What they draw is composed in `compose/`. */
export * from './assign-ink';
export * from './colours-used';
export * from './following';
export * from './ink-of';
export * from './lockups';
export * from './measure';
export * from './meetings';
export * from './proposals';
export { lightenedFor, READABLE, reversedOn, VISIBLE } from './reversed';
