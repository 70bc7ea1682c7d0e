import { recordId, refuse } from '@tolvik/core';
import type { RenderPool } from '@tolvik/render';
import type { Request } from 'express';
import type { Logger } from 'pino';
import type { Reader } from '../bring-in/reader';
import type { Config } from '../config';
import type { Database } from '../db/database';
import type { Deliveries } from '../deliveries/deliveries';
import type { EventHub } from '../events/hub';
import type { FileMaker } from '../projects/file-maker';
import type { OpenProjects, ProjectHandle } from '../projects/open-projects';
import type { Pictures } from '../projects/pictures';
import type { Renders } from '../projects/renders';
import type { Following } from '../receivers/following';
import type { HandOvers } from '../receivers/hand-overs';
import type { Receivers } from '../receivers/receivers';
import type { LinkedSources } from '../sources/linked-sources';
import type { Turns } from '../turns';

/** What every route works with. */
export type Context = {
  config: Config;
  db: Database;
  projects: OpenProjects;
  pool: RenderPool;
  pictures: Pictures;
  renders: Renders;
  maker: FileMaker;
  deliveries: Deliveries;
  receivers: Receivers;
  handOvers: HandOvers;
  following: Following;
  sources: LinkedSources;
  hub: EventHub;
  /** Reads files. */
  reader: Reader;
  /** Reads edits that are too large to be read where others wait. */
  editReader: Reader;
  /** Uploads that are read at once. */
  uploads: Turns;
  log: Logger;
};

export async function openProject({ projects }: Context, id: string): Promise<ProjectHandle> {
  return (
    (recordId.safeParse(id).success ? await projects.get(id) : undefined) ??
    refuse('not.found', 'there is no such project')
  );
}

/** The project a request is about; what can be no id is no project. */
export const idOf = (req: Request): string => {
  const { success, data } = recordId.safeParse(req.params.id);
  return success ? data : refuse('not.found', 'there is no such project');
};
