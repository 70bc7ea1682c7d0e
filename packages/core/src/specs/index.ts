/** Specs apart from a project: saved as JSON, and ready-made. What an output says is records', what it makes the plan's. */
export * from './outputs-in-words';
export * from './said-files';
export * from './spec-file';
export * from './spec-library';
export * from './vary-output';
