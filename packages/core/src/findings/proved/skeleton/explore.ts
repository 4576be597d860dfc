import { present } from '../../../present.js';
import {
  chainOf,
  type Crossing,
  type Effect,
  effectsBetween,
  exitsOf,
  leafFrom,
  type Machine,
  MAX_PASSING,
  refOf,
} from '../../../machine/index.js';
import type { Expression } from '../../../notation/index.js';
import { constantFacts } from '../constants.js';
import { abilitiesAsked, isFree, targetsOf } from '../guard.js';
import { canHold, type Formula, formulaOf, truthOf } from '../../../solver/index.js';
import { DONE, fixed, initialValue, type Digit, digitRead, RUNNING, type Slice } from './space.js';
import { applied, type Op, opsOf } from './writes.js';

/** A crossing as one leaf considers it. */
export interface Exit {
  crossing: Crossing;
  leaf: number;
  level: number;
  targets: { leaf: number; ops: Op[] }[];
  /** What it asks for by itself: its guard and its abilities. */
  asks: Formula[];
  /** What it asks for, what never changes, and that none that would win is open. */
  formulas: Formula[];
  /** Parts that the formulas speak of. */
  digits: number[];
}

/** Everything discrete that can come to pass in a slice, and more: never less. */
export interface Skeleton {
  slice: Slice;
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

/** Explores a slice. Gives up, with what it has, beyond `most` situations. */
export function explore(machine: Machine, slice: Slice, most: number): Skeleton {
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
  const environment = environmentOf(machine, slice);
  const open = createAsker(machine, digits);
  const together = createPairs(machine);
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
  for (const values of startOf(machine, slice)) add(values);
  for (let at = 0; at < situations.length; at++) {
    if (situations.length > most) return { ...skeleton, isPartial: true };
    const values = situations[at]!;
    const link = (after: number[]): void => {
      const target = add(after);
      if (target === at) return;
      skeleton.from.push(at);
      skeleton.to.push(target);
    };
    for (const change of environment) for (const after of change(values, open)) link(after);
    const leaves = leafDigits.map((p) => present(digits[p]!.leaves[values[p]!]));
    const choices = leaves.map((leaf) => present(exits.get(leaf)).filter((exit) => open(exit, values)));
    // Events of the last tick are over after this one; but a passing state may be left within the tick.
    const settled = values.map((v, i) => (events.includes(i) ? 0 : v));
    const isWithinTick = leaves.some((leaf) => machine.states[leaf]!.passing);
    const befores = isWithinTick && events.length > 0 ? [values, settled] : [settled];
    for (const moving of combinations(choices, together)) {
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

/** All ways in which each lane takes one of its choices or none, any two of them together. */
function combinations(
  choices: readonly (readonly Exit[])[],
  together: (a: Exit, b: Exit) => boolean,
): (Exit | undefined)[][] {
  let results: (Exit | undefined)[][] = [[]];
  for (const list of choices) {
    results = results.flatMap((before) => {
      const fitting = list.filter((c) => before.every((b) => b === undefined || together(b, c)));
      return [[...before, undefined], ...fitting.map((c) => [...before, c])];
    });
  }
  return results;
}

/**
 * What may be so after lanes have taken crossings. Each lane goes all its way before the next one does: from a passing
 * state on, too, whose exits are decided on the facts before the tick and are left free here.
 */
function createStepper(
  machine: Machine,
  slice: Slice,
  exits: ReadonlyMap<number, readonly Exit[]>,
  codeOf: (values: readonly number[]) => number,
): (moving: readonly (Exit | undefined)[], values: readonly number[]) => number[][] {
  const { digits } = slice;
  const leafDigits = slice.lanes.map((lane) => leafDigit(slice, lane));
  const canOpen = new Map<Exit, boolean>();
  const mayOpen = (exit: Exit): boolean => {
    let may = canOpen.get(exit);
    if (may === undefined) canOpen.set(exit, (may = canHold(machine, exit.formulas)));
    return may;
  };
  /** All that may come of an exit, passing states on the way included, since none of their exits may be open. */
  const along = (at: number, first: Exit, values: number[]): number[][] => {
    const results: number[][] = [];
    let now = [{ exit: first, values }];
    const seen = new Set<string>();
    for (let step = 0; step < MAX_PASSING && now.length > 0; step++) {
      const next: typeof now = [];
      for (const { exit, values: before } of now) {
        for (const target of exit.targets) {
          const entered = exit.targets.length === 1 ? before : [...before];
          entered[at] = digits[at]!.leaves.indexOf(target.leaf);
          for (const after of applied(target.ops, entered)) {
            results.push(after);
            if (!machine.states[target.leaf]!.passing) continue;
            const label = `${target.leaf} ${codeOf(after)}`;
            if (seen.has(label)) continue;
            seen.add(label);
            for (const onward of present(exits.get(target.leaf)))
              if (mayOpen(onward)) next.push({ exit: onward, values: [...after] });
          }
        }
      }
      now = next;
    }
    return results;
  };
  const isPassing = (leaf: number): boolean => machine.states[leaf]!.passing;
  /** Exits that lead to one state that lasts: nearly all of them. */
  const plain = new Map<Exit, { leaf: number; ops: Op[] }>();
  for (const exit of [...exits.values()].flat()) {
    const [target, ...others] = exit.targets;
    if (target === undefined || others.length > 0 || isPassing(target.leaf)) continue;
    const { lane } = machine.states[exit.leaf]!;
    const digit = present(digits[present(leafDigits[slice.lanes.indexOf(lane)])]);
    plain.set(exit, { leaf: digit.leaves.indexOf(target.leaf), ops: target.ops });
  }
  return (moving, values) => {
    let results = [[...values]];
    for (let lane = 0; lane < moving.length; lane++) {
      const exit = moving[lane];
      if (exit === undefined) continue;
      const at = leafDigits[lane]!;
      const target = plain.get(exit);
      if (target !== undefined && results.length === 1) {
        results[0]![at] = target.leaf;
        results = applied(target.ops, results[0]!);
      } else results = results.flatMap((before) => along(at, exit, before));
    }
    return results;
  };
}

const leavesOfLane = (machine: Machine, lane: number): number[] =>
  machine.lanes[lane]!.states.filter((s) => machine.states[s]!.members.length === 0);

const eachOf = (machine: Machine, leaf: number): Effect[] =>
  chainOf(machine, leaf)
    .reverse()
    .flatMap((s) => machine.states[s]!.each);

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

function exitsIn(machine: Machine, slice: Slice, leaf: number): Exit[] {
  const { digits } = slice;
  const all = exitsOf(machine, leaf);
  const constants = constantFacts(machine).map((c) => c.formula);
  return all.map(({ crossing, level }, i): Exit => {
    const targets = targetsOf(machine, crossing);
    const roomy = targets.map((t) => machine.states[t]!);
    const winners = all.slice(0, i).filter((w) => isFree(machine, w.crossing, roomy));
    const asks: Formula[] = [
      ...(crossing.when === undefined ? [] : [formulaOf(crossing.when)]),
      ...abilitiesAsked(machine, crossing),
    ];
    const formulas: Formula[] = [
      ...constants,
      ...asks,
      ...winners.map(({ crossing: { when } }): Formula =>
        when === undefined ? { kind: 'never' } : formulaOf(when, false),
      ),
    ];
    return {
      crossing,
      leaf,
      level,
      targets: targets.map((target) => {
        const effects = effectsBetween(machine, leaf, crossing, target).map(({ effect }) => effect);
        return { leaf: target, ops: opsOf(machine, digits, effects) };
      }),
      asks,
      formulas,
      // A passing state is left on the facts of the tick that entered it: those of before its own effects.
      digits: machine.states[leaf]!.passing ? [] : digitsIn(machine, digits, formulas),
    };
  });
}

/** The digits that formulas speak of. */
export function digitsIn(machine: Machine, digits: readonly Digit[], formulas: readonly Formula[]): number[] {
  const found = new Set<number>();
  const look = (key: string): void => {
    const ref = refOf(machine.facts, key);
    const read = ref && digitRead(machine, ref);
    if (read === undefined) return;
    const digit = digits.findIndex((p) => p.kind === read.kind && p.index === read.index);
    if (digit >= 0) found.add(digit);
  };
  const see = (formula: Formula): void => {
    if (formula.kind === 'and' || formula.kind === 'or') formula.parts.forEach(see);
    else if (formula.kind === 'truth' || formula.kind === 'bound') look(formula.key);
    else if (formula.kind === 'sum') [...formula.terms.keys()].forEach(look);
  };
  formulas.forEach(see);
  return [...found].sort((a, b) => a - b);
}

/** Formulas, with the digits that they speak of. */
export type Conditions = Pick<Exit, 'formulas' | 'digits'>;
type Asker = (conditions: Conditions, values: readonly number[]) => boolean;

/** Whether formulas may hold in a situation; asked of the solver once for all situations that look the same to them. */
function createAsker(machine: Machine, digits: readonly Digit[]): Asker {
  const known = new Map<Conditions, Map<number, boolean>>();
  return (conditions, values) => {
    let answers = known.get(conditions);
    if (answers === undefined) known.set(conditions, (answers = new Map()));
    let look = 0;
    for (const digit of conditions.digits) look = look * digits[digit]!.size + values[digit]!;
    let answer = answers.get(look);
    if (answer === undefined) {
      answer = canHold(machine, [
        ...conditions.digits.flatMap((p) => fixedUnlessPassing(machine, digits[p]!, values[p]!)),
        ...conditions.formulas,
      ]);
      answers.set(look, answer);
    }
    return answer;
  };
}

/** Whether two lanes may take two crossings in one tick, for all that is known without the situation. */
function createPairs(machine: Machine): (a: Exit, b: Exit) => boolean {
  const known = new Map<Exit, Map<Exit, boolean>>();
  const inLeaf = ({ leaf }: Exit): Formula[] =>
    machine.states[leaf]!.passing ? [] : [truthOf('in', machine.states[leaf]!.name)];
  return (a, b) => {
    let answers = known.get(a);
    if (answers === undefined) known.set(a, (answers = new Map()));
    let answer = answers.get(b);
    if (answer === undefined) {
      answer = canHold(machine, [...inLeaf(a), ...inLeaf(b), ...a.formulas, ...b.formulas]);
      answers.set(b, answer);
    }
    return answer;
  };
}

/** A lane in a passing state may, for the facts of this tick, still be in the state before. */
const fixedUnlessPassing = (machine: Machine, digit: Digit, value: number): Formula[] =>
  digit.kind === 'leaf' && present(machine.states[digit.leaves[value]!]).passing
    ? []
    : fixed(machine, digit, value);

type Change = (values: readonly number[], open: Asker) => number[][];

/** What happens by itself: timers run out, charges come back, things are refilled, zones unlock. */
function environmentOf(machine: Machine, { digits }: Slice): Change[] {
  const when = (e: Expression | undefined): Conditions | undefined => {
    if (e === undefined) return undefined;
    const formulas = [formulaOf(e)];
    // All of these look at the facts before any of them: what another may change in the same tick is left free.
    const steady = digitsIn(machine, digits, formulas).filter((p) => !changesByItself(machine, digits[p]!));
    return { formulas, digits: steady };
  };
  return digits.flatMap((digit, at): Change[] => {
    const to =
      (value: number, condition?: Conditions): Change =>
      (values, open) =>
        values[at] === value || (condition !== undefined && !open(condition, values))
          ? []
          : [values.with(at, value)];
    const top = digit.size - 1;
    switch (digit.kind) {
      case 'timer': {
        const runs = when(machine.timers[digit.index]!.runs);
        const done = to(DONE, runs);
        return [(values, open) => (values[at] === RUNNING ? done(values, open) : [])];
      }
      case 'charges': {
        const { order, refill } = machine.cooldowns[digit.index]!;
        const back: Change = (values) =>
          values[at] === top ? [] : [values.with(at, order === 'together' ? top : values[at]! + 1)];
        return refill === undefined ? [back] : [back, to(top, when(refill))];
      }
      case 'count':
      case 'flag': {
        const { refill, initial } = machine.variables[digit.index]!;
        if (refill === undefined) return [];
        return [to(digit.kind === 'count' ? top : initial, when(refill))];
      }
      case 'lock':
        // A zone of some course may unlock it.
        return [to(1)];
      default:
        return [];
    }
  });
}

const changesByItself = (machine: Machine, digit: Digit): boolean =>
  digit.kind === 'timer' ||
  digit.kind === 'charges' ||
  digit.kind === 'lock' ||
  ((digit.kind === 'flag' || digit.kind === 'count') && machine.variables[digit.index]!.refill !== undefined);

/** The digit that a lane's state is. */
export const leafDigit = ({ digits }: Pick<Slice, 'digits'>, lane: number): number =>
  digits.findIndex((p) => p.kind === 'leaf' && p.index === lane);

/** The situations of each leaf of the slice's own lane; none for a leaf that is never entered. */
export function situationsByLeaf({ slice, situations }: Skeleton): Map<number, number[][]> {
  const own = leafDigit(slice, slice.lane);
  const { leaves } = slice.digits[own]!;
  const byLeaf = new Map(leaves.map((leaf): [number, number[][]] => [leaf, []]));
  for (const values of situations) present(byLeaf.get(present(leaves[values[own]!]))).push(values);
  return byLeaf;
}
