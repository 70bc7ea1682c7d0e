import type { Check } from './check';
import { inEachFile } from './each-file';

/** More than so many are told. */
const MANY = 2000;

export const cutNodes: Check = {
  name: 'cut-nodes',
  plural: 'have nodes by the thousand',
  about: 'A file for cutting has so many nodes that a machine stutters along them.',
  example: 'A traced drawing in a spec for cutting.',
  look: (looked) =>
    inEachFile(looked, ({ cut }) =>
      cut && cut.nodes > MANY
        ? { severity: 'hint', message: `has ${cut.nodes.toLocaleString('en')} nodes to cut along` }
        : null,
    ),
};
