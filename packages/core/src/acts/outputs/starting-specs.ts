import type { ProjectDocument } from '../../document/document';

/** The spec that new pieces follow: the default of the project, else its first; none in a project without specs. */
export function startingSpecs(doc: ProjectDocument): string[] {
  const { defaultSpecId } = doc.settings;
  const id = defaultSpecId && doc.find('spec', defaultSpecId) ? defaultSpecId : doc.list('spec')[0]?.id;
  return id ? [id] : [];
}
