import { refuse } from '@tolvik/core';
import type { Response } from 'express';
import { transaction } from '../db/database';
import type { PreparedEdit } from '../db/prepared-edit';
import { applyEdit } from '../db/records';
import { announce } from '../events/hub';
import type { Context } from './context';
import { sendProblem } from './problem';

/** Stores an edit on the version that it was made for, and tells who listens. Throws a `Refusal` when the project is gone. */
export async function store(db: Context['db'], id: string, edit: PreparedEdit) {
  const outcome = await transaction(db, async (client) => {
    const result = await applyEdit(client, id, edit);
    if (result && 'version' in result && !result.repeated)
      await announce(client, id, { type: 'edited', version: result.version, editId: edit.id });
    return result;
  });
  return outcome ?? refuse('not.found', 'there is no such project');
}

export const sendClash = (res: Response, clash: Record<string, unknown>) =>
  sendProblem(
    res,
    409,
    { code: 'edit.clash', message: 'what this edit touches was changed by someone else meanwhile' },
    clash,
  );

/** A change as JSON text, its records as they are. */
export const changeAsJson = ({ label, puts, removes }: PreparedEdit): string =>
  `{"label":${JSON.stringify(label)},"puts":${puts},"removes":${JSON.stringify(removes)}}`;
