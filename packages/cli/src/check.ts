import {
  Composer,
  type ComposeSources,
  count,
  findTrouble,
  type IntakeRules,
  type Meetings,
  measuredSources,
  meetingsJob,
  meetingsOn,
  type PlannedFile,
  type ProjectDocument,
  pictureFacts,
  type Severity,
  several,
} from '@tolvik/core';
import { pixelsOf, RenderPool, renderJob } from '@tolvik/render';
import { AHEAD, lackedSizes, notTakenBy, sourcesFor } from './make';
import { FEWEST, RENDER_CHILD } from './render-child-path';
import { err, out } from './say';
import { type Opened, open, type Selection } from './source';

const SIGN: Record<Severity, string> = { error: '!', warning: '-', hint: 'i' };

/** Where colours meet in the artboards whose variants depend on it, drawn where a drawing can do no harm. */
async function meetingsIn(doc: ProjectDocument, sources: ComposeSources): Promise<ReadonlyMap<string, Meetings>> {
  const meetings = new Map<string, Meetings>();
  const measured = [...measuredSources(doc)].flatMap((id) => doc.find('artboard', id) ?? []);
  if (measured.length === 0) return meetings;
  const pool = new RenderPool({ childPath: RENDER_CHILD, fewest: FEWEST });
  try {
    for (const artboard of measured) {
      try {
        const { bytes } = await pool.render(renderJob(meetingsJob(doc, artboard, sources), sources.pictures));
        meetings.set(artboard.id, meetingsOn(doc, artboard, await pixelsOf(bytes)));
      } catch (error) {
        err(`! ${artboard.name}: where its colours meet could not be measured: ${(error as Error).message}`);
      }
    }
  } finally {
    await pool.close();
  }
  return meetings;
}

/**
 * Says what the checks find, a line each; exit code 1 when something would hold an export up, when a file would not be
 * taken by the rules, and when it is `strict` for a warning, too.
 */
export async function check(selection: Selection, rules?: IntakeRules, strict = false): Promise<number> {
  const opened = await open(selection);
  const { name, doc, plan, files, refused, told, pictures } = opened;
  const pieces = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
  const pictureSize = (hash: string) => {
    const blob = pictures.get(hash);
    return (blob && pictureFacts(blob.bytes)) ?? undefined;
  };
  const sources = sourcesFor(opened);
  const meetings = await meetingsIn(doc, sources);
  const wanted = new Set(files.map(({ pieceId }) => pieceId));
  const findings = findTrouble({
    doc,
    plan,
    fonts: sources.fonts,
    pictureSize,
    meetingsOf: (id) => meetings.get(id),
  }).filter(({ pieceId }) => !selection.pieces || wanted.has(pieceId));
  const notTaken = rules ? [...(await refusedFiles(opened, sources, rules)), ...lackedSizes(opened, rules)] : [];
  for (const { message } of refused) out(`! ${message}`);
  for (const words of told) out(`- ${words}`);
  for (const { severity, pieceId, message, accepted } of findings)
    out(
      `${accepted ? '+' : SIGN[severity]} ${pieces.get(pieceId) ?? name}: ${message}${accepted ? ` (accepted: ${accepted})` : ''}`,
    );
  for (const words of notTaken) out(`! ${words}`);
  const countOf = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity && !finding.accepted).length;
  const errors = countOf('error') + refused.length + notTaken.length;
  const warnings = countOf('warning') + told.length;
  out(
    `${count(errors, 'error')}, ${count(warnings, 'warning')}, ${count(countOf('hint'), 'hint')} in ${count(files.length, 'file')}`,
  );
  return errors > 0 || (strict && warnings > 0) ? 1 : 0;
}

/** In words, what rules would not take of files as they come out: each is made and measured, as an export does. */
async function refusedFiles({ doc, files }: Opened, sources: ComposeSources, rules: IntakeRules): Promise<string[]> {
  const composer = new Composer(doc, sources);
  const pool = new RenderPool({ childPath: RENDER_CHILD, fewest: FEWEST });
  const words = new Map<PlannedFile, string[]>();
  try {
    await several(files, AHEAD, async (file) => {
      if (file.problem) return;
      try {
        const { measured } = await pool.render(renderJob(composer.job(file), sources.pictures));
        words.set(file, notTakenBy(rules, file, measured));
      } catch (error) {
        words.set(file, [`${file.path}: ${(error as Error).message}`]);
      }
    });
  } finally {
    await pool.close();
  }
  return files.flatMap((file) => words.get(file) ?? []);
}
