import { refuse } from '@tolvik/core';
import type { RenderPool } from '@tolvik/render';
import type { Logger } from 'pino';
import type { Reader } from '../bring-in/reader';
import type { Config } from '../config';
import type { Database } from '../db/database';
import type { Deliveries } from '../deliveries/deliveries';
import type { EventHub } from '../events/hub';
import type { FileMaker } from '../projects/file-maker';
import type { OpenProject } from '../projects/open-project';
import type { OpenProjects } from '../projects/open-projects';
import type { Renders } from '../projects/renders';

/** What every route works with. */
export type Context = {
  config: Config;
  db: Database;
  projects: OpenProjects;
  pool: RenderPool;
  renders: Renders;
  maker: FileMaker;
  deliveries: Deliveries;
  hub: EventHub;
  reader: Reader;
  log: Logger;
};

export async function openProject({ projects }: Context, id: string): Promise<OpenProject> {
  return (await projects.get(id)) ?? refuse('not.found', 'there is no such project');
}
