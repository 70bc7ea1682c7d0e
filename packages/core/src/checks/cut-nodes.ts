import type { Check } from './check';

/** More than so many are told. */
const MANY = 2000;

export const cutNodes: Check = {
  name: 'cut-nodes',
  plural: 'have nodes by the thousand',
  about: 'A file for cutting has so many nodes that a machine stutters along them.',
  example: 'A traced drawing in a spec for cutting.',
  look({ files, seen }) {
    return files.flatMap(({ outputId }, i) => {
      const nodes = seen[i]?.cut?.nodes ?? 0;
      return nodes > MANY
        ? [{ severity: 'hint' as const, outputId, message: `has ${nodes.toLocaleString('en')} nodes to cut along` }]
        : [];
    });
  },
};
