import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

const root = join(__dirname, '../..');

test('a part of the features comes out as it went in, or somebody is told', () => {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [join(root, 'scripts/fidelity.mjs'), 'features', '--every', '11'],
    { cwd: root, encoding: 'utf8', timeout: 600_000 },
  );
  expect(`${stdout}${stderr}`).toMatch(/\n\d{2,} files, 0 refused\./);
  expect(stdout).toMatch(/\| SVG \| \d+ \| \d+ \| 0 \| 0 \|/);
  expect(stdout).toMatch(/\| PNG \| \d+ \| \d+ \| \d+ \| 0 \|/);
  expect(stdout).toMatch(/\| PDF \| \d+ \| \d+ \| \d+ \| 0 \|/);
  expect(status).toBe(0);
}, 700_000);
