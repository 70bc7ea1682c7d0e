/** Style sheets and the cascade, worked out into the attributes of each element. Afterwards nothing depends on a sheet. */

export { fontMeasures } from './font-measures';
export * from './inherited';
