import type { MovesetFile } from '../model/index.js';
import { type Thing, thingsOf } from './things.js';

/** A thing that is there under another name. */
export interface Rename {
  kind: Thing['kind'];
  lane: string | undefined;
  before: string;
  after: string;
}

/**
 * What was given another name between two movesets: a thing that is gone, where a single new one of its kind says the same
 * and stands wherever the old one was asked for.
 */
export function renamesBetween(before: MovesetFile, after: MovesetFile): Rename[] {
  const [old, now] = [thingsOf(before), thingsOf(after)];
  const gone = missingFrom(now, old);
  const come = missingFrom(old, now);
  const renames: Rename[] = [];
  for (const thing of gone.filter(({ kind }) => kind !== 'acceptance')) {
    const twins = come.filter((other) => isTwin(thing, other));
    const rivals = gone.filter((other) => twins[0] !== undefined && isTwin(other, twins[0]));
    const [twin] = twins;
    if (twin === undefined || twins.length > 1 || rivals.length > 1) continue;
    if (!takesItsPlace(before, after, thing.name, twin.name)) continue;
    renames.push({ kind: thing.kind, lane: thing.lane, before: thing.name, after: twin.name });
  }
  return renames;
}

/** A moveset with names as they are afterwards, wherever they stand. */
export const withRenames = (file: MovesetFile, renames: readonly Rename[]): MovesetFile =>
  renames.reduce((renamed, { before, after }) => replaced(renamed, before, after), file);

/** A text with names as they are afterwards. */
export const withNewNames = (text: string, renames: readonly Rename[]): string =>
  renames.reduce((renamed, { before, after }) => withWord(renamed, before, after), text);

/** The things of one list that another does not have, by kind, lane and name. */
function missingFrom(list: readonly Thing[], all: readonly Thing[]): Thing[] {
  const known = new Set(list.map(keyOf));
  return all.filter((thing) => !known.has(keyOf(thing)));
}

/** What a thing is known by. */
export const keyOf = ({ kind, lane, name }: Pick<Thing, 'kind' | 'lane' | 'name'>): string =>
  JSON.stringify([kind, lane ?? null, name]);

function isTwin(a: Thing, b: Thing): boolean {
  if (a.kind !== b.kind || a.lane !== b.lane || a.fields.size !== b.fields.size) return false;
  return [...a.fields].every(([field, text]) => withWord(text, a.name, b.name) === b.fields.get(field));
}

/** Whether the old name is nowhere afterwards, and the new one is now wherever it was: at least its own declaration. */
function takesItsPlace(before: MovesetFile, after: MovesetFile, old: string, name: string): boolean {
  const count = (file: MovesetFile, word: string): number =>
    JSON.stringify(file).match(wordOf(word))?.length ?? 0;
  return count(before, name) === 0 && count(after, old) === 0 && count(before, old) > 1;
}

const wordOf = (name: string): RegExp => new RegExp(`(?<![\\w])${escaped(name)}(?![\\w])`, 'g');

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

const withWord = (text: string, before: string, after: string): string =>
  text.replace(wordOf(before), () => after);

/** A value with a word replaced in all its texts and keys. */
function replaced<T>(value: T, before: string, after: string): T {
  const walk = (at: unknown): unknown => {
    if (typeof at === 'string') return withWord(at, before, after);
    if (Array.isArray(at)) return at.map(walk);
    if (typeof at !== 'object' || at === null) return at;
    return Object.fromEntries(
      Object.entries(at).map(([key, inner]) => [withWord(key, before, after), walk(inner)]),
    );
  };
  return walk(value) as T;
}
