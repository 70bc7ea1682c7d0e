import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { cpus, tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { intoDocument } from '../scripts/parts/documents.mjs';
import { freePort, root } from '../scripts/parts/machine.mjs';
import { startPostgres } from '../scripts/parts/postgres.mjs';
import { bareLibraries, pdfAgainstConverter, processPerFile } from './against';
import { layersReplaced, machineMs, median, planAndChecks } from './core-work';
import { benchFrames } from './frames';
import { sentToIntake, startIntakes, watched } from './handover';
import { proofFirstScreen, proofScroll } from './in-browser';
import { combinationsMade, editionsChanged, followersChanged } from './many-from-one';
import { outlinesASecond } from './outlines';
import { startServerProcess } from './server-process';

/**
 * Measures the product against the bare libraries doing the same work on as many workers, and against
 * one render process per file, all in one run on one machine; what counts are the ratios.
 */
const PIECES = Number(process.env.PIECES ?? 1000);
const SAMPLE_OF_PROCESSES = 60;
/** The machine gets faster and slower within a minute: what is held against each other is measured by turns, so often. */
const TURNS = 3;
const now = () => performance.now() / 1000;

const icons = join(dirname(createRequire(import.meta.url).resolve('lucide-static/package.json')), 'icons');
const names = readdirSync(icons).filter((name) => name.endsWith('.svg'));
const all = names.map((name) => ({
  name,
  text: readFileSync(join(icons, name), 'utf8').replace(/currentColor/g, '#171b1c'),
}));
const sources = all.slice(0, PIECES);

const folder = mkdtempSync(join(tmpdir(), 'tolvik-bench-'));
const postgres = await startPostgres({ folder, port: await freePort() });
const intakes = await startIntakes();
const server = await startServerProcess(postgres.url, { TOLVIK_INTAKES: intakes.addresses.join(';') });
const rows: { what: string; value: string; goal: string; met: boolean }[] = [];
const row = (what: string, value: string, goal: string, met: boolean) => {
  rows.push({ what, value, goal, met });
  console.log(`${met ? 'ok ' : '!! '} ${what.padEnd(64)} ${value.padEnd(22)} ${goal}`);
};

try {
  console.log(`${PIECES} icons × 6 outputs, ${server.workers} workers\n`);
  const machine = [machineMs()];
  const bringInFrom = now();
  const projectId = await server.projectOf(sources);
  const bringIn = now() - bringInFrom;

  const first = await server.deliver(projectId);
  const again = await server.deliver(projectId);
  const peakMb = server.peakMb();
  // The rate is measured on twice as many, in a colour of their own, so that nothing of them was made before.
  const inColour = (count: number, colour: string) =>
    Array.from({ length: count }, (_, i) => ({
      name: `${i}-${sources[i % sources.length].name}`,
      text: all[i % all.length].text.replace(
        /#171b1c/g,
        `#${(Number.parseInt(colour, 16) + Math.floor(i / all.length)).toString(16).padStart(6, '0')}`,
      ),
    }));
  const turns: { rate: number; bare: number }[] = [];
  const files = PIECES * 2 * 6;
  for (let i = 0; i < TURNS; i++) {
    const twice = inColour(PIECES * 2, `20304${i * 4}`);
    const { seconds, failed } = await server.deliver(await server.projectOf(twice));
    if (failed > 0) throw new Error(`${failed} files failed`);
    turns.push({ rate: files / seconds, bare: files / (await bareLibraries(twice, server.workers)) });
  }
  const rate = median(turns.map((turn) => turn.rate));
  const bare = median(turns.map((turn) => turn.bare));
  const against = median(turns.map((turn) => turn.rate / turn.bare));
  machine.push(machineMs());
  const fourfold = await server.deliver(await server.projectOf(inColour(PIECES * 4, '402030')));
  const single = await processPerFile(sources.slice(0, Math.ceil(SAMPLE_OF_PROCESSES / 6)), folder);

  row('bring in 1,000 files, s', bringIn.toFixed(2), '≤ 20 (500 in 10)', bringIn <= (20 * PIECES) / 1000);
  row('files a second: product', rate.toFixed(0), '', first.failed === 0);
  row('files a second: bare libraries, as many workers', bare.toFixed(0), '', true);
  row('product against bare libraries, by turns', against.toFixed(2), '≥ 0.90', against >= 0.9);
  const growth = fourfold.seconds / (4 * first.seconds);
  row('four times as many files, of linear', growth.toFixed(2), '≤ 1.05', growth <= 1.05);
  const pdfs = await pdfAgainstConverter(sources.slice(0, 400));
  row('PDF: ours against the converter', `${pdfs.toFixed(1)} ×`, '≥ 2', pdfs >= 2);
  row('files a second: a native process a file, two at a time', single.perSecond.toFixed(1), '', true);
  row(
    'product against a native process a file',
    (rate / single.perSecond).toFixed(1),
    '≥ 4',
    rate / single.perSecond >= 4,
  );
  row(
    'the same export again, share of the first',
    `${((100 * again.seconds) / first.seconds).toFixed(1)} %`,
    '≤ 5 %',
    again.seconds / first.seconds <= 0.05,
  );
  row('server process, peak MB', peakMb.toFixed(0), '< 400', peakMb < 400);

  const warm = median([
    await proofFirstScreen(server.url, projectId),
    await proofFirstScreen(server.url, projectId),
    await proofFirstScreen(server.url, projectId),
  ]);
  row('Proof: first screen of true cells, all made before, s', warm.toFixed(2), '≤ 0.5', warm <= 0.5);
  // A mark of its own in every file, so that none was made before.
  const unseen = await server.projectOf(
    sources.map(({ name, text }) => ({ name, text: text.replace('</svg>', '<path d="M1 1h1"/></svg>') })),
  );
  const cold = await proofFirstScreen(server.url, unseen);
  row('Proof: first screen of true cells, none made before, s', cold.toFixed(2), '≤ 1.2', cold <= 1.2);
  const scroll = median([
    await proofScroll(server.url, projectId),
    await proofScroll(server.url, projectId),
    await proofScroll(server.url, projectId),
  ]);
  row('Proof, 1,000 × 6: scrolling, p95 frame, ms', scroll.toFixed(1), '≤ 20', scroll <= 20);

  const core = planAndChecks(sources);
  row('plan of 6,000 files after an edit, ms', core.plan.toFixed(1), '≤ 100', core.plan <= 100);
  row('every check over 1,000 pieces, ms', core.allChecks.toFixed(0), '≤ 1000', core.allChecks <= 1000);
  row('checks again after one edit, ms', core.recheck.toFixed(1), '≤ 50', core.recheck <= 50);

  const outlines = await outlinesASecond();
  row('outlines in one ink a second, one core', outlines.toFixed(0), '≥ 20', outlines >= 20);
  const replaced = layersReplaced();
  row(
    '2,000 layers replaced, 40 editions and 200 slices on them, ms',
    replaced.ms.toFixed(0),
    '≤ 200',
    replaced.ms <= 200 && replaced.kept === 2001 && replaced.asked === 0,
  );
  const made = combinationsMade();
  row(
    `${made.count} editions from combinations, ms`,
    made.ms.toFixed(0),
    '≤ 2000',
    made.count === 200 && made.ms <= 2000,
  );
  const followers = await followersChanged(server, sources);
  row(
    'source with 40 followers redrawn: a screen of true cells, s',
    followers.seconds.toFixed(2),
    '≤ 1',
    followers.seconds <= 1,
  );
  row(
    '… files rendered again, of all',
    `${followers.rendered} of ${followers.total}`,
    '246',
    followers.rendered === 246,
  );
  row(
    '… on the Bench: the frame in which all followers are right',
    `${followers.bench.frames} (${followers.bench.ms.toFixed(0)} ms)`,
    'the first',
    followers.bench.frames === 1,
  );
  const editions = await editionsChanged(server);
  row(
    'base with 200 editions redrawn: a screen of true cells, s',
    editions.seconds.toFixed(2),
    '≤ 1',
    editions.seconds <= 1,
  );
  row(
    '… files rendered again, of all',
    `${editions.rendered} of ${editions.total}`,
    '1200',
    editions.rendered === 1200,
  );

  const frames = await benchFrames(server.url, projectId);
  row(
    'Bench, 1,000 artboards: first picture after its data, s',
    frames.firstPicture.toFixed(2),
    '≤ 1',
    frames.firstPicture <= 1,
  );
  row('Bench, 1,000: pan at every zoom, p95 frame, ms', frames.pan.p95.toFixed(1), '≤ 20', frames.pan.p95 <= 20);
  row('Bench, 1,000: zoom in and out, p95 frame, ms', frames.zoom.p95.toFixed(1), '≤ 20', frames.zoom.p95 <= 20);
  row('Bench, 1,000: one artboard dragged, p95 frame, ms', frames.drag.p95.toFixed(1), '≤ 20', frames.drag.p95 <= 20);
  const tasks = frames.pan.longTasks + frames.zoom.longTasks + frames.drag.longTasks;
  row('Bench, 1,000: tasks over 50 ms during gestures', String(tasks), '0', tasks === 0);
  const many = await server.projectOf(
    Array.from({ length: 3 }, (_, i) => sources.map(({ name, text }) => ({ name: `${i}-${name}`, text }))).flat(),
  );
  const crowd = await benchFrames(server.url, many);
  row(
    'Bench, 3,000 artboards: all in view, panned, p95 frame, ms',
    crowd.all.p95.toFixed(1),
    '≤ 50',
    crowd.all.p95 <= 50,
  );
  const small = await server.projectOf(sources.slice(0, 10));
  const pairs: number[] = [];
  for (let i = 0; i < 5; i++) pairs.push((await server.editSeconds(many)) / (await server.editSeconds(small)));
  const edits = median(pairs);
  row('one edit in 3,000 artboards against one in 10', edits.toFixed(2), '≤ 1.5', edits <= 1.5);

  const huge = await server.projectOf(inColour(PIECES * 10, '305020'));
  const crowds = await benchFrames(server.url, huge, 15_000);
  const [pan, zoom] = [crowds.pan.p95, crowds.zoom.p95];
  row(
    'Bench, 10,000 artboards: first picture after its data, s',
    crowds.firstPicture.toFixed(2),
    '≤ 3',
    crowds.firstPicture <= 3,
  );
  row(
    'Bench, 10,000: panned and zoomed, p95 frame, ms',
    `${pan.toFixed(1)}, ${zoom.toFixed(1)}`,
    '≤ 20',
    Math.max(pan, zoom) <= 20,
  );
  row('Bench, 10,000: the page, MB', crowds.pageMb.toFixed(0), '≤ 1536', crowds.pageMb <= 1536);

  const saved = await watched(all.slice(0, 500));
  row('watch of 500 icons: one saved, its files written, s', saved.toFixed(2), '≤ 1', saved <= 1);
  const sent = await sentToIntake(server, intakes.addresses[0], sources.slice(0, 104));
  row(
    'files a second to an intake, one by one, each decoded there',
    `${((sent.taken + sent.refused) / sent.seconds).toFixed(0)} (${sent.refused} refused)`,
    '',
    sent.taken > 0,
  );
  machine.push(machineMs());
  row(
    'this machine: a piece of work that is none of ours, now and then, ms',
    machine.map((ms) => ms.toFixed(0)).join(', '),
    '',
    true,
  );
} finally {
  await server.close();
  intakes.close();
  await postgres.stop();
  rmSync(folder, { recursive: true, force: true });
}
const machine = `${PIECES} pieces, ${new Date().toISOString().slice(0, 10)}, Node.js ${process.version}, ${cpus().length} × ${cpus()[0]?.model.trim()}.`;
const table = rows.map(
  ({ what, value, goal, met }) => `| ${what} | ${value} | ${goal} | ${goal && !met ? 'missed' : ''} |`,
);
intoDocument(
  join(root, 'docs', 'performance.md'),
  'results',
  [machine, '', '| what | measured | goal | |', '|---|---|---|---|', ...table].join('\n'),
);
process.exit(0);
