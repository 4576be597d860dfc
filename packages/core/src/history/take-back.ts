import { arranged, type Change, edit, type MovesetFile, type Path } from '../model/index.js';
import { type Machine, rename } from '../machine/index.js';
import type { SymbolKind } from '../notation/index.js';
import type { Difference } from './differences.js';
import { thingsOf } from './things.js';

/** The later moveset: its text, and what it reads as. */
export interface Later {
  text: string;
  file: MovesetFile;
  machine: Machine;
}

/**
 * The later text with one difference taken back, and all others left: what came is gone, what went is there again, what
 * was changed says what it said, what was renamed has its old name, what stood in another order or group is back there.
 * `old` is the earlier moveset with the new names. Undefined for a state whose group is gone. Whether the text loads is for
 * the caller to see: something else may ask for what came.
 */
export function takenBack(difference: Difference, old: MovesetFile, later: Later): string | undefined {
  const { kind, name, was, what, places, arrange } = difference;
  if (arrange !== undefined) return arranged(later.text, arrange.list, arrange.order);
  if (what === 'renamed') {
    const symbol = symbolOf(kind, later.machine, name);
    return symbol === undefined || was === undefined
      ? undefined
      : rename(later.text, later.machine, symbol, name, was);
  }
  const changes = changesBack(difference, old, later.file);
  return changes === undefined || (places.before === undefined && places.after === undefined)
    ? undefined
    : edit(later.text, changes);
}

function changesBack(
  { kind, lane, name, fields, places: { before, after } }: Difference,
  old: MovesetFile,
  file: MovesetFile,
): Change[] | undefined {
  if (before === undefined) return after === undefined ? undefined : [{ path: after }];
  const value = valueAt(old, before);
  if (after === undefined) return putBack(before, value, file);
  const group = fields.find(({ field }) => field === 'group');
  if (group !== undefined) {
    const home = homeIn(file, lane, group.before);
    const isInItself = home !== undefined && after.every((step, i) => home[i] === step);
    if (home === undefined || isInItself) return undefined;
    return [{ path: after }, { path: [...home, name], value: withMembers(value, valueAt(file, after)) }];
  }
  if (kind === 'moveset' || kind === 'lane')
    return fields.map(({ field }) => ({ path: [...after, field], value: valueAt(old, [...before, field]) }));
  return [{ path: after, value: kind === 'state' ? withMembers(value, valueAt(file, after)) : value }];
}

/** Where the states of a group, or those of a lane that are in none, stand; undefined when it is gone. */
function homeIn(file: MovesetFile, lane: string | undefined, group: string | undefined): Path | undefined {
  const holder = thingsOf(file).find((thing) =>
    group === undefined
      ? thing.kind === 'lane' && thing.name === lane
      : thing.kind === 'state' && thing.lane === lane && thing.name === group,
  );
  return holder && [...holder.path, 'states'];
}

/** What went, where it was: in a list before what stood after it. */
function putBack(path: Path, value: unknown, file: MovesetFile): Change[] {
  const [around, last] = [path.slice(0, -1), path[path.length - 1]];
  const list = valueAt(file, around);
  if (typeof last === 'string') {
    return list === undefined ? [{ path: around, value: { [last]: value } }] : [{ path, value }];
  }
  return Array.isArray(list)
    ? [{ path: [...around, Math.min(Number(last), list.length)], value, insert: true }]
    : [{ path: around, value: [value] }];
}

/** What a state said, with the states that are in it now: they are differences of their own. */
function withMembers(value: unknown, now: unknown): unknown {
  const { states: _, ...own } = value as { states?: unknown };
  const { states } = now as { states?: unknown };
  return states === undefined ? own : { ...own, states };
}

const valueAt = (file: unknown, path: Path): unknown =>
  path.reduce<unknown>(
    (at, step) =>
      typeof at === 'object' && at !== null ? (at as Record<string | number, unknown>)[step] : undefined,
    file,
  );

/** What a renamed thing is to the notation. */
function symbolOf(kind: Difference['kind'], machine: Machine, name: string): SymbolKind | undefined {
  switch (kind) {
    case 'control':
      return machine.controls.find((c) => c.name === name)?.kind;
    case 'moveset':
    case 'setting':
    case 'limit':
    case 'acceptance':
    case 'crossing':
      return undefined;
    default:
      return kind;
  }
}
