import Sequencer from '@jest/test-sequencer';

/** What takes minutes, the longest first: begun last, one core would do nothing until the end of it. */
const LONG = [
  'torture/test/torture',
  'cli/test/cli',
  'cli/test/keeps-its-word',
  'server/test/hand-overs',
  'server/test/backup',
  'fidelity/test/fidelity',
  'fidelity/test/generations',
];

/** The order that Jest gives files of tests to its workers: long ones first. None depends on it. */
export default class LongFirst extends Sequencer {
  sort(tests) {
    const rank = ({ path }) => {
      const at = LONG.findIndex((long) => path.endsWith(`${long}.test.ts`));
      return at < 0 ? LONG.length : at;
    };
    return super.sort(tests).sort((a, b) => rank(a) - rank(b));
  }
}
