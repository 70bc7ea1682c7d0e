import { plainText, type ReplaceReport, refuse } from '@tolvik/core';
import type pg from 'pg';
import { type ReadFiles, type ReadOptions, readFiles } from '../bring-in/bring-in';
import type { Upload } from '../bring-in/multipart';
import type { PlaceOptions } from '../bring-in/placed';
import type { Reader } from '../bring-in/reader';
import { putBlobs } from '../db/blobs';
import { type Database, transaction } from '../db/database';
import { firstSpec } from '../db/kept-specs';
import type { PreparedEdit } from '../db/prepared-edit';
import { findProject } from '../db/projects';
import { applyEdit } from '../db/records';
import { announce } from '../events/hub';
import type { ProjectHandle } from './open-projects';

/**
 * Carries out a change the server itself makes, on top of whatever the project has become. `label` where no hand made it:
 * windows then have it among what they can undo.
 */
export async function commit(
  client: pg.PoolClient,
  projectId: string,
  made: PreparedEdit,
  label?: string,
): Promise<number> {
  const row = await findProject(client, projectId);
  if (!row) return refuse('not.found', 'there is no such project');
  const outcome = await applyEdit(client, projectId, { ...made, baseVersion: row.version });
  if (!outcome || 'clash' in outcome) return refuse('edit.clash', 'the project changed at the same moment; try again');
  await announce(client, projectId, { type: 'edited', version: outcome.version, editId: made.id, label });
  return outcome.version;
}

/** What came of bringing in: the version after it, the edit, each file's report, and what waits for a word first. */
export type Brought = {
  version: number;
  edit: PreparedEdit | null;
  report: ReadFiles['report'];
  asks?: ReplaceReport[];
};

/**
 * Reads files and puts them on the Bench as one edit; null when whoever asked left meanwhile. `from` names where they
 * came from with nobody bringing them.
 */
export async function bringOnto(
  { db, reader }: { db: Database; reader: Reader },
  project: ProjectHandle,
  files: readonly Upload[],
  place: PlaceOptions,
  { from, ...options }: ReadOptions & { from?: string } = {},
): Promise<Brought | null> {
  const { read, blobs, report } = await readFiles(files, reader, options);
  let version = project.version;
  let edit: PreparedEdit | null = null;
  let asks: ReplaceReport[] | undefined;
  const names = read.length === 1 ? read[0].name : `${read.length} files`;
  const label = plainText(`bring in ${names}${from ? ` from ${from}` : ''}`, 200);
  if (read.length > 0 && !options.signal?.aborted) {
    const placed = await project.ask('place', {
      read: read.map(({ name, artwork }) => ({ name, artwork })),
      options: { ...place, firstSpec: await firstSpec(db) },
      label,
    });
    for (const { index, problem } of placed.refused) read[index].report.problem = problem;
    edit = placed.edit;
    asks = placed.asks;
  }
  if (options.signal?.aborted) return null;
  if (!asks) await putBlobs(db, blobs);
  const made = edit;
  if (made) version = await transaction(db, (client) => commit(client, project.id, made, from && label));
  return { version, edit, report, asks };
}
