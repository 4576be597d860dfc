import { chainOf, leafFrom, type Machine } from '../machine/index.js';
import { bound, type Formula, some, truth } from './literals.js';

/**
 * What always holds between facts, whatever the moveset does. `laws` gives what follows from one truth fact;
 * `domain` the range of a number. Both are used to find contradictions, so each must be true without exception.
 */
export function consequences(machine: Machine, key: string, value: boolean): Formula[] {
  let laws = known.get(machine);
  if (laws === undefined) known.set(machine, (laws = new Map()));
  const law = value ? key : `not ${key}`;
  let formulas = laws.get(law);
  if (formulas === undefined) laws.set(law, (formulas = lawOf(machine, key, value)));
  return formulas;
}

/** The laws of each machine that were asked for before: the solver asks the same ones again and again. */
const known = new WeakMap<Machine, Map<string, Formula[]>>();

function lawOf(machine: Machine, key: string, value: boolean): Formula[] {
  const law = `${value ? '' : 'not '}${key}`;
  if (Object.hasOwn(PLAIN_LAWS, law)) return PLAIN_LAWS[law]!;
  if (law === 'not rising')
    return beginsAtRest(machine) ? [some(truth('grounded'), bound('vy', '<=', 0))] : [];
  if (law === 'not falling')
    return beginsAtRest(machine) ? [some(truth('grounded'), bound('vy', '>=', 0))] : [];
  const [, fact, name] = /^(\w+)\((\w+)\)$/.exec(key) ?? [];
  if (fact === undefined || name === undefined) return [];
  switch (`${value ? '' : 'not '}${fact}`) {
    case 'pressed':
      return [truth(`held(${name})`), truth(`released(${name})`, false)];
    case 'released':
      return [truth(`held(${name})`, false), truth(`pressed(${name})`, false)];
    case 'not held':
      return [truth(`pressed(${name})`, false)];
    case 'held':
      return [truth(`released(${name})`, false)];
    case 'running':
      return [truth(`done(${name})`, false), bound(`left(${name})`, '>', 0)];
    case 'not running':
      return [bound(`left(${name})`, '<=', 0)];
    case 'done':
      return [truth(`running(${name})`, false), bound(`left(${name})`, '<=', 0)];
    case 'ready':
      return [bound(`charges(${name})`, '>=', 1)];
    case 'not ready':
      return [bound(`charges(${name})`, '<=', 0)];
    case 'in':
      return statesExcluded(machine, name);
    default:
      return [];
  }
}

/** Whether no initial state writes vy on entry: before the first tick it would, after `rising` has been sensed. */
const beginsAtRest = (machine: Machine): boolean =>
  !machine.lanes.some((lane) =>
    chainOf(machine, leafFrom(machine, lane.initial)).some((s) =>
      machine.states[s]!.enter.some((e) => e.kind === 'velocity' && e.channel === 'vy'),
    ),
  );

const PLAIN_LAWS: Record<string, Formula[]> = {
  grounded: [
    truth('airborne', false),
    truth('rising', false),
    truth('falling', false),
    bound('airtime', '<=', 0),
  ],
  'not grounded': [
    truth('airborne'),
    truth('downhill', false),
    truth('uphill', false),
    bound('slope', '<=', 0),
  ],
  airborne: [truth('grounded', false)],
  'not airborne': [truth('grounded')],
  rising: [truth('airborne'), truth('falling', false), bound('vy', '>', 0)],
  falling: [truth('airborne'), truth('rising', false), bound('vy', '<', 0)],
  pushing: [some(bound('wall', '>=', 1), bound('wall', '<=', -1))],
  downhill: [truth('grounded'), truth('uphill', false), bound('slope', '>', 1)],
  uphill: [truth('grounded'), truth('downhill', false), bound('slope', '>', 1)],
};

/** Being in a state is being in its groups and in no other state of its lane. */
function statesExcluded(machine: Machine, name: string): Formula[] {
  const state = machine.states.find((s) => s.name === name)!;
  const chain = chainOf(machine, state.index);
  return machine.lanes[state.lane]!.states.flatMap((other): Formula[] => {
    if (other === state.index) return [];
    if (chain.includes(other)) return [truth(`in(${machine.states[other]!.name})`)];
    if (chainOf(machine, other).includes(state.index)) return [];
    return [truth(`in(${machine.states[other]!.name})`, false)];
  });
}

export interface Range {
  low: number;
  lowOpen: boolean;
  high: number;
  highOpen: boolean;
  /** Only whole numbers occur. */
  whole: boolean;
}

/** The values that a number can ever have. Lengths of time are in ticks. */
export function domainOf(machine: Machine, key: string): Range {
  const range = (low: number, high: number, whole: boolean): Range => ({
    low,
    lowOpen: false,
    high,
    highOpen: false,
    whole,
  });
  const [, fact, name] = /^(\w+)\((\w+)\)$/.exec(key) ?? [];
  switch (fact ?? (key.startsWith('elapsed@') ? 'elapsed' : key)) {
    case 'axis':
      return range(-1, 1, false);
    case 'wall':
    case 'facing':
      return range(-1, 1, true);
    case 'speed':
      return range(0, Infinity, false);
    case 'slope':
      return range(0, 90, false);
    case 'elapsed':
    case 'airtime':
      return range(0, Infinity, true);
    case 'left':
      return range(0, Infinity, true);
    case 'charges':
      return range(0, machine.cooldowns.find((c) => c.name === name)!.charges, true);
    case 'distance':
      return range(0, machine.probes.find((p) => p.name === name)!.reach, false);
  }
  const count = machine.variables.find((v) => v.name === key && v.kind === 'count');
  return count === undefined ? range(-Infinity, Infinity, false) : range(0, count.max, true);
}
