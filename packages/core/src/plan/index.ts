/** Which files there will be: sizes, names, folders, clashes. Nothing here draws. */
export * from './names';
export * from './output-words';
export * from './plan';
