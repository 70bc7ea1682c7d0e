/** Handover: what a folder holds against what a delivery wants. No file is read or written here. */
export { fits } from '../basics/fits';
export * from './disk';
export * from './intake-rules';
export * from './one-name';
export * from './page';
export * from './receipt';
export * from './steps';
export * from './takes';
export * from './writing';
