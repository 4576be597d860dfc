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
    const choices: Formula[][] = [];
    const queue = [...pending];
    for (let formula = queue.pop(); formula !== undefined; formula = queue.pop()) {
      switch (formula.kind) {
        case 'free':
          break;
        case 'never':
          return false;
        case 'and':
          queue.push(...formula.parts);
          break;
        case 'or':
          choices.push(formula.parts);
          break;
        case 'truth': {
          const known = assumptions.truths.get(formula.key);
          if (known === formula.value) break;
          if (known !== undefined) return false;
          assumptions.truths.set(formula.key, formula.value);
          queue.push(...consequences(machine, formula.key, formula.value));
          break;
        }
        case 'bound': {
          const range = narrowed(
            assumptions.ranges.get(formula.key) ?? domainOf(machine, formula.key),
            formula,
          );
          if (range.low > range.high || (range.low === range.high && (range.lowOpen || range.highOpen)))
            return false;
          assumptions.ranges.set(formula.key, range);
        }
      }
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
