import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { intoDocument } from '../parts/documents.mjs';

test('results stand between the marks of their part, and nothing else changes', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-documents-'));
  const path = join(folder, 'a.md');
  try {
    writeFileSync(path, '# Title\n\n<!-- one -->\nold\n<!-- /one -->\n\nbetween\n\n<!-- two -->\n<!-- /two -->\n');
    intoDocument(path, 'two', '| $& | $1 |');
    intoDocument(path, 'one', 'new');
    intoDocument(path, 'one', 'newer');
    expect(readFileSync(path, 'utf8')).toBe(
      '# Title\n\n<!-- one -->\n\nnewer\n\n<!-- /one -->\n\nbetween\n\n<!-- two -->\n\n| $& | $1 |\n\n<!-- /two -->\n',
    );
    expect(() => intoDocument(path, 'three', '')).toThrow('has no place for three');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
