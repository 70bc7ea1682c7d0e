/**
 * Simulated intakes, for trying and for tests: small HTTP servers with rules of their own that decode each file they
 * get and refuse wrong ones in words. What an intake is to Tolvik is in `server/src/receivers/intake.ts`.
 */
export { decoded } from './decoded';
export * from './intake-server';
export { KINDS, type StandInKind } from './kinds';
