import type { Fonts } from '@tolvik/core';
import type { Database } from '../db/database';
import { findProject } from '../db/projects';
import { readChanges } from '../db/records';
import { emptyProject, type OpenProject } from './open-project';

const KEPT = 8;

/**
 * Projects in memory, each brought up to the database's version whenever it is asked for; what
 * another server wrote is read as a difference. The least recently asked for are let go.
 */
export class OpenProjects {
  private readonly open = new Map<string, OpenProject>();
  private readonly turns = new Map<string, Promise<unknown>>();

  constructor(
    private readonly db: Database,
    private readonly fonts: Fonts,
  ) {}

  /** The project as the database has it now; undefined when there is none. */
  get(id: string): Promise<OpenProject | undefined> {
    const turn = (this.turns.get(id) ?? Promise.resolve()).catch(() => {}).then(() => this.bringUpToDate(id));
    this.turns.set(id, turn);
    void turn.catch(() => {}).finally(() => this.turns.get(id) === turn && this.turns.delete(id));
    return turn;
  }

  private async bringUpToDate(id: string): Promise<OpenProject | undefined> {
    const row = await findProject(this.db, id);
    if (!row) {
      this.open.delete(id);
      return undefined;
    }
    const project = this.open.get(id) ?? emptyProject(id, row.name, this.fonts);
    if (project.version !== row.version) {
      const { records, removed } = await readChanges(this.db, id, project.version);
      project.doc.apply({ puts: records, removes: removed });
      project.version = row.version;
      await project.loadPictures(this.db);
    }
    project.name = row.name;
    this.open.delete(id);
    this.open.set(id, project);
    for (const key of this.open.keys()) {
      if (this.open.size <= KEPT) break;
      this.open.delete(key);
    }
    return project;
  }
}
