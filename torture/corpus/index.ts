import { drawings } from './drawings';
import type { Hostile } from './hostile';
import { requests } from './requests';

/** Every hostile input there is, by door and kind, made in code. */
export const corpus = (): Hostile[] => [...drawings(), ...requests()];
export * from './hostile';
