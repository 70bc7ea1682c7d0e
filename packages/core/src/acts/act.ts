import type { z } from 'zod';
import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Edition } from '../document/records';
import type { SettingsOf } from '../formats';
import type { Need } from './doing/needs';

/** The edition that is shown, and the artwork of the project as it shows it. */
export type ShownEdition = { edition: Edition; artwork: ProjectDocument };

/** What somebody means to act on, said without any screen. */
export type Intent = {
  /** Ids of layers, artboards, slices and editions. */
  selection: ReadonlySet<string>;
  shown: ShownEdition | null;
  /** Where changes of layers go while an edition is shown. */
  changes: 'edition' | 'base';
  /** Whether what lies on an artboard goes along with it. */
  carry: boolean;
};

/** A drawing whose outline an act needs, as SVG; its size in px of the plane. */
export type OutlineJob = {
  svg: string;
  widthPx: number;
  heightPx: number;
  shapes: Exclude<SettingsOf<'svg'>['shapes'], 'drawn'>;
};

/** What an act does: a change, and what is selected after it where that is something else. */
export type Outcome = Change & { selected?: readonly string[] };

/** Where commands are listed together. */
export type ActGroup = 'Arrange' | 'Layers' | 'Pieces' | 'Files';

/** Something a person can do to a project. Every act is a function from a document and an intent to a change. */
export type Act<Settings = unknown> = {
  /** In addresses and on the command line, such as `trim-to-artwork`. */
  name: string;
  /** As it is listed, such as "Trim to artwork". */
  title: string;
  group: ActGroup;
  needs: Need;
  settings: z.ZodType<Settings>;
  /** What is said when it would change nothing. */
  nothing: string;
  /** The drawings that have to be outlined before the act is done; the results are passed back in its settings. */
  outlines?(doc: ProjectDocument, intent: Intent): OutlineJob[];
  /** Throws a `Refusal` that says why it cannot be done. */
  run(doc: ProjectDocument, intent: Intent, settings: Settings): Outcome;
};

// biome-ignore lint/suspicious/noExplicitAny: an act takes what its own schema has read
export type AnyAct = Act<any>;

/** An act as it is declared; its settings take their type from their schema, its name stays a word. */
export const defineAct = <const Name extends string, Schema extends z.ZodType>(
  act: Omit<Act<z.output<Schema>>, 'name' | 'settings'> & { name: Name; settings: Schema },
) => act;

/** Settings of an act as they may be said: what has a default may be left out. */
export type ActSettings<Done extends { settings: z.ZodType }> = z.input<Done['settings']>;
