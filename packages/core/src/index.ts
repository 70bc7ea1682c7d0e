/** Tolvik's computation: no interface, no Node, no network. */

export * from './acts';
export * from './arrange';
export * from './artwork';
export * from './checks';
export * from './compose';
export * from './document';
export * from './editions';
export * from './outputs';
export * from './outputs/spec-file';
export * from './outputs/spec-library';
export * from './pieces';
export * from './plan';
export * from './problem';
export * from './project';
export * from './variants';
