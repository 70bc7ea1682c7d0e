import { documentFonts, findTrouble, type Meetings, measuredSources, pictureFacts, type Severity } from '@tolvik/core';
import { drawnMeetings, shippedFonts } from '@tolvik/render';
import { open, type Selection } from './source';

const SIGN: Record<Severity, string> = { error: '!', warning: '-', hint: 'i' };

/** Says what the checks find, a line each; exit code 1 when something would hold an export up. */
export async function check(selection: Selection): Promise<number> {
  const { name, doc, plan, refused, told, pictures } = await open(selection);
  const pieces = new Map(plan.pieces.map((piece) => [piece.id, piece.name]));
  const pictureSize = (hash: string) => {
    const blob = pictures.get(hash);
    return (blob && pictureFacts(blob.bytes)) ?? undefined;
  };
  const fonts = documentFonts(doc, shippedFonts(import.meta.url), (hash) => pictures.get(hash)?.bytes);
  const meetings = new Map<string, Meetings>();
  for (const id of measuredSources(doc)) {
    const artboard = doc.find('artboard', id);
    if (artboard) meetings.set(id, drawnMeetings(doc, artboard, { fonts, pictures: (hash) => pictures.get(hash) }));
  }
  const findings = findTrouble({ doc, plan, fonts, pictureSize, meetingsOf: (id) => meetings.get(id) });
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
