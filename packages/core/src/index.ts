/** Tolvik's computation: no interface, no Node, no network. */

export * from './acts';
export * from './arrange';
export * from './artwork';
export { type Cmyk, printCmyk, readCmyk } from './basics/cmyk';
export { groupBy } from './basics/group-by';
export { inputWords } from './basics/input-words';
export * from './basics/problem';
export { same } from './basics/same';
export { several } from './basics/several';
export * from './basics/sha256';
export { count, few, weight } from './basics/words';
export * from './checks';
export * from './compose';
export * from './document';
export * from './editions';
export * from './formats';
export * from './geometry';
export * from './handover';
export * from './outlines';
export * from './pieces';
export * from './plan';
export * from './profile';
export * from './project';
export * from './specs';
export * from './taking-back';
export * from './variants';
export * from './wire';
