import { cellKey, crispFinder, pictureFacts, planFiles, troubleFinder } from '@tolvik/core';
import { Mirror } from '../painter/mirror';
import type { FromChecker, Known, ToChecker } from './messages';

/** Looks for trouble, apart from the painter: a look at a thousand pieces would hold up what one is waiting to see. */
const scope = self as unknown as {
  postMessage(message: FromChecker): void;
  onmessage: ((event: MessageEvent<ToChecker>) => void) | null;
};

const mirror = new Mirror();
const look = troubleFinder();
const crispIn = crispFinder();
const pictureSize = (hash: string) => {
  const picture = mirror.picture(hash);
  return (picture && pictureFacts(picture.bytes)) ?? undefined;
};

scope.onmessage = ({ data }) => {
  if (data.kind === 'check') void check(data.id, data);
  else mirror.follow(data);
};

async function check(
  id: number,
  { projectName, lastDelivery, seen, meetings, intakes, weights }: Known,
): Promise<void> {
  await mirror.loadNeeds().catch(() => {});
  const { doc, fonts } = mirror;
  const plan = planFiles(doc, projectName);
  const findings = look({
    doc,
    plan,
    fonts,
    pictureSize,
    lastDelivery,
    intakes,
    bytesOf: (pieceId, outputId) => weights?.get(cellKey(pieceId, outputId)),
    meetingsOf: (artboardId) => meetings?.get(artboardId),
    seenOf: (pieceId, outputId) => seen?.get(cellKey(pieceId, outputId)),
  });
  scope.postMessage({ id, findings, crisp: crispIn(doc, plan) });
}
