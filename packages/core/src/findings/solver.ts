import type { Machine } from '../machine/index.js';
import { consequences, domainOf, type Range } from './laws.js';
import type { Formula } from './literals.js';

interface Assumptions {
  truths: Map<string, boolean>;
  ranges: Map<string, Range>;
}

/** Branches tried before a question is given up as "may hold". */
const MAX_BRANCHES = 20_000;

/**
 * Whether formulas can hold together. `false` is certain: no facts at all make them all true. `true` means that no
 * contradiction was found. Branches on disjunctions; literals are propagated through the laws at once.
 */
export function canHold(machine: Machine, formulas: readonly Formula[]): boolean {
  let branches = 0;
  const search = (pending: readonly Formula[], assumptions: Assumptions): boolean => {
    let choices: Formula[][] = [];
    const queue = [...pending];
    while (queue.length > 0) {
      for (let formula = queue.pop(); formula !== undefined; formula = queue.pop()) {
        if (!assume(machine, formula, assumptions, queue, choices)) return false;
      }
      // A choice that is settled needs no branch; one with a single part left is no choice.
      const open: Formula[][] = [];
      for (const parts of choices) {
        const settled = parts.map((part) => settle(machine, part, assumptions));
        if (settled.includes(true)) continue;
        const left = parts.filter((_, i) => settled[i] === undefined);
        if (left.length === 0) return false;
        if (left.length === 1) queue.push(left[0]!);
        else open.push(left);
      }
      choices = open;
    }
    const choice = choices.pop();
    if (choice === undefined || ++branches > MAX_BRANCHES) return true;
    const rest = choices.map((parts): Formula => ({ kind: 'or', parts }));
    return choice.some((part) =>
      search([part, ...rest], { truths: new Map(assumptions.truths), ranges: new Map(assumptions.ranges) }),
    );
  };
  return search(formulas, { truths: new Map(), ranges: new Map() });
}

/** Adds a formula to what is assumed, to the queue what follows, a choice to the choices; false when it cannot be. */
function assume(
  machine: Machine,
  formula: Formula,
  { truths, ranges }: Assumptions,
  queue: Formula[],
  choices: Formula[][],
): boolean {
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
      queue.push(...consequences(machine, formula.key, formula.value));
      return true;
    }
    case 'bound': {
      const range = narrowed(ranges.get(formula.key) ?? domainOf(machine, formula.key), formula);
      if (isEmpty(range)) return false;
      ranges.set(formula.key, range);
      return true;
    }
  }
}

/** Whether what is assumed makes a formula true or false already; undefined when neither is seen at once. */
function settle(machine: Machine, formula: Formula, { truths, ranges }: Assumptions): boolean | undefined {
  if (formula.kind === 'free') return true;
  if (formula.kind === 'never') return false;
  if (formula.kind === 'truth') {
    const known = truths.get(formula.key);
    return known === undefined ? undefined : known === formula.value;
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

function narrowed(range: Range, { op, value }: Extract<Formula, { kind: 'bound' }>): Range {
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

/** A formula with what it stands for: a term of the guard, or a fact about the whole moveset. */
export interface Assertion<T> {
  formula: Formula;
  about: T;
}

/**
 * The smallest set (none of it can be left out) of assertions that cannot hold together, or undefined when they can.
 * Those at the front are left out first, so put what people should read last.
 */
export function contradiction<T>(machine: Machine, assertions: readonly Assertion<T>[]): T[] | undefined {
  const impossible = (list: readonly Assertion<T>[]): boolean =>
    !canHold(
      machine,
      list.map((a) => a.formula),
    );
  if (!impossible(assertions)) return undefined;
  let core = [...assertions];
  for (const assertion of assertions) {
    const without = core.filter((a) => a !== assertion);
    if (impossible(without)) core = without;
  }
  return core.map((a) => a.about);
}
