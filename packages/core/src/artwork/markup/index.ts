/** XML and CSS as text: taken apart within limits, names of elements, what is told of them. What they draw is not known here. */
export { LIMITS } from './limits';
export { nameFromFile } from './names';
export { parseXml } from './parse-xml';
export * from './told';
