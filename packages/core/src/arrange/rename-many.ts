import type { Artboard, Edition, Settings, Slice } from '../document/records';
import { foldPath, inCase } from '../plan/names';

type Named = Artboard | Slice | Edition;

export type RenameRule =
  | { kind: 'replace'; find: string; replaceBy: string }
  /** `{name}` is the name so far, `{number}` counts from `start`. */
  | { kind: 'template'; template: string; start: number; digits: number }
  | { kind: 'case'; letterCase: Exclude<Settings['letterCase'], 'asTyped'> | 'spaced' }
  /** Each its own, in order; where one is empty or missing, the name stays. */
  | { kind: 'list'; names: readonly string[] };

/** The name a record gets by a rule; `index` is its place among those that are renamed, from 0. */
export function renamed(name: string, index: number, rule: RenameRule): string {
  switch (rule.kind) {
    case 'replace':
      return rule.find === '' ? name : name.split(rule.find).join(rule.replaceBy).trim();
    case 'template': {
      const number = String(rule.start + index).padStart(rule.digits, '0');
      return rule.template
        .replace(/\{name\}/g, name)
        .replace(/\{number\}/g, number)
        .trim();
    }
    case 'case':
      return rule.letterCase === 'spaced' ? name.replace(/[\s_-]+/g, ' ').trim() : inCase(name, rule.letterCase);
    case 'list':
      return rule.names[index]?.trim() || name;
  }
}

export type RenamePreview = { record: Named; name: string; trouble: 'empty' | 'taken' | null };

/** What a rule would do, with names that would be empty or taken twice; `all` are the names that stay. */
export const previewRename = (records: readonly Named[], rule: RenameRule, all: readonly Named[]): RenamePreview[] =>
  namedSo(
    records,
    records.map((record, i) => renamed(record.name, i, rule).slice(0, 300)),
    all,
  );

/** Some pieces with the names that they would have, and what is wrong with those; `all` are the names that stay. */
export function namedSo(records: readonly Named[], names: readonly string[], all: readonly Named[]): RenamePreview[] {
  const chosen = new Set(records.map((record) => record.id));
  const counts = new Map<string, number>();
  for (const name of [...names, ...all.filter((record) => !chosen.has(record.id)).map((record) => record.name)])
    counts.set(foldPath(name), (counts.get(foldPath(name)) ?? 0) + 1);
  return records.map((record, i) => ({
    record,
    name: names[i],
    trouble: names[i].trim() === '' ? 'empty' : (counts.get(foldPath(names[i])) ?? 0) > 1 ? 'taken' : null,
  }));
}
