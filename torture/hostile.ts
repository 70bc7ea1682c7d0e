import { fork } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asEdit, newId, type ProjectRecord } from '@tolvik/core';
import { root } from '../scripts/parts/machine.mjs';
import { type Bait, corpus, type Hostile, svg } from './corpus';
import { type All, type Answer, percentile, startAll } from './server';

export type Outcome = { name: string; kind: string; ok: boolean; what: string; ms: number };
export type HostileResult = {
  outcomes: Outcome[];
  p99: number;
  p999: number;
  worst: number;
  asked: number;
  failed: number;
  fetched: string[];
  ends: number;
  slow: { at: number; ms: number; ask: number }[];
};

/** A picture of one px whose colour no drawing of ours has. */
const CANARY = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVQI12P4f2oLAAUEAnO5pWrIAAAAAElFTkSuQmCC',
  'base64',
);

type Choice = { only?: (hostile: Hostile) => boolean; every?: number; log?(words: string): void };

/**
 * Sends every hostile input to a real server and looks what became of it: that it came in or was refused as it must,
 * that nothing was answered with 500, that nothing was fetched or read, and how long all others had to wait meanwhile.
 */
export async function hostile({ only = () => true, every = 1, log = () => {} }: Choice = {}): Promise<HostileResult> {
  const fetched: string[] = [];
  const baitServer = createServer((req, res) => {
    fetched.push(String(req.url));
    res.end();
  });
  await new Promise<void>((resolve) => baitServer.listen(0, '127.0.0.1', resolve));
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-canary-'));
  const bait: Bait = {
    url: `http://127.0.0.1:${(baitServer.address() as { port: number }).port}`,
    file: join(folder, 'canary.png'),
  };
  writeFileSync(bait.file, CANARY);

  // Shorter limits than a person would be given, so that hundreds of heavy drawings take minutes.
  const all = await startAll({ TOLVIK_FILE_SECONDS: '3', TOLVIK_PROJECT_SECONDS: '10' });
  const outcomes: Outcome[] = [];
  const watched = await all.project('Watched');
  await all.bringIn(watched, { 'a.svg': svg('<path d="M0 0h9v9z"/>'), 'b.svg': svg('<circle r="3"/>') });
  const probe = fork(join(root, 'torture', 'probe.mjs'), [all.url, watched], { execArgv: [] });
  const list = corpus()
    .filter(only)
    .filter((_, i) => i % every === 0);
  for (const [i, each] of list.entries()) {
    const from = performance.now();
    let what: string;
    try {
      what = await tried(all, each, bait);
    } catch (error) {
      what = `the test itself failed: ${error instanceof Error ? error.message : String(error)}`;
    }
    const ms = performance.now() - from;
    outcomes.push({ name: each.name, kind: each.kind, ok: what === '', what, ms });
    if (what || ms > 5000)
      log(
        `${i + 1}/${list.length} ${each.kind}: ${each.name.slice(0, 70)}: ${Math.round(ms)} ms${what ? ` — ${what.slice(0, 300)}` : ''}`,
      );
  }
  const { times, failed, slow } = await new Promise<{ times: number[]; failed: number; slow: HostileResult['slow'] }>(
    (resolve) => {
      probe.once('message', (message) =>
        resolve(message as { times: number[]; failed: number; slow: HostileResult['slow'] }),
      );
      probe.send('stop');
    },
  );
  const { ends } = all;
  await all.close();
  baitServer.closeAllConnections();
  baitServer.close();
  rmSync(folder, { recursive: true });
  return {
    outcomes,
    p99: percentile(times, 99),
    p999: percentile(times, 99.9),
    worst: Math.max(...times),
    asked: times.length,
    failed,
    fetched,
    ends,
    slow,
  };
}

/** What went wrong with one input, in words; empty when nothing did. */
async function tried(all: All, hostile: Hostile, bait: Bait): Promise<string> {
  const ends = all.ends;
  const what = await knocked(all, hostile, bait);
  if (all.ends > ends) {
    await all.start();
    return `the server ended; ${what}`;
  }
  return what;
}

const refusedWell = ({ status, text }: Answer): boolean =>
  status >= 400 &&
  status < 500 &&
  (/"detail":"[^"]{5,}/.test(text) || /"message":"[^"]{5,}/.test(text) || status === 404 || status === 400);
const isServerFault = ({ status }: Answer): boolean => status === 0 || status >= 500;
const said = ({ status, text }: Answer): string => `${status} ${text.slice(0, 160)}`;

async function knocked(all: All, hostile: Hostile, bait: Bait): Promise<string> {
  const { must } = hostile;
  switch (hostile.door) {
    case 'bring-in': {
      const id = await all.project('Hostile');
      const answer = await all.bringIn(id, hostile.files(bait));
      if (answer.status !== 200) return must !== 'in' && refusedWell(answer) ? '' : `answered ${said(answer)}`;
      const { report, change } = all.json<{
        report: { file: string; problem?: { message?: string } }[];
        change: unknown;
      }>(answer);
      const cameIn = change !== null;
      if (report.some(({ problem }) => problem && !problem.message)) return 'a refusal without a sentence';
      if (must === 'in' && !cameIn) return `nothing came in: ${report[0]?.problem?.message}`;
      if (must === 'refused' && cameIn) return 'it came in';
      const trouble = cameIn ? await lookedAt(all, id, bait) : '';
      await all.call('DELETE', `/projects/${id}`);
      return trouble;
    }
    case 'open': {
      const form = new FormData();
      form.append('files', new File([hostile.file(bait) as BlobPart], 'project.svg'));
      const answer = await all.call('POST', '/projects/open', form);
      if (answer.status !== 201) return must !== 'in' && refusedWell(answer) ? '' : `answered ${said(answer)}`;
      const { id } = all.json<{ id: string }>(answer);
      if (must === 'refused') return 'it was opened';
      const trouble = await lookedAt(all, id, bait);
      await all.call('DELETE', `/projects/${id}`);
      return trouble;
    }
    case 'edit': {
      const id = await all.project('Hostile');
      await all.bringIn(id, { 'a.svg': svg('<g><path d="M0 0h9v9z"/></g>') });
      const { version, records } = all.json<{ version: number; records: ProjectRecord[] }>(
        await all.call('GET', `/projects/${id}/records`),
      );
      const group = records.find((record) => record.kind === 'layer' && record.tag === 'g') as ProjectRecord;
      const board = records.find((record) => record.kind === 'artboard') as ProjectRecord;
      const made = hostile.edit({ layerId: group.id, boardId: board.id, version });
      const answer = await all.post(`/projects/${id}/edits`, {
        ...asEdit({ label: 'x', puts: [], removes: [] }, version),
        id: newId(),
        ...made,
      });
      if (isServerFault(answer)) return `answered ${said(answer)}`;
      if (must === 'in' && answer.status !== 200) return `answered ${said(answer)}`;
      if (must === 'refused' && !refusedWell(answer)) return `answered ${said(answer)}`;
      const after = all.json<{ version: number; records: ProjectRecord[] }>(
        await all.call('GET', `/projects/${id}/records`),
      );
      if (
        must === 'refused' &&
        (after.version !== version ||
          JSON.stringify(after.records.map(({ id: each }) => each).sort()) !==
            JSON.stringify(records.map(({ id: each }) => each).sort()))
      )
        return 'it changed the project';
      const trouble = answer.status === 200 ? await lookedAt(all, id, bait) : '';
      await all.call('DELETE', `/projects/${id}`);
      return trouble;
    }
    case 'json': {
      const id = await all.project('Hostile');
      const answer = await all.call(hostile.method, hostile.path.replace(':id', id), hostile.body(), {
        'content-type': 'application/json',
        ...hostile.headers,
      });
      if (isServerFault(answer)) return `answered ${said(answer)}`;
      return must === 'refused' && !refusedWell(answer) ? `answered ${said(answer)}` : '';
    }
    case 'get': {
      const id = await all.project('Hostile');
      const answer = await all.call('GET', hostile.path.replace(':id', id));
      // An address that climbs out of the API shows the app's page, as any other does.
      if (isServerFault(answer) || (answer.status < 400 && !answer.text.startsWith('<!doctype html>')))
        return `answered ${said(answer)}`;
      return '';
    }
    case 'raw': {
      const id = await all.project('Hostile');
      const text = await sentRaw(all.port, hostile.bytes(all.port, id));
      const status = Number(/^HTTP\/1\.\d (\d{3})/.exec(text)?.[1] ?? 0);
      return status >= 500 || (status >= 200 && status < 300) ? `answered ${text.slice(0, 120)}` : '';
    }
    case 'font': {
      const id = await all.project('Hostile');
      const form = new FormData();
      form.append('files', new File([hostile.file() as BlobPart], 'font.ttf'));
      const answer = await all.call('POST', `/projects/${id}/fonts`, form);
      return refusedWell(answer) ? '' : `answered ${said(answer)}`;
    }
  }
}

/** A project that came in is looked at in every way there is: none of it may be a fault of the server, or hold what acts or reaches out. */
async function lookedAt(all: All, id: string, bait: Bait): Promise<string> {
  const heavy = ({ text }: Answer) => text.includes('project.heavy') || text.includes('render.');
  const ask = async (path: string): Promise<Answer | string> => {
    const answer = await all.call('GET', path);
    if (answer.status === 200 || (answer.status === 422 && heavy(answer)) || answer.status === 404) return answer;
    return `${path.replace(id, ':id')} answered ${said(answer)}`;
  };
  for (const path of [`/projects/${id}/records`, `/projects/${id}/cover.png`, `/projects/${id}/findings`]) {
    const answer = await ask(path);
    if (typeof answer === 'string') return answer;
  }
  const file = await ask(`/projects/${id}/project.svg`);
  if (typeof file === 'string') return file;
  // A project file is checked without the data in it, which is text about artwork and not artwork.
  const trouble = actsIn(file.text.replace(/<metadata>[\s\S]*<\/metadata>/, ''), bait);
  if (trouble) return `the project file holds ${trouble}`;
  const plan = await ask(`/projects/${id}/plan`);
  if (typeof plan === 'string') return plan;
  if (plan.status !== 200) return '';
  const { files } = all.json<{ files: { pieceId: string; outputId: string; format: string; problem?: string }[] }>(
    plan,
  );
  for (const { pieceId, outputId, format, problem } of files.slice(0, 3)) {
    const answer = await ask(`/projects/${id}/files/${pieceId}/${outputId}`);
    if (typeof answer === 'string' && !problem) return answer;
    const found = typeof answer !== 'string' && format === 'svg' ? actsIn(answer.text, bait) : '';
    if (found) return `an exported SVG holds ${found}`;
  }
  return '';
}

/** What in an SVG would act, or reach out of it. */
function actsIn(text: string, bait: Bait): string {
  for (const [what, pattern] of Object.entries(ACTING)) if (pattern.test(text)) return what;
  if (text.includes(bait.url.slice('http:'.length)) && /(?:href|src|url)[^"<>]*127/i.test(text))
    return 'the address of the bait';
  return '';
}

const ACTING = {
  'a script': /<(?:\w+:)?script/i,
  'an event': /<[^>]+\son\w+\s*=/i,
  'a page': /<(?:\w+:)?foreignObject/i,
  'an animation': /<(?:\w+:)?(?:animate|set)\b/i,
  'a link that acts': /href\s*=\s*["']\s*javascript/i,
  'a reference to outside': /href\s*=\s*["'](?!#|data:image\/(?:png|jpeg|webp|gif);base64,)[^"']/i,
  'a value that loads': /(?:url|src|image-set|image|cross-fade)\(\s*(?:&quot;|["'])?(?!#|&quot;#)[^)#]/i,
  'an import': /@import/i,
};

/** Sends bytes as they are, ends the sending half, and answers what came back within a few seconds. */
function sentRaw(port: number, bytes: Uint8Array): Promise<string> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    let text = '';
    const done = () => {
      socket.destroy();
      resolve(text);
    };
    socket.setTimeout(4000, done);
    socket.on('data', (chunk) => (text += chunk.toString('latin1')));
    socket.on('end', done);
    socket.on('close', done);
    socket.on('error', done);
    socket.write(bytes, () => setTimeout(() => socket.end(), 300));
  });
}
