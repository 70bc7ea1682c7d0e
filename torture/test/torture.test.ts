import { churn } from '../churn';
import { handOvers } from '../hand-overs';
import { hostile } from '../hostile';
import { kills } from '../kills';
import { load } from '../load';

/** A small part of `npm run torture`, for what must hold whatever the machine does; times are measured there. */

/** What takes a server minutes by its size alone; `npm run torture` has it. */
const HEAVY = /^(nested definitions|copies|elements|filters|clips|paths|text|styles|gradients)$/;
const LARGE = /\d,000 elements|40 MB/;

test('hostile inputs become what they must, nothing is fetched, and the server stays', async () => {
  // Of each door and kind some, another one of many each time the corpus grows.
  const { outcomes, fetched, ends, failed } = await hostile({
    only: ({ kind, name }) => !HEAVY.test(kind) && !LARGE.test(name),
    every: 12,
  });
  expect(outcomes.filter(({ ok }) => !ok)).toEqual([]);
  expect(outcomes.length).toBeGreaterThan(40);
  expect({ fetched, ends, failed }).toEqual({ fetched: [], ends: 0, failed: 0 });
}, 600_000);

test('a drawing that takes for ever is told, and everybody else goes on', async () => {
  const { outcomes, ends, failed, asked } = await hostile({
    only: ({ kind, name }) => kind === 'nested definitions' && /clipPath.*(30 deep|400 deep)/.test(name),
  });
  expect(outcomes.filter(({ ok }) => !ok)).toEqual([]);
  expect(asked).toBeGreaterThan(5);
  expect({ ends, failed }).toEqual({ ends: 0, failed: 0 });
}, 600_000);

test('whatever is killed, no answered edit is lost and every file is made', async () => {
  const { acknowledged, lost, wrong, files } = await kills({ rounds: 2 });
  expect(acknowledged).toBeGreaterThan(0);
  expect(files).toBeGreaterThan(100);
  expect({ lost, wrong }).toEqual({ lost: 0, wrong: [] });
}, 900_000);

test('servers that hand over are killed, stopped and continued: every receiver holds what its receipt says', async () => {
  const { files, wrong } = await handOvers({ servers: 2, moments: 3 });
  expect(wrong).toEqual([]);
  expect(files).toBeGreaterThan(100);
}, 900_000);

test('many at once are all answered', async () => {
  const { requests, failed, events } = await load({ clients: 40, windows: 8, deliveries: 2, seconds: 3 });
  expect(requests).toBeGreaterThan(40);
  expect(events).toBeGreaterThan(8);
  expect(failed).toBe(0);
}, 300_000);

test('what was deleted leaves nothing behind', async () => {
  const { samples } = await churn({ rounds: 8, every: 4 });
  expect(samples.map(({ rows }) => rows)).toEqual([0, 0]);
}, 300_000);
