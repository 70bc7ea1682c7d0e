import { join } from 'node:path';
import { intoDocument } from '../scripts/parts/documents.mjs';
import { root } from '../scripts/parts/machine.mjs';
import { type ChurnResult, churn } from './churn';
import { type FoldersResult, folders } from './folders';
import { type HandOversResult, handOvers } from './hand-overs';
import { type HostileResult, hostile } from './hostile';
import { type KillsResult, kills } from './kills';
import { type LoadResult, load } from './load';

/** The whole of it, bounded in count and time; `npm run torture -- hostile folders hand-overs kills load churn` does only some. Results go to docs/reliability.md. */
const asked = new Set(process.argv.slice(2));
const wanted = (part: string) => asked.size === 0 || asked.has(part);
const log = (words: string) => console.log(words);
const results: string[] = [];
let wrong = false;

const ms = (value: number) => `${Math.round(value)} ms`;

function ofHostile({ outcomes, p99, p999, worst, asked: requests, failed, fetched, ends }: HostileResult): string {
  const kinds = new Map<string, { count: number; bad: number; slowest: number }>();
  for (const { kind, ok, ms: took } of outcomes) {
    const known = kinds.get(kind) ?? { count: 0, bad: 0, slowest: 0 };
    kinds.set(kind, { count: known.count + 1, bad: known.bad + (ok ? 0 : 1), slowest: Math.max(known.slowest, took) });
  }
  const bad = outcomes.filter(({ ok }) => !ok);
  wrong ||= bad.length > 0 || fetched.length > 0 || ends > 0;
  return [
    `**Hostile inputs.** ${outcomes.length}, of which ${outcomes.length - bad.length} became what they must. The server ended ${ends} times; ${fetched.length} things were fetched or read that a file named. Meanwhile another process asked ${requests} small things: p99 ${ms(p99)}, p99.9 ${ms(p999)}, worst ${ms(worst)}, ${failed} failed.`,
    '',
    '| kind | inputs | not as they must | slowest, with all that was looked at |',
    '|---|---|---|---|',
    ...[...kinds].map(
      ([kind, { count, bad: off, slowest }]) => `| ${kind} | ${count} | ${off} | ${(slowest / 1000).toFixed(1)} s |`,
    ),
    ...bad.map(({ kind, name, what }) => `\nNot as it must: ${kind}, ${name}: ${what}`),
  ].join('\n');
}

function ofKills({
  rounds,
  killed,
  acknowledged,
  lost,
  deliveries,
  files,
  wrong: off,
  longestStallS,
}: KillsResult): string {
  wrong ||= lost > 0 || off.length > 0;
  const each = Object.entries(killed).map(([what, count]) => `${what} ${count}`);
  return `**Kills.** ${rounds} rounds (${each.join(', ')}) under 3 editors and a delivery each. ${acknowledged.toLocaleString('en')} edits were answered, ${lost} of them lost. ${deliveries} deliveries, ${files.toLocaleString('en')} files fetched and decoded, ${off.length} wrong. The longest until a delivery was done after a kill: ${longestStallS.toFixed(1)} s.${off
    .slice(0, 10)
    .map((each) => `\nWrong: ${each}`)
    .join('')}`;
}

function ofLoad({
  clients,
  windows,
  deliveries,
  seconds,
  requests,
  failed,
  p50,
  p99,
  worst,
  events,
}: LoadResult): string {
  wrong ||= failed > 0;
  return `**Load.** ${clients} clients, ${windows} windows and ${deliveries} projects being delivered again and again for ${seconds} s: ${requests.toLocaleString('en')} requests, ${failed} failed, p50 ${ms(p50)}, p99 ${ms(p99)}, worst ${ms(worst)}; ${events.toLocaleString('en')} events heard.`;
}

function ofChurn({ rounds, samples }: ChurnResult): string {
  return [
    `**Churn.** ${rounds.toLocaleString('en')} rounds of a new project, bringing in, a delivery, and deleting both; everything deleted taken away every ${samples[0]?.round ?? rounds}.`,
    '',
    '| after round | server, MB | database, MB | rows | open files |',
    '|---|---|---|---|---|',
    ...samples.map(
      ({ round, serverMb, databaseMb, rows, openFiles }) =>
        `| ${round} | ${serverMb} | ${databaseMb} | ${rows} | ${openFiles} |`,
    ),
  ].join('\n');
}

function ofFolders({ cases, swaps, bad, slowestMs, asked: requests, p99, worst }: FoldersResult): string {
  wrong ||= bad.length > 0;
  return [
    `**Folders of strangers.** ${cases} things under names that matter, before a writing and in the middle of it, and ${swaps.toLocaleString('en')} swaps of a folder for a link while files went into it: ${bad.length} not as they must. Nothing outside was reached, nothing of somebody else went; the slowest writing took ${ms(slowestMs)}. While a server wrote into such folders, read a source full of pipes and held 900 files against 200 patterns, another process asked ${requests.toLocaleString('en')} small things: p99 ${ms(p99)}, worst ${ms(worst)}.`,
    ...bad.slice(0, 20).map((each) => `\nNot as it must: ${each}`),
  ].join('\n');
}

function ofHandOvers(results: readonly [number, HandOversResult][]): string {
  wrong ||= results.some(([, each]) => each.wrong.length > 0);
  return [
    '**Hand-overs.** Two folders, one of which follows, and an intake, while servers on one database are killed, ended, stopped and continued, and the database is killed, at random moments. Whenever all had settled, each receiver was held against its receipt and the project, byte for byte.',
    '',
    '| servers | moments | what was done | files compared | wrong | longest until settled | others’ p99, worst |',
    '|---|---|---|---|---|---|---|',
    ...results.map(([servers, each]) => {
      const done = Object.entries(each.did).map(([what, count]) => `${what} ${count}`);
      const felt =
        each.asked > 0
          ? `${ms(each.p99)}, ${ms(each.worst)} of ${each.asked.toLocaleString('en')}`
          : 'not asked: the only one is killed';
      return `| ${servers} | ${each.moments} | ${done.join(', ')} | ${each.files.toLocaleString('en')} | ${each.wrong.length} | ${each.longestS.toFixed(1)} s | ${felt} |`;
    }),
    ...results.flatMap(([, each]) => each.wrong.slice(0, 10).map((words) => `\nWrong: ${words}`)),
  ].join('\n');
}

/** 200 moments in all. */
const MOMENTS: readonly [1 | 2 | 4, number][] = [
  [1, 60],
  [2, 70],
  [4, 70],
];
async function handOversByServers(): Promise<string> {
  const results: [number, HandOversResult][] = [];
  for (const [servers, moments] of MOMENTS) results.push([servers, await handOvers({ servers, moments, log })]);
  return ofHandOvers(results);
}

const parts: [string, () => Promise<string>][] = [
  ['hostile', async () => ofHostile(await hostile({ log }))],
  ['load', async () => ofLoad(await load({ clients: 200, windows: 20, deliveries: 5, seconds: 60 }))],
  ['churn', async () => ofChurn(await churn({ rounds: 1000, log }))],
  ['folders', async () => ofFolders(await folders({ swaps: 3000, felt: true }))],
  ['hand-overs', handOversByServers],
  ['kills', async () => ofKills(await kills({ rounds: 100, log }))],
];
const path = join(root, 'docs', 'reliability.md');
for (const [name, part] of parts) {
  if (!wanted(name)) continue;
  log(`\n— ${name}`);
  const text = await part();
  log(text);
  results.push(text);
  intoDocument(path, name, text);
}
process.exit(wrong ? 1 : 0);
