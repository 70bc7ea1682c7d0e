import * as z from 'zod';
import type { ReplaceReport } from '../arrange/replace-report';
import { anyRecord, type ProjectRecord, recordId } from '../document/records';
import { specFile } from '../specs/spec-file';

const count = z.number().int().min(0);
/** A moment, ISO 8601 in UTC. */
const moment = z.iso.datetime();
/** A project counts its changes. */
const version = count;

/** Why something was refused, as data. */
const problem = z.object({ code: z.string(), message: z.string() }).loose();

export const healthAnswer = z.strictObject({
  ok: z.boolean(),
  trouble: z.string().optional(),
  database: z.enum(['answers', 'away']),
  projects: count.nullable(),
  role: z.string(),
  room: z.strictObject({ usedBytes: count.nullable(), freeBytes: count.nullable() }),
});

export const projectAnswer = z.strictObject({
  id: recordId,
  name: z.string(),
  version,
  journal_from: count,
  created_at: moment,
  updated_at: moment,
});

/** A project with what stands in it, for the Shelf. */
export const shelfProject = projectAnswer.omit({ journal_from: true }).extend({
  artboards: count,
  slices: count,
  editions: count,
  files: count,
  last_delivery: z.strictObject({ number: count, version, at: z.string(), files: count }).nullable(),
});
export type ShelfProject = z.infer<typeof shelfProject>;
export const projectsAnswer = z.strictObject({ projects: z.array(shelfProject) });

/** Something that was left out or changed on the way in: how often, and the first layers it concerns. */
const told = z.strictObject({ what: z.string(), count, where: z.array(z.string()) });

export const openedAnswer = projectAnswer.extend({ dropped: z.array(told) });

/** Records changed after a version; with `whole`, all that there are. */
export const changesAnswer = z.strictObject({
  version,
  name: z.string(),
  whole: z.boolean(),
  records: z.array(anyRecord),
  removed: z.array(recordId),
});
export type Changes = { version: number; name: string; whole: boolean; records: ProjectRecord[]; removed: string[] };

/** `repeated` when the same edit had been stored before. */
export const editAnswer = z.strictObject({ version, repeated: z.boolean() });
export type EditAnswer = z.infer<typeof editAnswer>;

const change = z.strictObject({ label: z.string(), puts: z.array(anyRecord), removes: z.array(recordId) });

export const actsAnswer = z.strictObject({
  acts: z.array(
    z.strictObject({
      name: z.string(),
      title: z.string(),
      group: z.string(),
      needs: z.string(),
      settings: z.record(z.string(), z.unknown()),
    }),
  ),
});
export const actAnswer = z.strictObject({ version, change, selected: z.array(recordId) });

const reportLine = z.strictObject({ file: z.string(), dropped: z.array(told), problem: problem.optional() });
export type Report = z.infer<typeof reportLine>[];
/** An edit that the server made of what was asked; null where nothing would change. */
export const changeAnswer = z.strictObject({ version, change: change.nullable() });

/** What replacing the artwork of an artboard would do, as `core/arrange` tells it. */
const replaces = z.strictObject({
  artboardId: recordId,
  name: z.string(),
  kept: count,
  fresh: z.array(z.strictObject({ place: count, title: z.string() })),
  gone: count,
  loose: z.array(
    z.strictObject({
      layerId: recordId,
      title: z.string(),
      editions: z.array(z.string()),
      slices: z.array(z.string()),
      files: count,
      guess: count.nullable(),
    }),
  ),
});
/** With `asks` nothing was brought in: something hangs on layers that would be gone, and it waits for a word. */
export const bringInAnswer = z.strictObject({
  version,
  change: change.nullable(),
  report: z.array(reportLine),
  asks: z.array(replaces).optional(),
});
export type BringInAnswer = {
  version: number;
  change: { label: string; puts: ProjectRecord[]; removes: string[] } | null;
  report: Report;
  asks?: ReplaceReport[];
};

export const fontsAnswer = z.strictObject({ version, change: change.nullable() });

/** `isFirst`: the one that new projects begin with. */
const keptSpec = z.strictObject({ id: recordId, name: z.string(), body: specFile, isFirst: z.boolean() });
export const keptSpecFields = z.strictObject({ isFirst: z.boolean() });
export type KeptSpec = z.infer<typeof keptSpec>;
export const keptSpecAnswer = keptSpec;
export const keptSpecsAnswer = z.strictObject({ specs: z.array(keptSpec) });
