import { hostile } from './hostile';

const result = await hostile({ log: (words) => console.log(words), only: process.env.TORTURE_KIND ? ({ kind }) => kind === process.env.TORTURE_KIND : undefined });
const bad = result.outcomes.filter(({ ok }) => !ok);
console.log({
  total: result.outcomes.length,
  bad: bad.length,
  p99: result.p99,
  p999: result.p999,
  worst: result.worst,
  asked: result.asked,
  failed: result.failed,
  fetched: result.fetched,
  ends: result.ends,
});
console.log(result.slow.map(({ ms, ask }) => `${ms}/${ask}`).join(' '));
