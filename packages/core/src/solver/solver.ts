import { present } from '../present.js';
import type { Machine } from '../machine/index.js';
import { between, type Constraint, feasible } from './elimination.js';
import { consequences, domainOf, type Range } from './laws.js';
import { airtimeOf, memoriesAgree } from './memories.js';
import { finished, type Steps } from '../steps.js';
import { type Bound, boundOfSum, type Formula, slackOf, type Sum } from './literals.js';

/** What is taken to hold while a way to make formulas true is looked for. */
interface Assumptions {
  truths: Map<string, boolean>;
  ranges: Map<string, Range>;
  sums: Sum[];
}

/** Facts that make formulas true. Facts that are not in it may be anything that the laws allow. */
export interface Example {
  truths: Map<string, boolean>;
  numbers: Map<string, number>;
}

/** Branches tried before a question is given up as "may hold". */
const MAX_BRANCHES = 20_000;

/** Steps that all questions about one moveset may take together: some seconds. It counts work, not time: reports stay equal. */
const BUDGET = 6_000_000;

/** What is left for the questions that are asked now, and how many were given up. */
let budget: { left: number; undecided: number } | undefined;

/** What the elimination of numbers from sums counts as, for each pair of them. */
const ELIMINATION_STEPS = 1;

/**
 * Answers questions within a budget of work, which is part of any budget around it. Gives how many of them were given up
 * as "may hold".
 */
export const withinBudget = <T>(ask: () => T, steps = BUDGET): { result: T; undecided: number } =>
  finished(
    stepsWithinBudget(
      // eslint-disable-next-line require-yield -- work in one step
      (function* () {
        return ask();
      })(),
      steps,
    ),
  );

/** The same for work in steps. Between them, what is asked is none of its business. */
export function* stepsWithinBudget<T>(
  work: Steps<T>,
  steps = BUDGET,
): Steps<{ result: T; undecided: number }> {
  const outer = budget;
  const all = Math.min(steps, outer?.left ?? steps);
  const own = { left: all, undecided: 0 };
  try {
    for (;;) {
      const around = budget;
      budget = own;
      let step: IteratorResult<void, T>;
      try {
        step = work.next();
      } finally {
        budget = around;
      }
      if (step.done === true) return { result: step.value, undecided: own.undecided };
      yield;
    }
  } finally {
    if (outer !== undefined) {
      outer.left -= all - own.left;
      outer.undecided += own.undecided;
    }
  }
}

/**
 * Whether formulas can hold together. `false` is certain: no facts at all make them all true. `true` means that no
 * contradiction was found. Branches on disjunctions; literals are propagated through the laws at once; sums of
 * several numbers are decided by elimination.
 */
export const canHold = (machine: Machine, formulas: readonly Formula[]): boolean =>
  search(machine, formulas) !== undefined;

/** Facts under which formulas hold; undefined when there are none or none was found. */
export function exampleOf(machine: Machine, formulas: readonly Formula[]): Example | undefined {
  const found = search(machine, formulas);
  if (found === undefined || found === 'unsure') return undefined;
  const solved = feasible(constraintsOf(machine, found), (key) => domainOf(machine, key).whole);
  const numbers = new Map(solved);
  for (const [key, range] of found.ranges) if (!numbers.has(key)) numbers.set(key, between(range));
  // Whole numbers were only rounded: whether they still do is not certain.
  const holds =
    found.sums.every((sum) => isMet(sum, numbers)) &&
    [...numbers].every(([key, n]) => isWithin(found.ranges.get(key) ?? domainOf(machine, key), n));
  return holds ? { truths: found.truths, numbers } : undefined;
}

function isMet({ terms, op, value }: Sum, numbers: ReadonlyMap<string, number>): boolean {
  let total = 0;
  for (const [key, scale] of terms) total += scale * (numbers.get(key) ?? 0);
  return op === '<' ? total < value : total <= value;
}

const isWithin = ({ low, lowOpen, high, highOpen, whole }: Range, n: number): boolean =>
  (lowOpen ? n > low : n >= low) && (highOpen ? n < high : n <= high) && (!whole || Number.isInteger(n));

function search(machine: Machine, formulas: readonly Formula[]): Assumptions | 'unsure' | undefined {
  let branches = 0;
  const giveUp = (): 'unsure' => {
    if (budget !== undefined) budget.undecided++;
    return 'unsure';
  };
  if (budget !== undefined && budget.left <= 0) return giveUp();
  const go = (pending: readonly Formula[], assumptions: Assumptions): Assumptions | 'unsure' | undefined => {
    const sums = assumptions.sums.length;
    let choices: Formula[][] = [];
    const queue = [...pending];
    while (queue.length > 0) {
      for (let formula = queue.pop(); formula !== undefined; formula = queue.pop()) {
        if (budget !== undefined) budget.left--;
        if (!assume(machine, formula, assumptions, queue, choices)) return undefined;
      }
      // A choice that is settled needs no branch; one with a single part left is no choice.
      const open: Formula[][] = [];
      for (const parts of choices) {
        const settled = parts.map((part) => settle(machine, part, assumptions));
        if (settled.includes(true)) continue;
        const left = parts.filter((_, i) => settled[i] === undefined);
        if (left.length === 0) return undefined;
        if (left.length === 1) queue.push(present(left[0]));
        else open.push(left);
      }
      choices = open;
    }
    const choice = choices.pop();
    const isNew = assumptions.sums.length > sums || choice === undefined;
    if (isNew && !isFeasible(machine, assumptions)) return undefined;
    if (choice === undefined)
      return memoriesAgree(machine, assumptions.truths, canHold) ? assumptions : undefined;
    if (++branches > MAX_BRANCHES || (budget !== undefined && budget.left <= 0)) return giveUp();
    const rest = choices.map((parts): Formula => ({ kind: 'or', parts }));
    for (const part of choice) {
      const found = go([part, ...rest], {
        truths: new Map(assumptions.truths),
        ranges: new Map(assumptions.ranges),
        sums: [...assumptions.sums],
      });
      if (found !== undefined) return found;
    }
    return undefined;
  };
  return go(formulas, { truths: new Map(), ranges: new Map(), sums: [] });
}

/** What follows from a truth fact; worked out once for each, since the same are asked for again and again. */
function lawsOf(machine: Machine, key: string, value: boolean): Formula[] {
  let laws = known.get(machine);
  if (laws === undefined) known.set(machine, (laws = new Map()));
  const label = value ? key : `not ${key}`;
  let formulas = laws.get(label);
  if (formulas === undefined) {
    // Put in first: a law may ask the solver itself.
    laws.set(label, []);
    formulas = [...consequences(machine, key, value), ...airtimeOf(machine, key, value, canHold)];
    laws.set(label, formulas);
  }
  return formulas;
}

const known = new WeakMap<Machine, Map<string, Formula[]>>();

/** Adds a formula to what is assumed, to the queue what follows, a choice to the choices; false when it cannot be. */
function assume(
  machine: Machine,
  formula: Formula,
  assumptions: Assumptions,
  queue: Formula[],
  choices: Formula[][],
): boolean {
  const { truths, ranges, sums } = assumptions;
  switch (formula.kind) {
    case 'free':
      return true;
    case 'never':
      return false;
    case 'and':
      queue.push(...formula.parts);
      return true;
    case 'or':
      choices.push(formula.parts);
      return true;
    case 'truth': {
      const known = truths.get(formula.key);
      if (known !== undefined) return known === formula.value;
      truths.set(formula.key, formula.value);
      queue.push(...lawsOf(machine, formula.key, formula.value));
      return true;
    }
    case 'bound': {
      const range = narrowed(ranges.get(formula.key) ?? domainOf(machine, formula.key), formula);
      if (isEmpty(range)) return false;
      ranges.set(formula.key, range);
      return true;
    }
    case 'sum': {
      if (formula.terms.size === 1) {
        const bound = boundOf(machine, formula);
        return bound === undefined || assume(machine, bound, assumptions, queue, choices);
      }
      if (!sums.includes(formula)) sums.push(formula);
      return true;
    }
  }
}

/** A sum of one number as a bound on it; undefined when it says nothing. */
const boundOf = (machine: Machine, sum: Sum): Bound | undefined =>
  boundOfSum(sum, (key) => domainOf(machine, key).whole);

function isFeasible(machine: Machine, assumptions: Assumptions): boolean {
  const { length } = assumptions.sums;
  if (length === 0) return true;
  if (budget !== undefined) budget.left -= ELIMINATION_STEPS * (4 + length * length);
  return feasible(constraintsOf(machine, assumptions), (key) => domainOf(machine, key).whole) !== undefined;
}

/** The sums, with the ranges of the numbers in them. */
function constraintsOf(machine: Machine, { sums, ranges }: Assumptions): Constraint[] {
  const keys = new Set(sums.flatMap(({ terms }) => [...terms.keys()]));
  const isWhole = (key: string): boolean => domainOf(machine, key).whole;
  const greatest = (key: string): number => {
    const { low, high } = ranges.get(key) ?? domainOf(machine, key);
    return Math.max(Math.abs(low), Math.abs(high));
  };
  const constraints = sums.map(({ terms, op, value, rounding }): Constraint => {
    // Sums of whole numbers are whole: less is at least one less.
    const whole = [...terms].every(([key, scale]) => isWhole(key) && Number.isInteger(scale));
    const slack = whole && rounding.isWhole ? 0 : slackOf(rounding, greatest);
    const isStrict = op === '<' && slack === 0;
    const limit = !whole ? value + slack : isStrict ? Math.ceil(value) - 1 : Math.floor(value + slack);
    return exactIfWhole({ terms, strict: isStrict && !whole, value: limit, size: 1 });
  });
  for (const key of keys) {
    const { low, lowOpen, high, highOpen } = ranges.get(key) ?? domainOf(machine, key);
    if (high < Infinity)
      constraints.push(exactIfWhole({ terms: new Map([[key, 1]]), strict: highOpen, value: high, size: 1 }));
    if (low > -Infinity)
      constraints.push(exactIfWhole({ terms: new Map([[key, -1]]), strict: lowOpen, value: -low, size: 1 }));
  }
  // One that rounding may break by any amount says nothing.
  return constraints.filter(({ value }) => value < Infinity);
}

/** Small whole numbers are added without rounding. */
const exactIfWhole = (c: Omit<Constraint, 'isExact'>): Constraint => ({
  ...c,
  isExact: Number.isInteger(c.value) && [...c.terms.values()].every(Number.isInteger),
});

/** Whether what is assumed makes a formula true or false already; undefined when neither is seen at once. */
function settle(machine: Machine, formula: Formula, assumptions: Assumptions): boolean | undefined {
  const { truths, ranges } = assumptions;
  if (formula.kind === 'sum' && formula.terms.size === 1) {
    const bound = boundOf(machine, formula);
    return bound === undefined ? true : settle(machine, bound, assumptions);
  }
  if (formula.kind === 'free') return true;
  if (formula.kind === 'never') return false;
  if (formula.kind === 'truth') {
    const known = truths.get(formula.key);
    return known === undefined ? undefined : known === formula.value;
  }
  if (formula.kind === 'and' || formula.kind === 'or') {
    const decides = formula.kind === 'or';
    let isOpen = false;
    for (const part of formula.parts) {
      const settled = settle(machine, part, assumptions);
      if (settled === decides) return decides;
      isOpen ||= settled === undefined;
    }
    return isOpen ? undefined : !decides;
  }
  if (formula.kind !== 'bound') return undefined;
  const range = ranges.get(formula.key) ?? domainOf(machine, formula.key);
  const within = narrowed(range, formula);
  if (isEmpty(within)) return false;
  const same = within.low === range.low && within.high === range.high;
  return same && within.lowOpen === range.lowOpen && within.highOpen === range.highOpen ? true : undefined;
}

const isEmpty = (range: Range): boolean =>
  range.low > range.high || (range.low === range.high && (range.lowOpen || range.highOpen));

function narrowed(range: Range, { op, value }: Bound): Range {
  const open = op === '<' || op === '>';
  if (range.whole) {
    if (op === '>' || op === '>=')
      return { ...range, low: Math.max(range.low, open ? Math.floor(value) + 1 : Math.ceil(value)) };
    return { ...range, high: Math.min(range.high, open ? Math.ceil(value) - 1 : Math.floor(value)) };
  }
  if (op === '>' || op === '>=') {
    if (value < range.low) return range;
    return { ...range, low: value, lowOpen: value === range.low ? range.lowOpen || open : open };
  }
  if (value > range.high) return range;
  return { ...range, high: value, highOpen: value === range.high ? range.highOpen || open : open };
}
