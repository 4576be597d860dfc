import type { CrossingFile, MovesetFile, Path, StateFile } from '../model/index.js';

/** What a moveset is made of, in the words of its file. */
export type ThingKind =
  | 'moveset'
  | 'dial'
  | 'control'
  | 'stance'
  | 'probe'
  | 'variable'
  | 'timer'
  | 'cooldown'
  | 'tether'
  | 'ability'
  | 'setting'
  | 'limit'
  | 'acceptance'
  | 'lane'
  | 'state';

/** A thing with a name, and what its file says of it: a text for each field, such as `motion.drive.to`. */
export interface Thing {
  kind: ThingKind;
  /** The lane of a state. */
  lane: string | undefined;
  name: string;
  /** Where it is in its file. */
  path: Path;
  fields: ReadonlyMap<string, string>;
}

/** A crossing: `from` is its states, or `*`, in one text. */
export interface CrossingThing {
  lane: string;
  from: string;
  to: string;
  /** Where it is in its file. */
  path: Path;
  fields: ReadonlyMap<string, string>;
}

/** All named things of a moveset, in the order of its file; nested states after their groups. */
export function thingsOf(file: MovesetFile): Thing[] {
  const named = (kind: ThingKind, path: Path, all: Readonly<Record<string, unknown>> | undefined): Thing[] =>
    Object.entries(all ?? {}).map(([name, value]) => ({
      kind,
      lane: undefined,
      name,
      path: [...path, name],
      fields: fieldsOf(typeof value === 'object' ? value : { value }),
    }));
  const { plane, tickRate, pixel, gravity, integration } = file;
  const own = fieldsOf({ name: file.name, plane, tickRate, pixel, gravity, integration });
  return [
    { kind: 'moveset', lane: undefined, name: '', path: [], fields: own },
    ...named('dial', ['dials'], file.dials),
    ...named('control', ['controls'], file.controls),
    ...named('stance', ['body', 'stances'], file.body.stances),
    ...named('probe', ['body', 'probes'], file.body.probes),
    ...named('variable', ['variables'], file.variables),
    ...named('timer', ['timers'], file.timers),
    ...named('cooldown', ['cooldowns'], file.cooldowns),
    ...named('tether', ['tethers'], file.tethers),
    ...named('ability', ['abilities'], file.abilities),
    ...named('setting', ['settings'], file.settings),
    ...named('limit', ['limits'], file.limits),
    ...(file.accept ?? []).map(({ finding, ...rest }, i): Thing => ({
      kind: 'acceptance',
      lane: undefined,
      name: finding,
      path: ['accept', i],
      fields: fieldsOf(rest),
    })),
    ...file.lanes.flatMap(({ name, states, crossings: _, ...rest }, i): Thing[] => [
      { kind: 'lane', lane: undefined, name, path: ['lanes', i], fields: fieldsOf(rest) },
      ...statesIn(name, ['lanes', i, 'states'], states, undefined),
    ]),
  ];
}

/** The crossings of a lane, in the order of the file. */
export const crossingsOf = (lane: string, path: Path, crossings: readonly CrossingFile[]): CrossingThing[] =>
  crossings.map(({ from, to, ...rest }, i) => ({
    lane,
    path: [...path, i],
    from: typeof from === 'string' ? from : from.join(', '),
    to,
    fields: fieldsOf(rest),
  }));

function statesIn(
  lane: string,
  path: Path,
  states: Readonly<Record<string, StateFile>>,
  group: string | undefined,
): Thing[] {
  return Object.entries(states).flatMap(([name, { states: members, ...rest }]): Thing[] => [
    { kind: 'state', lane, name, path: [...path, name], fields: fieldsOf({ group, ...rest }) },
    ...statesIn(lane, [...path, name, 'states'], members ?? {}, name),
  ]);
}

/** The texts of a value by field; what is not there has none. */
function fieldsOf(value: unknown): Map<string, string> {
  const fields = new Map<string, string>();
  const see = (path: string, at: unknown): void => {
    if (at === undefined) return;
    if (typeof at !== 'object' || at === null || Array.isArray(at)) fields.set(path, textOf(at));
    else for (const [key, inner] of Object.entries(at)) see(path === '' ? key : `${path}.${key}`, inner);
  };
  see('', value);
  return fields;
}

/** A value as one reads it in a file. Effects follow each other; points and lists keep their brackets. */
function textOf(value: unknown): string {
  if (!Array.isArray(value)) return typeof value === 'object' ? JSON.stringify(value) : String(value);
  const isEffects = value.some((v) => typeof v === 'string' && /[\s:]/.test(v));
  return isEffects && value.every((v) => typeof v === 'string')
    ? value.join('; ')
    : `[${value.map(textOf).join(', ')}]`;
}
