import { nameOfNew } from '../src/shelf/name-of-new';

const file = (path: string) => ({
  name: path.split('/').at(-1) ?? '',
  webkitRelativePath: path.includes('/') ? path : '',
});

test.each([
  [[], 'New project'],
  [['harbour icons.svg'], 'harbour icons'],
  [['set.v2.zip'], 'set.v2'],
  [['.svg'], '.svg'],
  [['anchor.svg', 'boat.svg', 'crab.svg'], 'anchor and 2 more'],
  [['shore/anchor.svg', 'shore/small/boat.svg'], 'shore'],
  [['shore/anchor.svg', 'sea/boat.svg'], 'anchor and 1 more'],
])('%j becomes “%s”', (paths, name) => expect(nameOfNew(paths.map(file))).toBe(name));
