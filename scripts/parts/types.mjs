/** The types of every part of the repository, each checked by its own tsconfig. */
import { spawn } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { root, say } from './machine.mjs';

/** Folders with types of their own beside the packages. */
const OTHERS = ['demo', 'e2e', 'benchmarks', 'torture', 'fidelity'];

function partsWithTypes() {
  const packages = readdirSync(join(root, 'packages')).map((name) => `packages/${name}`);
  return [...packages, ...OTHERS, ...packages.map((name) => `${name}/test`)].filter((part) =>
    existsSync(join(root, part, 'tsconfig.json')),
  );
}

/** Checks one part; answers what is wrong, '' for nothing. */
function checked(part) {
  return new Promise((resolve) => {
    const child = spawn(join(root, 'node_modules', '.bin', 'tsc'), ['-p', part], { cwd: root });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.setEncoding('utf8').on('data', (text) => (said += text));
    child.on('error', (error) => resolve(error.message));
    child.on('close', (code) => resolve(code === 0 ? '' : said || `tsc ended with ${code}`));
  });
}

/** Checks all parts, as many at once as there are cores; says what is wrong. Answers how many parts are not right. */
export async function checkTypes() {
  const waiting = partsWithTypes();
  let wrong = 0;
  const worker = async () => {
    for (let part = waiting.shift(); part; part = waiting.shift()) {
      const said = await checked(part);
      if (said === '') continue;
      wrong++;
      say(`✗ types of ${part}\n${said}`);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, worker));
  return wrong;
}
