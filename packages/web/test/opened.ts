import { placeFiles, readSvg, recordsOfLibrarySpec } from '@tolvik/core';
import { Session } from '../src/project/session/session';

/** A session with an artboard for each file, following the web spec. It was closed, so it sends nothing: what is done to it stays here. */
export function sessionWith(files: Record<string, string>): Session {
  const session = new Session('test');
  session.close();
  const { doc } = session;
  const { spec, outputs } = recordsOfLibrarySpec('web', doc);
  doc.apply({ puts: [spec, ...outputs], removes: [] });
  const artwork = Object.entries(files).map(([name, text]) => ({ name, artwork: readSvg(text, `${name}.svg`) }));
  doc.apply({ puts: placeFiles(doc, artwork, [spec.id]), removes: [] });
  return session;
}
