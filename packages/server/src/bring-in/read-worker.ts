import {
  type Change,
  type FontFacts,
  fontFacts,
  inputProblem,
  LIMITS,
  type PictureFacts,
  type Problem,
  parseEdit,
  type ReadArtwork,
  Refusal,
  readProjectFile,
  readSvg,
  sha256Hex,
} from '@tolvik/core';
import { ownThreadId, workedMs } from '@tolvik/render';
import { ZodError } from 'zod';
import { type PreparedEdit, preparedOf, prepareEdit } from '../db/prepared-edit';

export type ReadRequest = { kind: 'artwork' | 'project' | 'font' | 'edit'; name: string; bytes: Uint8Array };
/** Shared with the one who watches: what the system calls the thread, and how long that had worked before, in ms. */
export type ReadTask = ReadRequest & { thread: Int32Array };

/** Artwork as JSON text in UTF-8, which only the thread of its project takes apart, and how many layers it has. */
export type PackedArtwork = { text: Uint8Array; layers: number };
export type ReadAnswers = {
  artwork: PackedArtwork & Pick<ReadArtwork, 'blobs' | 'dropped'>;
  project: { name: string; edit: PreparedEdit } & Pick<ReadArtwork, 'blobs' | 'dropped'>;
  font: FontFacts & { hash: string };
  edit: PreparedEdit;
};
export type ReadAnswer = ReadAnswers[keyof ReadAnswers] | { problem: Problem };
export type { PictureFacts };

const encoder = new TextEncoder();
export const packed = (artwork: ReadArtwork): PackedArtwork => ({
  text: encoder.encode(JSON.stringify({ ...artwork, blobs: [] })),
  layers: artwork.layers.length,
});

function readIt({ kind, name, bytes }: ReadRequest): ReadAnswers[keyof ReadAnswers] {
  switch (kind) {
    case 'font':
      return { ...fontFacts(bytes, name), hash: sha256Hex(bytes) };
    case 'edit':
      return preparedOf(parseEdit(new TextDecoder().decode(bytes)));
    case 'project': {
      const { name: title, records, blobs, dropped } = readProjectFile(bytes, name);
      const change: Change = { label: 'open project file', puts: records, removes: [] };
      return { name: title, edit: prepareEdit(change, 0), blobs, dropped };
    }
    case 'artwork': {
      const artwork = readSvg(bytes, name);
      return { ...packed(artwork), blobs: artwork.blobs, dropped: artwork.dropped };
    }
  }
}

/** Runs in a worker thread: one file or edit read, or why it was refused. */
export default function read({ thread, ...request }: ReadTask): ReadAnswer {
  const id = ownThreadId() ?? 0;
  thread[1] = workedMs(id || undefined, true) ?? 0;
  Atomics.store(thread, 0, id);
  try {
    return readIt(request);
  } catch (error) {
    const { kind, name } = request;
    if (error instanceof Refusal) return { problem: error.problem };
    if (error instanceof ZodError)
      return {
        problem:
          kind === 'edit'
            ? inputProblem(error)
            : {
                code: 'svg.failed',
                message: `${name} holds what no project may hold: ${inputProblem(error).message}`,
                where: name,
              },
      };
    if (error instanceof RangeError)
      return {
        problem: {
          code: 'svg.depth',
          message: `${name} is nested too deeply to be read`,
          where: name,
          accepted: `groups up to ${LIMITS.depth} deep`,
        },
      };
    throw error;
  }
}
