import { readFileSync } from 'node:fs';
import { GLOSSARY } from '../src/commands/glossary';

const said = readFileSync(new URL('../../../docs/glossary.md', import.meta.url), 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| '))
  .slice(1);

test('the app and its documents have the same words, each once, in their order', () => {
  expect(said).toEqual(GLOSSARY.map(([word, meaning]) => `| ${word} | ${meaning} |`));
  const words = GLOSSARY.map(([word]) => word.toLowerCase());
  expect(words).toEqual([...new Set(words)].sort((a, b) => a.localeCompare(b, 'en')));
});
