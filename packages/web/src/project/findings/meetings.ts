import { type Meetings, measuredSources, type ProjectDocument } from '@tolvik/core';
import type { Painter } from '../../painter/painter';

/** Where the colours of all artwork meet that is followed in other colours, as far as it can be measured. */
export async function meetingsFor(doc: ProjectDocument, painter: Painter): Promise<ReadonlyMap<string, Meetings>> {
  const known = new Map<string, Meetings>();
  const look = async (id: string) => {
    const meetings = await painter.meetings(id);
    if (meetings) known.set(id, meetings);
  };
  await Promise.all([...measuredSources(doc)].map(look));
  return known;
}
