import { type FontFacts, fontFacts, type Problem, type ReadArtwork, type ReadProject, Refusal, readProjectFile, readSvg } from '@tolvik/core';

export type ReadRequest = { kind: 'artwork' | 'project' | 'font'; name: string; bytes: Uint8Array };
export type ReadAnswer = { artwork: ReadArtwork } | { project: ReadProject } | { font: FontFacts } | { problem: Problem };

/** Runs in a worker thread: one file read, or why it was refused. */
export default function read({ kind, name, bytes }: ReadRequest): ReadAnswer {
  try {
    if (kind === 'font') return { font: fontFacts(bytes, name) };
    return kind === 'project' ? { project: readProjectFile(bytes, name) } : { artwork: readSvg(bytes, name) };
  } catch (error) {
    if (error instanceof Refusal) return { problem: error.problem };
    if (error instanceof RangeError) return { problem: { code: 'svg.depth', message: `${name} is nested too deeply to be read`, where: name } };
    throw error;
  }
}
