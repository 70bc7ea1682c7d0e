import { renameSync, writeFileSync } from 'node:fs';
import {
  ACTS,
  type ActRequest,
  actNamed,
  count,
  decodeText,
  jobsOfRequest,
  parseTable,
  performRequest,
  refuse,
  withOutlinesOf,
  writeProjectFile,
} from '@tolvik/core';
import { inTurn } from '@tolvik/folders';
import { RenderPool, renderJob } from '@tolvik/render';
import { readPlain } from './read-file';
import { FEWEST, RENDER_CHILD } from './render-child-path';
import { err, out } from './say';
import { open } from './source';

export type ActCall = {
  act: string;
  source: string;
  out?: string;
  pieces?: string;
  layers: readonly string[];
  edition?: string;
  /** `marginPx=4`, `rule={"kind":"case","letterCase":"kebab"}` or `table=@cards.csv` each. */
  settings: readonly string[];
  leaveArtwork: boolean;
};

/** Names a file with a table, whose cells are the value. */
const TABLE = /^@(.+\.(?:csv|tsv|txt))$/i;

/** Settings as `name=value`, each value as JSON where it is JSON, as the cells of a table where it names one, else as text. */
function settingsOf(said: readonly string[]): Record<string, unknown> {
  return Object.fromEntries(
    said.map((each) => {
      const at = each.indexOf('=');
      if (at < 1) refuse('set.form', `"${each}" sets nothing`, { accepted: 'name=value, such as marginPx=4' });
      const text = each.slice(at + 1);
      const table = TABLE.exec(text)?.[1];
      if (table) return [each.slice(0, at), parseTable(decodeText(readPlain(table)))];
      try {
        return [each.slice(0, at), JSON.parse(text)];
      } catch {
        return [each.slice(0, at), text];
      }
    }),
  );
}

/** Does an act to a project file and writes it: in its place, or to `out`. What another does to that file comes first or after. */
export function act(call: ActCall): Promise<number> {
  const target = call.out ?? call.source;
  const waits = () => err(`another act changes ${target}: this one waits for its end`);
  return inTurn(target, () => actAlone(call, target), waits);
}

async function actAlone(call: ActCall, target: string): Promise<number> {
  const { name } = actNamed(call.act);
  const {
    doc,
    pictures,
    name: title,
    projectId,
    isProject,
    told,
    refused,
  } = await open({ source: call.source, needsSpec: false });
  if (!isProject && !call.out)
    refuse('out.missing', `${call.source} is no project file, so --out has to say where the project goes`);
  for (const { message } of refused) err(`! ${message}`);
  for (const words of told) err(`- ${words}`);
  const edition =
    call.edition === undefined ? undefined : doc.list('edition').find((each) => each.name === call.edition);
  if (call.edition !== undefined && !edition) refuse('edition.missing', `there is no edition called ${call.edition}`);
  const request: ActRequest = {
    pieces: call.pieces,
    layers: call.layers.length > 0 ? [...call.layers] : undefined,
    editionId: edition?.id,
    carry: !call.leaveArtwork,
    settings: settingsOf(call.settings),
  };
  const jobs = jobsOfRequest(doc, name, request);
  const outlines = jobs.length > 0 ? await outlined(jobs) : null;
  const { label, puts, removes } = performRequest(doc, name, outlines ? withOutlinesOf(request, outlines) : request);
  doc.apply({ puts, removes });
  err(`${label}: ${count(puts.length, 'record')} changed, ${removes.length.toLocaleString('en')} removed`);
  const part = `${target}.part`;
  writeFileSync(
    part,
    writeProjectFile(doc, title, (hash) => pictures.get(hash), projectId),
  );
  renameSync(part, target);
  return refused.length > 0 ? 1 : 0;
}

/** Outlines by the keys of their jobs; a drawing that cannot be outlined gives '', and the act says so. */
async function outlined(jobs: ReturnType<typeof jobsOfRequest>): Promise<Record<string, string>> {
  const pool = new RenderPool({ childPath: RENDER_CHILD, fewest: FEWEST });
  try {
    const made = await Promise.all(
      jobs.map(async (job) => {
        const rendered = await pool.render(renderJob(job, () => undefined)).catch(() => null);
        return [job.key, rendered?.bytes.toString('utf8') ?? ''];
      }),
    );
    return Object.fromEntries(made);
  } finally {
    await pool.close();
  }
}

/** Lists every act with the names of its settings. */
export function acts(): number {
  for (const { name, title, settings } of ACTS) {
    const fields = namesOf(settings);
    out(name, title, ...(fields.length > 0 ? [fields.join(', ')] : []));
  }
  return 0;
}

/** The names in a schema of settings; of one with alternatives, all of them. */
function namesOf(schema: unknown): string[] {
  const { shape, options } = schema as { shape?: object; options?: readonly unknown[] };
  return shape ? Object.keys(shape) : [...new Set((options ?? []).flatMap(namesOf))];
}
