import type {
  ActRequest,
  Change,
  FileJob,
  FontRecord,
  NamedArtwork,
  OutputSettings,
  PieceSince,
  Problem,
  StoredBlob,
} from '@tolvik/core';
import type { Placed, PlaceOptions } from '../bring-in/placed';
import { type PreparedEdit, prepareEdit } from '../db/prepared-edit';
import type { KeyedFile } from './keyed-plan';
import type {
  Answered,
  Cell,
  ChosenFiles,
  Composed,
  DeliveryStart,
  DrawnArtboard,
  FindingsAsk,
  NamedPiece,
  OpenProject,
  PictureInfo,
  PlanPart,
  Unmeasured,
} from './open-project';

/** What a project's thread is asked for, with what it answers. One after the other, each of one version. */
export type Works = {
  stage: {
    ask: { name: string; version: number; records: string; removed: string[] };
    answer: { pictures: string[]; fonts: string[] };
  };
  apply: { ask: { pictures: PictureInfo[]; fonts: StoredBlob[] }; answer: null };
  plan: { ask: { from: number; most: number }; answer: PlanPart };
  file: { ask: { cell: Cell; whole: boolean }; answer: { version: number; file: KeyedFile } };
  jobs: { ask: { cells: Cell[]; whole: boolean }; answer: { version: number; answered: Answered[] } };
  trial: { ask: { cell: Cell; settings: OutputSettings }; answer: Composed };
  picture: { ask: { cell: Cell; side?: number }; answer: Composed };
  pieces: { ask: null; answer: NamedPiece[] };
  cover: { ask: null; answer: ReturnType<OpenProject['cover']> };
  pictureHashes: { ask: null; answer: string[] };
  projectFile: { ask: { pictures: StoredBlob[]; id: string }; answer: string };
  /** What has to be drawn before the findings can tell where colours meet. */
  unmeasured: { ask: null; answer: Unmeasured[] };
  measure: { ask: { drawn: DrawnArtboard[] }; answer: null };
  /** The findings as JSON text. */
  findings: {
    ask: FindingsAsk;
    answer: { version: number; findings: string };
  };
  delivery: { ask: ChosenFiles; answer: DeliveryStart };
  /** What was read comes as JSON text and leaves as an edit that is ready to be stored. */
  place: {
    ask: { read: { name: string; artwork: Uint8Array }[]; options: PlaceOptions; label: string };
    answer: { edit: PreparedEdit | null; refused: Placed['refused']; asks?: Placed['asks'] };
  };
  /** An act of core, as an edit that is ready to be stored. */
  /** The drawings that an act needs outlined, as files to be rendered. */
  outlineJobs: { ask: { name: string; request: ActRequest }; answer: FileJob[] };
  act: { ask: { name: string; request: ActRequest }; answer: { edit: PreparedEdit; selected: readonly string[] } };
  /** What is not as it was when its records were those, and pieces taken back to it; none where nothing would change. */
  since: { ask: { records: string }; answer: { version: number; pieces: PieceSince[] } };
  takeBack: { ask: { records: string; pieceIds: string[] }; answer: PreparedEdit | null };
  fonts: { ask: null; answer: FontRecord[] };
};
export type WorkName = keyof Works;

const decoder = new TextDecoder();

/** Carries out one piece of work on a project. Throws what the project throws. */
export function carryOut<K extends WorkName>(project: OpenProject, name: K, ask: Works[K]['ask']): Works[K]['answer'] {
  const handlers: { [Name in WorkName]: (ask: Works[Name]['ask']) => Works[Name]['answer'] } = {
    stage: ({ name: title, version, records, removed }) => project.stage(title, version, records, removed),
    apply: ({ pictures, fonts }) => {
      project.apply(pictures, fonts);
      return null;
    },
    plan: ({ from, most }) => project.planPart(from, most),
    file: ({ cell, whole }) => ({ version: project.version, file: project.file(cell, whole) }),
    jobs: ({ cells, whole }) => ({ version: project.version, answered: project.jobs(cells, whole) }),
    trial: ({ cell, settings }) => project.trial(cell, settings),
    picture: ({ cell, side }) => project.picture(cell, side),
    pieces: () => project.named(),
    cover: () => project.cover(),
    pictureHashes: () => project.pictureHashes(),
    projectFile: ({ pictures, id }) => project.projectFile(pictures, id),
    unmeasured: () => project.unmeasured(),
    measure: ({ drawn }) => project.measure(drawn),
    findings: (known) => ({
      version: project.version,
      findings: JSON.stringify(project.findings(known)),
    }),
    delivery: (chosen) => project.delivery(chosen),
    place: ({ read, options, label }) => {
      const artwork = read.map(
        (file): NamedArtwork => ({ name: file.name, artwork: JSON.parse(decoder.decode(file.artwork)) }),
      );
      const { change, refused, asks } = project.place(artwork, options);
      const whole: Change = { label, ...change };
      return {
        edit: whole.puts.length + whole.removes.length > 0 ? prepareEdit(whole, project.version) : null,
        refused,
        asks,
      };
    },
    outlineJobs: ({ name: act, request }) => project.outlineJobs(act, request),
    act: ({ name: act, request }) => {
      const { selected = [], ...change } = project.act(act, request);
      return { edit: prepareEdit(change, project.version), selected };
    },
    since: ({ records }) => ({ version: project.version, pieces: project.since(records) }),
    takeBack: ({ records, pieceIds }) => {
      const change = project.takeBack(records, pieceIds);
      return change.puts.length + change.removes.length > 0 ? prepareEdit(change, project.version) : null;
    },
    fonts: () => project.addedFonts(),
  };
  return handlers[name](ask);
}

/** What a thread answers first of all: it is there. */
export const UP = 0;
export type ToThread = { id: number; name: WorkName; ask: unknown };
export type FromThread = { id: number; heapBytes: number } & (
  | { answer: unknown }
  | { problem: Problem }
  | { error: string }
);
