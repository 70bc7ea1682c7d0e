import {
  ALL_FILES,
  type ComposeSources,
  documentFonts,
  findTrouble,
  type IntakeRules,
  type Meetings,
  measuredSources,
  meetingsJob,
  meetingsOn,
  type ProjectDocument,
  pictureFacts,
  type Severity,
} from '@tolvik/core';
import { pixelsOf, RenderPool, renderJob, shippedFonts } from '@tolvik/render';
import { RENDER_CHILD } from './render-child-path';
import { open, type Selection } from './source';

const SIGN: Record<Severity, string> = { error: '!', warning: '-', hint: 'i' };

/** Where colours meet in the artboards whose variants depend on it, drawn where a drawing can do no harm. */
async function meetingsIn(doc: ProjectDocument, sources: ComposeSources): Promise<ReadonlyMap<string, Meetings>> {
  const meetings = new Map<string, Meetings>();
  const measured = [...measuredSources(doc)].flatMap((id) => doc.find('artboard', id) ?? []);
  if (measured.length === 0) return meetings;
  const pool = new RenderPool({ childPath: RENDER_CHILD });
  try {
    for (const artboard of measured) {
      try {
        const { bytes } = await pool.render(renderJob(meetingsJob(doc, artboard, sources), sources.pictures));
        meetings.set(artboard.id, meetingsOn(doc, artboard, await pixelsOf(bytes)));
      } catch (error) {
        process.stderr.write(
          `! ${artboard.name}: where its colours meet could not be measured: ${(error as Error).message}\n`,
        );
      }
    }
  } finally {
    await pool.close();
  }
  return meetings;
}

/** Says what the checks find, a line each; exit code 1 when something would hold an export up. */
export async function check(selection: Selection, rules?: IntakeRules): Promise<number> {
  const { name, doc, plan, refused, told, pictures } = await open(selection);
  const pieces = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
  const pictureSize = (hash: string) => {
    const blob = pictures.get(hash);
    return (blob && pictureFacts(blob.bytes)) ?? undefined;
  };
  const fonts = documentFonts(doc, shippedFonts(import.meta.url), (hash) => pictures.get(hash)?.bytes);
  const meetings = await meetingsIn(doc, { fonts, pictures: (hash) => pictures.get(hash) });
  const findings = findTrouble({
    doc,
    plan,
    fonts,
    pictureSize,
    meetingsOf: (id) => meetings.get(id),
    intakes: rules ? [{ rules, takes: ALL_FILES }] : [],
  });
  for (const { message } of refused) process.stdout.write(`! ${message}\n`);
  for (const words of told) process.stdout.write(`- ${words}\n`);
  for (const { severity, pieceId, message, accepted } of findings)
    process.stdout.write(
      `${accepted ? '+' : SIGN[severity]} ${pieces.get(pieceId) ?? name}: ${message}${accepted ? ` (accepted: ${accepted})` : ''}\n`,
    );
  const count = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity && !finding.accepted).length;
  const errors = count('error') + refused.length;
  process.stdout.write(
    `${errors} errors, ${count('warning') + told.length} warnings, ${count('hint')} hints in ${plan.files.length} files\n`,
  );
  return errors > 0 ? 1 : 0;
}
