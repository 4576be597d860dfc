import { present } from '../../../../present.js';
import type { Machine } from '../../../../machine/index.js';
import { type Formula, keysIn } from '../../../../solver/index.js';
import { type Exit, exitsIn, leavesOfLane } from '../explore/exits.js';
import type { Digit, Slice } from '../space.js';
import { areTelling, readTime, type Clock, clocksOf, isTimed, type Reading, readingsAt } from './clocks.js';
import { holdsTicks, rangeOf } from './difference-bounds.js';
import { follow, type Node } from './follow.js';
import { formulasOf } from './limits.js';

/** What the clocks of a slice may show, by the values of its timed digits. */
export interface Timing {
  /** What is known of the numbers with some keys when lanes decide; undefined when no run decides in these values. */
  atDecision(values: readonly number[], keys: ReadonlySet<string>): Formula[] | undefined;
  /** A number for these values that is the same wherever time stands alike; undefined when no run decides in them. */
  placeOf(values: readonly number[]): number | undefined;
  /** Whether the digit at a place is one that follows time. */
  follows(place: number): boolean;
  /** Whether a run ever comes to these values. */
  isPossible(values: readonly number[]): boolean;
  /** The values that the digits of time may come to by themselves in one tick, as changes of these. */
  later(values: readonly number[]): number[][];
  /** Between which ticks the number with a key may be when lanes decide; undefined when it is not followed there. */
  rangeAt(values: readonly number[], key: string): { low: number; high: number } | undefined;
  /** Whether clocks may show these ticks after a tick that ended with these values: for holding it to runs. */
  holdsAfter(values: readonly number[], ticks: (clock: Clock) => number | undefined): boolean;
  keys: ReadonlySet<string>;
}

/** The product of the timed digits' sizes, and the looks at nodes, beyond which clocks are not followed. */
const MAX_PRODUCT = 6000;

/**
 * Follows the clocks of a slice: `elapsed`, what timers have left, recharging, `airtime`. Everything but its states,
 * timers and charges may be anything. Undefined when the slice's own lane asks for no time, when clocks have nothing to
 * tell, or when it would be too large.
 */
export function timingOf(machine: Machine, slice: Slice): Timing | undefined {
  const places = timedPlaces(slice.digits);
  const timed: Slice = { ...slice, digits: places.map((p) => present(slice.digits[p])) };
  const exits = new Map<number, Exit[]>();
  for (const lane of slice.lanes)
    for (const leaf of leavesOfLane(machine, lane)) exits.set(leaf, exitsIn(machine, timed, leaf));
  const own = leavesOfLane(machine, slice.lane).flatMap((leaf) => present(exits.get(leaf)));
  if (!readTime(machine, keysIn(own.flatMap((exit) => exit.asks)))) return undefined;
  const compared = comparisons([...exits.values()].flat());
  const clocks = clocksOf(machine, timed, compared.keys);
  if (!areTelling(machine, clocks, compared.keys)) return undefined;
  const nodes = follow(machine, timed, clocks, exits, compared.constants);
  if (nodes === undefined) return undefined;
  const sizes = timed.digits.map((d) => d.size);
  // Asked for each step of the skeleton: the same number as that of a node, from the values of all digits.
  const find = (values: readonly number[]): Node | undefined => {
    let code = 0;
    for (let i = places.length - 1; i >= 0; i--) code = code * sizes[i]! + values[places[i]!]!;
    return nodes.get(code);
  };
  const read = new Map<Node, Reading[]>();
  const readings = (node: Node): Reading[] => {
    let list = read.get(node);
    if (list === undefined) read.set(node, (list = readingsAt(machine, timed, clocks, node.values)));
    return list;
  };
  return {
    keys: new Set(
      [...nodes.values()]
        .flatMap((node) => readings(node).map((r) => r.key))
        .filter((k) => compared.keys.has(k)),
    ),
    atDecision(values, keys) {
      const node = find(values);
      return node?.deciding && formulasOf(node.deciding, readings(node), keys);
    },
    placeOf(values) {
      const node = find(values);
      return node?.deciding && node.place;
    },
    follows: (place) => places.includes(place) && present(slice.digits[place]).kind !== 'leaf',
    isPossible: (values) => find(values) !== undefined,
    later(values) {
      return [...(find(values)?.later ?? [])].map((node) => {
        const next = [...values];
        places.forEach((p, i) => (next[p] = present(node.values[i])));
        return next;
      });
    },
    rangeAt(values, key) {
      const node = find(values);
      const reading = node && readings(node).find((r) => r.key === key);
      if (node?.deciding === undefined || reading === undefined) return undefined;
      const { low, high } = rangeOf(node.deciding, reading.clock);
      return reading.sign > 0 ? { low, high } : { low: 0 - high, high: 0 - low };
    },
    holdsAfter(values, ticks) {
      const after = find(values)?.after;
      return after !== undefined && holdsTicks(after, clocks.map(ticks));
    },
  };
}

/** The places of the timed digits: states first, then as many timers and cooldowns as fit. */
function timedPlaces(digits: readonly Digit[]): number[] {
  const leaves = digits.flatMap((d, p) => (d.kind === 'leaf' ? [p] : []));
  let product = leaves.reduce((n, p) => n * present(digits[p]).size, 1);
  const others = digits.flatMap((d, p) => {
    if (d.kind === 'leaf' || !isTimed(d) || product * d.size > MAX_PRODUCT) return [];
    product *= d.size;
    return [p];
  });
  return [...leaves, ...others];
}

/** The numbers that exits compare, and the constants that they compare single ones with. */
function comparisons(exits: readonly Exit[]): { keys: Set<string>; constants: Set<number> } {
  const keys = new Set<string>();
  const constants = new Set<number>();
  const see = (formula: Formula): void => {
    if (formula.kind === 'and' || formula.kind === 'or') formula.parts.forEach(see);
    else if (formula.kind === 'sum') for (const key of formula.terms.keys()) keys.add(key);
    else if (formula.kind === 'bound') {
      keys.add(formula.key);
      constants.add(Math.round(formula.value));
    }
  };
  for (const exit of exits) exit.formulas.forEach(see);
  return { keys, constants };
}
