import { present } from '../../../present.js';
import { type Effect, leavesOf, type Machine } from '../../../machine/index.js';
import {
  factId,
  factsIn,
  type FactRef,
  formatValue,
  visit,
  type Expression,
} from '../../../notation/index.js';
import type { ThingValue, Writer, Writers } from '../../catalogue/evidence.js';
import { placeOf } from '../guard.js';
import { perMachine } from '../per-machine.js';
import { boundOf, type Formula, truthOf } from '../../../solver/index.js';
import { type Cuts, cutsOf, endsOf, formulasOfRegion, MAX_CUTS, regionOf, regionsOf } from './regions.js';

/**
 * One discrete thing that the skeleton follows: a digit of the number that a situation is to it. Its values are 0 to
 * `size` − 1.
 */
export interface Digit {
  kind: 'leaf' | 'flag' | 'count' | 'number' | 'timer' | 'charges' | 'lock' | 'event';
  /** Into the machine's lanes, variables, timers, cooldowns, abilities or events. */
  index: number;
  name: string;
  size: number;
  /** A leaf's states by value; empty for the rest. */
  leaves: number[];
  /** The highest value stands for it and everything above. */
  saturated: boolean;
  /** The constants that part a number's values; empty for the rest. */
  cuts: Cuts;
}

/** Values of a timer. */
export const IDLE = 0;
export const RUNNING = 1;
export const DONE = 2;

/** Something that is left free. */
export type Freed = Pick<Digit, 'kind' | 'index' | 'name'>;

/** What the skeleton of one lane follows, and what it leaves free because it would be too large. */
export interface Slice {
  lane: number;
  /** Lanes that are followed, in the order in which they act. */
  lanes: number[];
  digits: Digit[];
  /** What is free though a guard reads it. */
  freed: Freed[];
}

/** Counts above this are followed up to the largest constant that a guard compares them with. */
const MAX_COUNTED = 15;

/**
 * The slice of a lane: its states, what its guards read, and what writes and guards that in turn, nearest first, until
 * the product of the sizes would exceed `limit`; before all others `first`. Whatever is left out may be anything at any time, so that what the
 * slice cannot reach, nothing can.
 */
export function sliceOf(
  machine: Machine,
  lane: number,
  limit: number,
  first: readonly Pick<Digit, 'kind' | 'index'>[] = [],
): Slice {
  const lanes: number[] = [];
  const digits: Digit[] = [];
  const freed: Freed[] = [];
  const seen = new Set<string>();
  let product = 1;
  const wanted: { kind: Digit['kind']; index: number }[] = [{ kind: 'leaf', index: lane }, ...first];
  for (let next = wanted.shift(); next !== undefined; next = wanted.shift()) {
    const { kind, index } = next;
    if (seen.has(`${kind} ${index}`)) continue;
    seen.add(`${kind} ${index}`);
    const digit = digitOf(machine, kind, index);
    // A number that is never compared with a constant by itself tells nothing.
    if (digit?.size === 1 && kind === 'number') continue;
    const isRoomy = digit !== undefined && product * digit.size <= limit;
    if (digit === undefined || !isRoomy) {
      freed.push({ kind, index, name: nameOf(machine, kind, index) });
      continue;
    }
    // What a lane outside the slice writes cannot be followed: its lane comes in first, or the thing stays free.
    const writers = writersOf(machine, kind, index).filter((w) => !lanes.includes(w));
    const more = writers.map((w) => present(digitOf(machine, 'leaf', w)));
    const total = more.reduce((n, p) => n * p.size, product * digit.size);
    if (total > limit) {
      freed.push({ kind, index, name: digit.name });
      continue;
    }
    for (const writer of more) {
      lanes.push(writer.index);
      seen.add(`leaf ${writer.index}`);
      digits.push(writer);
      wanted.push(...readBy(machine, 'leaf', writer.index));
    }
    product = total;
    digits.push(digit);
    if (kind === 'leaf') lanes.push(index);
    wanted.push(...readBy(machine, kind, index));
  }
  return { lane, lanes: lanes.sort((a, b) => a - b), digits, freed };
}

function digitOf(machine: Machine, kind: Digit['kind'], index: number): Digit | undefined {
  const base = { kind, index, name: nameOf(machine, kind, index), leaves: [], saturated: false, cuts: [] };
  switch (kind) {
    case 'leaf': {
      const leaves = present(machine.lanes[index]).states.filter(
        (s) => present(machine.states[s]).members.length === 0,
      );
      return { ...base, size: leaves.length, leaves };
    }
    case 'timer':
      return { ...base, size: 3 };
    case 'charges':
      return present(machine.cooldowns[index]).charges > MAX_COUNTED
        ? undefined
        : { ...base, size: present(machine.cooldowns[index]).charges + 1 };
    case 'count': {
      const { max, name } = present(machine.variables[index]);
      const top = max <= MAX_COUNTED ? max : Math.min(max, largestBeside(machine, name) + 1);
      return top > MAX_COUNTED ? undefined : { ...base, size: top + 1, saturated: top < max };
    }
    case 'number': {
      const cuts = cutsOf(guardsOf(machine), factId('variable', base.name));
      return cuts.length > MAX_CUTS ? undefined : { ...base, size: regionsOf(cuts), cuts };
    }
    default:
      return { ...base, size: 2 };
  }
}

/** All conditions that decide something: guards, and what gives a thing back or lets a timer run. */
const guardsOf = (machine: Machine): Expression[] =>
  [
    ...machine.lanes.flatMap((l) => l.crossings.map((c) => c.when)),
    ...machine.variables.map((v) => v.refill),
    ...machine.cooldowns.map((c) => c.refill),
    ...machine.timers.map((t) => t.runs),
  ].filter((e) => e !== undefined);

function nameOf(machine: Machine, kind: Digit['kind'], index: number): string {
  const lists = {
    leaf: machine.lanes,
    flag: machine.variables,
    count: machine.variables,
    number: machine.variables,
    timer: machine.timers,
    charges: machine.cooldowns,
    lock: machine.abilities,
  };
  return kind === 'event'
    ? present(machine.events[index])
    : present((lists[kind] as readonly { name: string }[])[index]).name;
}

/** The largest constant that stands beside a variable in any comparison. */
function largestBeside(machine: Machine, name: string): number {
  let largest = 0;
  const guards = machine.lanes.flatMap((l) => l.crossings.flatMap((c) => c.when ?? []));
  for (const guard of guards) {
    visit(guard, (e) => {
      const speaks = factsIn(e).some(({ fact, of }) => fact === 'variable' && of === name);
      if (e.kind !== 'compare' || !speaks) return;
      visit(e, (digit) => {
        if (digit.kind === 'constant') largest = Math.max(largest, Math.abs(Math.ceil(digit.value)));
      });
    });
  }
  return largest;
}

/** The effects of each lane. */
const effectsByLane = perMachine((machine) =>
  machine.lanes.map((lane): Effect[] => [
    ...lane.states.flatMap((s) => {
      const { enter, exit, each } = present(machine.states[s]);
      return [...enter, ...exit, ...each];
    }),
    ...lane.crossings.flatMap((c) => c.do),
  ]),
);

/** Lanes whose effects write each thing, by its kind and index. */
const knownWriters = perMachine(() => new Map<string, number[]>());

function writersOf(machine: Machine, kind: Digit['kind'], index: number): number[] {
  if (kind === 'leaf') return [];
  const known = knownWriters(machine);
  let lanes = known.get(`${kind} ${index}`);
  if (lanes === undefined) {
    lanes = effectsByLane(machine).flatMap((effects, lane) =>
      effects.some((e) => writes(e, kind, index)) ? [lane] : [],
    );
    known.set(`${kind} ${index}`, lanes);
  }
  return lanes;
}

/** Whether a digit is the value of a variable. */
export const isVariable = (kind: Digit['kind']): boolean =>
  kind === 'flag' || kind === 'count' || kind === 'number';

/** Whether an effect writes a thing. */
export function writes(e: Effect, kind: Digit['kind'], index: number): boolean {
  switch (e.kind) {
    case 'variable':
      return isVariable(kind) && e.variable === index;
    case 'spend':
    case 'refill':
      return kind === (e.what === 'count' ? 'count' : 'charges') && e.index === index;
    case 'start':
    case 'stop':
      return kind === 'timer' && e.timer === index;
    case 'lock':
    case 'unlock':
      return kind === 'lock' && e.ability === index;
    case 'raise':
      return kind === 'event' && e.event === index;
    default:
      return false;
  }
}

/** What the guards of a lane, or the condition of a thing, read. */
function readBy(
  machine: Machine,
  kind: Digit['kind'],
  index: number,
): { kind: Digit['kind']; index: number }[] {
  const conditions: (Expression | undefined)[] = [];
  const abilities: number[] = [];
  if (kind === 'leaf') {
    for (const crossing of present(machine.lanes[index]).crossings) {
      conditions.push(crossing.when);
      abilities.push(
        crossing.ability,
        ...leavesOf(machine, crossing.to).map((s) => present(machine.states[s]).ability),
      );
    }
  } else if (isVariable(kind)) conditions.push(present(machine.variables[index]).refill);
  else if (kind === 'charges') conditions.push(present(machine.cooldowns[index]).refill);
  else if (kind === 'timer') conditions.push(present(machine.timers[index]).runs);
  const digits = conditions
    .flatMap((c) => (c === undefined ? [] : factsIn(c)))
    .flatMap((ref) => digitRead(machine, ref) ?? []);
  return [
    ...digits,
    ...[...new Set(abilities)].filter((a) => a >= 0).map((a) => ({ kind: 'lock' as const, index: a })),
  ];
}

/** The thing that a fact tells of, if the skeleton may follow it. */
export function digitRead(
  machine: Machine,
  { fact, of }: FactRef,
): { kind: Digit['kind']; index: number } | undefined {
  const at = (kind: Digit['kind'], list: readonly { name: string }[]) => {
    const index = list.findIndex((thing) => thing.name === of);
    return index < 0 ? undefined : { kind, index };
  };
  switch (fact) {
    case 'variable': {
      const kind = machine.variables.find((v) => v.name === of)?.kind;
      return kind === undefined ? undefined : at(kind, machine.variables);
    }
    case 'running':
    case 'done':
    case 'left':
      return at('timer', machine.timers);
    case 'ready':
    case 'charges':
      return at('charges', machine.cooldowns);
    case 'unlocked':
      return at('lock', machine.abilities);
    case 'event':
      return { kind: 'event', index: machine.events.indexOf(present(of)) };
    case 'in':
      return { kind: 'leaf', index: present(machine.states.find((s) => s.name === of)).lane };
    default:
      return undefined;
  }
}

/** A digit having a value, as the solver sees it. */
export function fixed(machine: Machine, digit: Digit, value: number): Formula[] {
  const { name } = digit;
  switch (digit.kind) {
    case 'leaf':
      return [truthOf('in', present(machine.states[present(digit.leaves[value])]).name)];
    case 'flag':
      return [truthOf('variable', name, value === 1)];
    case 'count':
      return digit.saturated && value === digit.size - 1
        ? [boundOf('variable', name, '>=', value)]
        : [boundOf('variable', name, '<=', value), boundOf('variable', name, '>=', value)];
    case 'number':
      return formulasOfRegion(digit.cuts, value, factId('variable', name));
    case 'timer':
      return [truthOf('running', name, value === RUNNING), truthOf('done', name, value === DONE)];
    case 'charges':
      return [
        truthOf('ready', name, value > 0),
        boundOf('charges', name, '<=', value),
        boundOf('charges', name, '>=', value),
      ];
    case 'lock':
      return [truthOf('unlocked', name, value === 1)];
    case 'event':
      return [truthOf('event', name, value === 1)];
  }
}

/** A digit's value before the first tick. */
export function initialValue(machine: Machine, digit: Digit): number {
  switch (digit.kind) {
    case 'flag':
      return present(machine.variables[digit.index]).initial === 0 ? 0 : 1;
    case 'count':
      return Math.min(present(machine.variables[digit.index]).initial, digit.size - 1);
    case 'number':
      return regionOf(digit.cuts, present(machine.variables[digit.index]).initial);
    case 'charges':
      return present(machine.cooldowns[digit.index]).charges;
    case 'lock':
      return present(machine.abilities[digit.index]).locked ? 0 : 1;
    default:
      return 0;
  }
}

/** A value of a digit, as evidence. */
export const valueOf = (machine: Machine, digit: Digit, value: number): ThingValue => ({
  kind: digit.kind,
  name: digit.name,
  value,
  ...(digit.kind === 'leaf' ? { state: present(machine.states[present(digit.leaves[value])]).name } : {}),
  ...(digit.saturated && value === digit.size - 1 ? { orMore: true } : {}),
  ...(digit.kind === 'number' ? { between: betweenOf(machine, digit, value) } : {}),
});

/** The ends of a number's region, as people write them; null where it has none. */
function betweenOf(machine: Machine, { cuts, index }: Digit, region: number): [string | null, string | null] {
  const { dimension } = present(machine.variables[index]);
  const { low, high } = endsOf(cuts, region);
  const text = (n: number): string | null => (Number.isFinite(n) ? formatValue(n, dimension) : null);
  return [text(low), text(high)];
}

/** Everything that writes a thing: entering or leaving a state, every tick in it, or a crossing. */
export function writersOfThing(
  machine: Machine,
  { kind, index, name }: Pick<Digit, 'kind' | 'index' | 'name'>,
): Writers {
  const by: Writer[] = [];
  for (const state of machine.states) {
    const note = (list: readonly Effect[], how: Writer['how']): void => {
      if (list.some((e) => writes(e, kind, index))) by.push({ how, state: state.name });
    };
    note(state.enter, 'entering');
    note(state.exit, 'leaving');
    note(state.each, 'every tick in');
  }
  for (const crossing of machine.lanes.flatMap((l) => l.crossings)) {
    if (!crossing.do.some((e) => writes(e, kind, index))) continue;
    const { from, to } = placeOf(machine, crossing);
    by.push({ how: 'crossing', state: to, from });
  }
  const fromExit = kind === 'charges' && present(machine.cooldowns[index]).from === 'exit';
  return { kind, name, by, ...(fromExit ? { fromExit } : {}) };
}
