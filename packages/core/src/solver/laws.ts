import { present } from '../present.js';
import { chainOf, leafFrom, type Machine, refOf } from '../machine/index.js';
import type { FactName } from '../notation/index.js';
import { LARGEST } from '../tolerances.js';
import { bound, boundOf, type Formula, some, truth, truthOf } from './literals.js';

/**
 * What always holds between facts, whatever the moveset does. `laws` gives what follows from one truth fact;
 * `domain` the range of a number. Both are used to find contradictions, so each must be true without exception.
 */
export function consequences(machine: Machine, key: string, value: boolean): Formula[] {
  const ref = refOf(machine.facts, key);
  // Memories have their law where their expression is taken apart.
  if (ref === undefined) return [];
  return ref.of === undefined
    ? plainLaw(machine, ref.fact, value)
    : lawOfThing(machine, ref.fact, ref.of, value);
}

function plainLaw(machine: Machine, fact: FactName, value: boolean): Formula[] {
  if (value) return LAWS[fact] ?? [];
  if (fact === 'rising') return beginsAtRest(machine) ? [some(truth('grounded'), bound('vy', '<=', 0))] : [];
  if (fact === 'falling') return beginsAtRest(machine) ? [some(truth('grounded'), bound('vy', '>=', 0))] : [];
  return LAWS_OF_NOT[fact] ?? [];
}

function lawOfThing(machine: Machine, fact: FactName, of: string, value: boolean): Formula[] {
  switch (fact) {
    case 'pressed':
      return value ? [truthOf('held', of), truthOf('released', of, false)] : [];
    case 'released':
      return value ? [truthOf('held', of, false), truthOf('pressed', of, false)] : [];
    case 'held':
      return value ? [truthOf('released', of, false)] : [truthOf('pressed', of, false)];
    case 'running':
      return value
        ? [truthOf('done', of, false), boundOf('left', of, '>', 0)]
        : [boundOf('left', of, '<=', 0)];
    case 'done':
      return value ? [truthOf('running', of, false), boundOf('left', of, '<=', 0)] : [];
    case 'ready':
      return [value ? boundOf('charges', of, '>=', 1) : boundOf('charges', of, '<=', 0)];
    case 'in':
      return value ? statesExcluded(machine, of) : [];
    default:
      return [];
  }
}

/** Whether no initial state writes vy on entry: before the first tick it would, after `rising` has been sensed. */
const beginsAtRest = (machine: Machine): boolean =>
  !machine.lanes.some((lane) =>
    chainOf(machine, leafFrom(machine, lane.initial)).some((s) =>
      present(machine.states[s]).enter.some((e) => e.kind === 'velocity' && e.channel === 'vy'),
    ),
  );

/** What follows from a fact that stands alone. */
const LAWS: Partial<Record<FactName, Formula[]>> = {
  grounded: [
    truth('airborne', false),
    truth('rising', false),
    truth('falling', false),
    bound('airtime', '<=', 0),
  ],
  airborne: [truth('grounded', false)],
  rising: [truth('airborne'), truth('falling', false), bound('vy', '>', 0)],
  falling: [truth('airborne'), truth('rising', false), bound('vy', '<', 0)],
  pushing: [some(bound('wall', '>=', 1), bound('wall', '<=', -1))],
  downhill: [truth('grounded'), truth('uphill', false), bound('slope', '>', 1)],
  uphill: [truth('grounded'), truth('downhill', false), bound('slope', '>', 1)],
};

/** What follows when it does not hold. */
const LAWS_OF_NOT: Partial<Record<FactName, Formula[]>> = {
  grounded: [truth('airborne'), truth('downhill', false), truth('uphill', false), bound('slope', '<=', 0)],
  airborne: [truth('grounded')],
};

/** Being in a state is being in its groups and in no other state of its lane. */
function statesExcluded(machine: Machine, name: string): Formula[] {
  const state = present(machine.states.find((s) => s.name === name));
  const chain = chainOf(machine, state.index);
  return present(machine.lanes[state.lane]).states.flatMap((other): Formula[] => {
    if (other === state.index) return [];
    if (chain.includes(other)) return [truthOf('in', present(machine.states[other]).name)];
    if (chainOf(machine, other).includes(state.index)) return [];
    return [truthOf('in', present(machine.states[other]).name, false)];
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
  const ref = refOf(machine.facts, key);
  switch (ref?.fact) {
    case 'axis':
      return range(-1, 1, false);
    case 'wall':
    case 'facing':
      return range(-1, 1, true);
    case 'speed':
      return range(0, 2 * LARGEST, false);
    case 'slope':
      return range(0, 90, false);
    case 'elapsed':
    case 'laneElapsed':
    case 'airtime':
    case 'left':
      return range(0, Infinity, true);
    case 'charges':
      return range(0, present(machine.cooldowns.find((c) => c.name === ref.of)).charges, true);
    case 'distance':
      return range(0, present(machine.probes.find((p) => p.name === ref.of)).reach, false);
    case 'variable': {
      const { kind, max } = present(machine.variables.find((v) => v.name === ref.of));
      return kind === 'count' ? range(0, max, true) : range(-LARGEST, LARGEST, false);
    }
    case 'vx':
    case 'vy':
      return range(-LARGEST, LARGEST, false);
    // A run ends where its body has left the course, which is at most 1e6 m across, by no more than one tick's way.
    case 'x':
    case 'y':
    case 'height':
    case 'tetherLength':
      return range(-4 * LARGEST, 4 * LARGEST, false);
    case 'tethers':
      return range(
        0,
        machine.tethers.reduce((n, t) => n + t.most, 0),
        true,
      );
    case 'aim':
      return range(-180, 180, false);
    case 'angle':
      return range(0, 90, false);
    default:
      return range(-Infinity, Infinity, false);
  }
}
