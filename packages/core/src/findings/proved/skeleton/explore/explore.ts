import { present } from '../../../../present.js';
import { chainOf, type Effect, leafFrom, type Machine } from '../../../../machine/index.js';
import { finished, type Steps } from '../../../../steps.js';
import { createAsker, createPairs } from './asker.js';
import { type Timing, timingOf } from '../clocks/timing.js';
import { environmentOf } from './environment.js';
import { type Conditions, eachOf, type Exit, exitsIn, leafDigit, leavesOfLane } from './exits.js';
import { initialValue, type Slice } from '../space.js';
import { createCombiner, createStepper } from './steps.js';
import { applied, opsOf } from '../writes.js';

/** Everything discrete that can come to pass in a slice, and more: never less. */
export interface Skeleton {
  slice: Slice;
  /** What clocks may show in a situation; undefined where they have nothing to tell. */
  timing: Timing | undefined;
  /** The values of the digits in every situation that may come to pass. */
  situations: number[][];
  /** Steps between them, by place in `situations`. */
  from: number[];
  to: number[];
  /** Of the slice's own lane: the exits of each leaf. */
  exits: Map<number, Exit[]>;
  /** Whether an exit may be open in a situation. */
  isOpen: (exit: Conditions, values: readonly number[]) => boolean;
  /** The place of a situation; undefined when it cannot come to pass. */
  find: (values: readonly number[]) => number | undefined;
  /** Whether there were too many situations: then nothing may be concluded from it. */
  isPartial: boolean;
}

/** How much a skeleton may hold: situations, and steps that are followed between them. */
export interface ExploreLimits {
  situations: number;
  steps: number;
}

/** Situations after which the work may be left. */
const STEP = 100;

/** Explores a slice. Gives up, with what it has, beyond the limits. */
export const explore = (machine: Machine, slice: Slice, limits: ExploreLimits, timing?: Timing): Skeleton =>
  finished(exploreInSteps(machine, slice, limits, timing));

/** The same in steps. */
export function* exploreInSteps(
  machine: Machine,
  slice: Slice,
  limits: ExploreLimits,
  timing: Timing | undefined = timingOf(machine, slice),
): Steps<Skeleton> {
  const { digits, lanes } = slice;
  const exits = new Map<number, Exit[]>();
  for (const lane of lanes) {
    for (const leaf of leavesOfLane(machine, lane)) exits.set(leaf, exitsIn(machine, slice, leaf));
  }
  const each = new Map(
    [...exits.keys()].map((leaf) => [leaf, opsOf(machine, digits, eachOf(machine, leaf))]),
  );
  const leafDigits = lanes.map((lane) => leafDigit(slice, lane));
  const events = digits.flatMap((p, i) => (p.kind === 'event' ? [i] : []));
  const environment = environmentOf(machine, slice, timing);
  const open = createAsker(machine, digits, timing);
  const openAtAnyTime = createAsker(machine, digits);
  const combine = createCombiner(createPairs(machine));
  const index = new Map<number, number>();
  const situations: number[][] = [];
  const strides = digits.map((_, i) => digits.slice(0, i).reduce((n, p) => n * p.size, 1));
  const codeOf = (values: readonly number[]): number => {
    let code = 0;
    for (let i = 0; i < values.length; i++) code += values[i]! * strides[i]!;
    return code;
  };
  const skeleton: Skeleton = {
    slice,
    timing,
    situations,
    from: [],
    to: [],
    exits,
    isOpen: open,
    find: (values) => index.get(codeOf(values)),
    isPartial: false,
  };
  const add = (values: number[]): number => {
    const code = codeOf(values);
    let at = index.get(code);
    if (at === undefined) {
      at = situations.length;
      index.set(code, at);
      situations.push(values);
    }
    return at;
  };
  const afterStep = createStepper(machine, slice, exits, codeOf);
  let steps = 0;
  for (const values of startOf(machine, slice)) add(values);
  for (let at = 0; at < situations.length; at++) {
    if (situations.length > limits.situations || steps > limits.steps)
      return { ...skeleton, isPartial: true };
    if (at % STEP === STEP - 1) yield;
    const values = situations[at]!;
    const link = (after: number[]): void => {
      steps++;
      if (timing !== undefined && !timing.isPossible(after)) return;
      const target = add(after);
      if (target === at) return;
      skeleton.from.push(at);
      skeleton.to.push(target);
    };
    for (const change of environment) for (const after of change(values, openAtAnyTime)) link(after);
    const leaves = leafDigits.map((p) => present(digits[p]!.leaves[values[p]!]));
    const choices = leaves.map((leaf) => present(exits.get(leaf)).filter((exit) => open(exit, values)));
    // Events of the last tick are over after this one; but a passing state may be left within the tick.
    const settled = values.map((v, i) => (events.includes(i) ? 0 : v));
    const isWithinTick = leaves.some((leaf) => machine.states[leaf]!.passing);
    const befores = isWithinTick && events.length > 0 ? [values, settled] : [settled];
    for (const moving of combine(choices)) {
      for (const before of befores) {
        for (const after of afterStep(moving, before)) {
          const now = leafDigits.map((p) => present(digits[p]!.leaves[after[p]!]));
          // A passing state that is left within the tick has no `each` of its own.
          if (now.some((leaf) => present(each.get(leaf)).length > 0)) {
            if (now.some((leaf) => machine.states[leaf]!.passing)) link([...after]);
            const ops = now.flatMap((leaf) => present(each.get(leaf)));
            for (const last of applied(ops, after)) link(last);
          } else link(after);
        }
      }
    }
  }
  return skeleton;
}

/** The situations before the first tick: the initial states entered. */
function startOf(machine: Machine, { digits, lanes }: Slice): number[][] {
  const values = digits.map((digit) => initialValue(machine, digit));
  const effects: Effect[] = [];
  for (const lane of lanes) {
    const leaf = leafFrom(machine, machine.lanes[lane]!.initial);
    const digit = leafDigit({ digits }, lane);
    values[digit] = digits[digit]!.leaves.indexOf(leaf);
    for (const s of chainOf(machine, leaf).reverse()) effects.push(...machine.states[s]!.enter);
  }
  return applied(opsOf(machine, digits, effects), values);
}

/** The situations of each leaf of the slice's own lane; none for a leaf that is never entered. */
export function situationsByLeaf({ slice, situations }: Skeleton): Map<number, number[][]> {
  const own = leafDigit(slice, slice.lane);
  const { leaves } = slice.digits[own]!;
  const byLeaf = new Map(leaves.map((leaf): [number, number[][]] => [leaf, []]));
  for (const values of situations) present(byLeaf.get(present(leaves[values[own]!]))).push(values);
  return byLeaf;
}
