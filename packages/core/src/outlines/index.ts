export { type InkStep, inkSteps } from './ink-steps';
export { NoOutline, type PathKernel } from './kernel';
export { type Outline, outlineOf, WAYS, type Way } from './outline';
export * from './shape-attributes';
