import { present } from '../../../../present.js';
import { chainOf, type Crossing, type Machine, MAX_PASSING } from '../../../../machine/index.js';
import { canHold, type Formula, formulaOf } from '../../../../solver/index.js';
import { targetsOf } from '../../guard.js';
import { createAsker, createPairs } from '../explore/asker.js';
import { eachOf, type Exit } from '../explore/exits.js';
import { type Digit, fixed, type Slice } from '../space.js';
import { createCombiner } from '../explore/steps.js';
import { type Clock, readingsAt } from './clocks.js';
import { copyOf, include, restrict } from './difference-bounds.js';
import { type ClockOp, opsOfCrossing, opsOfEffects, type Timed } from './effects.js';
import { type Limit, limitsIn } from './limits.js';

/** One exit or none for each lane, and what that says of the clocks. */
export interface Choice {
  moving: readonly (Exit | undefined)[];
  limits: Limit[];
}

/** What lanes may make of values and clocks in one tick. */
export function createDecision(
  machine: Machine,
  slice: Slice,
  clocks: readonly Clock[],
  exits: ReadonlyMap<number, Exit[]>,
) {
  const { digits, lanes } = slice;
  const leafDigits = lanes.map((lane) => digits.findIndex((d) => d.kind === 'leaf' && d.index === lane));
  const ask = createAsker(machine, digits);
  const combine = createCombiner(createPairs(machine));
  const knownAt = createKnown(machine, digits);
  const ways = new Map<Exit, { leaf: number; ops: ClockOp[] }[]>();
  for (const exit of [...exits.values()].flat())
    ways.set(
      exit,
      exit.targets.map(({ leaf }) => ({
        leaf,
        ops: opsOfCrossing(machine, slice, clocks, {
          crossing: exit.crossing,
          leaf: exit.leaf,
          target: leaf,
        }),
      })),
    );
  const each = new Map(
    [...exits.keys()].map((leaf) => [leaf, opsOfEffects(machine, slice, clocks, eachOf(machine, leaf))]),
  );
  const air = clocks.findIndex((c) => c.kind === 'airtime') + 1;
  const onGround: Limit[] = air === 0 ? [] : [{ first: air, second: 0, max: 0 }];
  const needsGround = remembered(
    (exit: Exit) =>
      air > 0 && !canHold(machine, [...exit.formulas, { kind: 'bound', key: 'airtime', op: '>=', value: 1 }]),
  );
  const mayOpen = remembered((exit: Exit) => canHold(machine, exit.formulas));
  const staying = remembered((leaf: number) => stayingIn(machine, leaf, present(exits.get(leaf))));
  const isPassing = (leaf: number): boolean => present(machine.states[leaf]).passing;
  const leavesIn = (values: readonly number[]): number[] =>
    leafDigits.map((d) => present(present(digits[d]).leaves[present(values[d])]));
  /** All that may come of an exit of a lane, passing states on the way included. */
  const along = (at: number, first: Exit, timed: Timed): Timed[] => {
    const results: Timed[] = [];
    let now = [{ exit: first, timed }];
    for (let step = 0; step < MAX_PASSING && now.length > 0; step++) {
      const next: typeof now = [];
      for (const { exit, timed: before } of now) {
        for (const { leaf, ops } of present(ways.get(exit))) {
          const after = { values: [...before.values], bounds: copyOf(before.bounds) };
          after.values[at] = present(digits[at]).leaves.indexOf(leaf);
          for (const op of ops) op(after);
          const known = results.find((r) => r.values.every((v, i) => v === after.values[i]));
          if (known === undefined) results.push(after);
          else if (!include(known.bounds, after.bounds)) continue;
          if (!isPassing(leaf)) continue;
          for (const onward of present(exits.get(leaf)))
            if (mayOpen(onward)) next.push({ exit: onward, timed: after });
        }
      }
      now = next;
    }
    return results;
  };
  return {
    /** All that lanes may do, with what it says of the clocks; without what digits rule out. */
    choicesIn(values: readonly number[]): Choice[] {
      const readings = readingsAt(machine, slice, clocks, values);
      const known = knownAt(values);
      const leaves = leavesIn(values);
      const limits = new Map<Exit, Limit[]>();
      const open = leaves.map((leaf) =>
        present(exits.get(leaf)).filter((exit) => {
          if (!ask(exit, values)) return false;
          // A passing state is left on facts of before it was entered.
          const own = isPassing(leaf) ? [] : limitsIn({ kind: 'and', parts: exit.formulas }, readings, known);
          if (own !== undefined) limits.set(exit, needsGround(exit) ? [...own, ...onGround] : own);
          return own !== undefined;
        }),
      );
      const stays = leaves.map((leaf) => limitsIn(staying(leaf), readings, known));
      return combine(open).flatMap((moving) => {
        const all = moving.map((exit, lane) => (exit === undefined ? stays[lane] : limits.get(exit)));
        return all.includes(undefined) ? [] : [{ moving, limits: all.flatMap((list) => list ?? []) }];
      });
    },
    /** What comes of one of them. */
    taking({ moving, limits }: Choice, timed: Timed): Timed[] {
      const bounds = copyOf(timed.bounds);
      if (!limits.every(({ first, second, max }) => restrict(bounds, first, second, max))) return [];
      let ends: Timed[] = [{ values: [...timed.values], bounds }];
      moving.forEach((exit, lane) => {
        if (exit !== undefined) ends = ends.flatMap((end) => along(present(leafDigits[lane]), exit, end));
      });
      return ends.flatMap((end) => {
        const now = leavesIn(end.values);
        // A passing state that is left within the tick has no `each` of its own.
        const before = now.some(isPassing) ? [{ values: [...end.values], bounds: copyOf(end.bounds) }] : [];
        for (const leaf of now) for (const op of present(each.get(leaf))) op(end);
        return [...before, end];
      });
    },
  };
}

/** A function that works out each answer once. */
function remembered<K, V>(work: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    let value = known.get(key);
    if (value === undefined) known.set(key, (value = work(key)));
    return value;
  };
}

/** That a lane stays in a leaf: that no exit is open which nothing but its guard can hold back. */
function stayingIn(machine: Machine, leaf: number, exits: readonly Exit[]): Formula {
  const { passing } = present(machine.states[leaf]);
  const sure = passing ? [] : exits.filter(({ crossing }) => isUnhindered(machine, crossing));
  return {
    kind: 'and',
    parts: sure.map(({ crossing: { when } }): Formula =>
      when === undefined ? { kind: 'never' } : formulaOf(when, false),
    ),
  };
}

/** Whether nothing but its guard ever holds a crossing back: no ability, no stance that must fit. */
const isUnhindered = (machine: Machine, crossing: Crossing): boolean =>
  crossing.ability < 0 &&
  targetsOf(machine, crossing).every((t) => {
    const { ability, stance, ifBlocked } = present(machine.states[t]);
    return ability < 0 && (stance < 0 || ifBlocked === 'wait');
  });

/** What truth facts are, as far as digits say. */
function createKnown(
  machine: Machine,
  digits: readonly Digit[],
): (values: readonly number[]) => (key: string) => boolean | undefined {
  const facts = digits.map((digit) =>
    Array.from({ length: digit.size }, (_, value) => {
      const known = new Map<string, boolean>();
      if (digit.kind === 'leaf') {
        const leaf = present(digit.leaves[value]);
        // A passing state may, for the facts of this tick, be the state before.
        if (present(machine.states[leaf]).passing) return known;
        const chain = chainOf(machine, leaf);
        for (const s of present(machine.lanes[digit.index]).states)
          known.set(`in(${present(machine.states[s]).name})`, chain.includes(s));
        return known;
      }
      for (const formula of fixed(machine, digit, value))
        if (formula.kind === 'truth') known.set(formula.key, formula.value);
      return known;
    }),
  );
  return (values) => (key) => {
    for (let i = 0; i < facts.length; i++) {
      const known = present(present(facts[i])[present(values[i])]).get(key);
      if (known !== undefined) return known;
    }
    return undefined;
  };
}
