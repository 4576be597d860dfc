import type { CrossingFile, MovesetFile, StateFile } from '../model/index.js';

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
  fields: ReadonlyMap<string, string>;
}

/** A crossing: `from` is its states, or `*`, in one text. */
export interface CrossingThing {
  lane: string;
  from: string;
  to: string;
  fields: ReadonlyMap<string, string>;
}

/** All named things of a moveset, in the order of its file; nested states after their groups. */
export function thingsOf(file: MovesetFile): Thing[] {
  const named = (kind: ThingKind, all: Readonly<Record<string, unknown>> | undefined): Thing[] =>
    Object.entries(all ?? {}).map(([name, value]) => ({
      kind,
      lane: undefined,
      name,
      fields: fieldsOf(typeof value === 'object' ? value : { value }),
    }));
  const { plane, tickRate, pixel, gravity, integration } = file;
  const own = fieldsOf({ name: file.name, plane, tickRate, pixel, gravity, integration });
  return [
    { kind: 'moveset', lane: undefined, name: '', fields: own },
    ...named('dial', file.dials),
    ...named('control', file.controls),
    ...named('stance', file.body.stances),
    ...named('probe', file.body.probes),
    ...named('variable', file.variables),
    ...named('timer', file.timers),
    ...named('cooldown', file.cooldowns),
    ...named('tether', file.tethers),
    ...named('ability', file.abilities),
    ...named('limit', file.limits),
    ...(file.accept ?? []).map(({ finding, ...rest }): Thing => ({
      kind: 'acceptance',
      lane: undefined,
      name: finding,
      fields: fieldsOf(rest),
    })),
    ...file.lanes.flatMap(({ name, states, crossings: _, ...rest }): Thing[] => [
      { kind: 'lane', lane: undefined, name, fields: fieldsOf(rest) },
      ...statesIn(name, states, undefined),
    ]),
  ];
}

/** The crossings of a lane, in the order of the file. */
export const crossingsOf = (lane: string, crossings: readonly CrossingFile[]): CrossingThing[] =>
  crossings.map(({ from, to, ...rest }) => ({
    lane,
    from: typeof from === 'string' ? from : from.join(', '),
    to,
    fields: fieldsOf(rest),
  }));

function statesIn(
  lane: string,
  states: Readonly<Record<string, StateFile>>,
  group: string | undefined,
): Thing[] {
  return Object.entries(states).flatMap(([name, { states: members, ...rest }]): Thing[] => [
    { kind: 'state', lane, name, fields: fieldsOf({ group, ...rest }) },
    ...statesIn(lane, members ?? {}, name),
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
