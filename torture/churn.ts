import { readdirSync, readFileSync } from 'node:fs';
import { connect } from '../packages/server/src/db/database';
import { databaseBytes, purge } from '../packages/server/src/db/purge';
import { svg } from './corpus';
import { startAll } from './server';

export type ChurnSample = { round: number; serverMb: number; databaseMb: number; rows: number; openFiles: number };
export type ChurnResult = { rounds: number; samples: ChurnSample[] };

/** Rounds of bringing in, delivering and deleting; what the server, its files and the database hold, looked at now and then. */
export async function churn({
  rounds,
  every = Math.ceil(rounds / 10),
  log = () => {},
}: {
  rounds: number;
  every?: number;
  log?(words: string): void;
}): Promise<ChurnResult> {
  const all = await startAll();
  const db = connect(all.databaseUrl(), () => {});
  const samples: ChurnSample[] = [];
  for (let round = 1; round <= rounds; round++) {
    const id = await all.project(`Round ${round}`);
    await all.bringIn(id, {
      'a.svg': svg(`<circle cx="12" cy="12" r="${1 + (round % 1000) / 100}"/>`),
      'b.svg': svg(`<path d="M0 0h${(round % 97) / 5}v9z"/>`),
    });
    let delivery = all.json<{ id: string; state: string; failed: number }>(
      await all.post(`/projects/${id}/deliveries`),
    );
    for (let tries = 0; delivery.state === 'running' && tries < 3000; tries++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      delivery = all.json<{ deliveries: (typeof delivery)[] }>(await all.call('GET', `/projects/${id}/deliveries`))
        .deliveries[0];
    }
    if (delivery.state !== 'done' || delivery.failed > 0)
      throw new Error(`round ${round}: a delivery is ${delivery.state}, ${delivery.failed} failed`);
    await all.call('DELETE', `/deliveries/${delivery.id}`);
    await all.call('DELETE', `/projects/${id}`);
    if (round % every > 0 && round !== rounds) continue;
    // As if the time had passed for which everything deleted is kept.
    await purge(db, 16 * 1_048_576, { deletedDays: 0, journalDays: 0, blobDays: 0 });
    await db.query('VACUUM FULL');
    const { rows } = await db.query<{ n: string }>(
      'SELECT (SELECT count(*) FROM projects) + (SELECT count(*) FROM records) + (SELECT count(*) FROM edits) + (SELECT count(*) FROM blobs) + (SELECT count(*) FROM delivery_files) AS n',
    );
    const pid = all.server?.pid ?? 0;
    const sample = {
      round,
      serverMb: Math.round((Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]) * 4096) / 1_048_576),
      databaseMb: +((await databaseBytes(db)) / 1_048_576).toFixed(1),
      rows: Number(rows[0].n),
      openFiles: readdirSync(`/proc/${pid}/fd`).length,
    };
    samples.push(sample);
    log(JSON.stringify(sample));
  }
  await db.end();
  await all.close();
  return { rounds, samples };
}
