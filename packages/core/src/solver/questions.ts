import type { Machine } from '../machine/index.js';
import type { Expression } from '../notation/index.js';
import { type Formula, formulaOf, NEVER_HOLDS } from './literals.js';
import { canHold } from './solver.js';

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

/** A guard as a formula; one that is not there always holds. */
const guardOf = (e: Expression | undefined, positive: boolean): Formula =>
  e === undefined ? (positive ? { kind: 'free' } : NEVER_HOLDS) : formulaOf(e, positive);

/** Whether a guard holds whenever another does, under what is given. `true` is certain. */
export const implies = (
  machine: Machine,
  guard: Expression | undefined,
  other: Expression | undefined,
  given: readonly Formula[] = [],
): boolean => !canHold(machine, [...given, guardOf(guard, true), guardOf(other, false)]);

/** Whether two guards can hold in one tick, under what is given. `false` is certain. */
export const overlap = (
  machine: Machine,
  guard: Expression | undefined,
  other: Expression | undefined,
  given: readonly Formula[] = [],
): boolean => canHold(machine, [...given, guardOf(guard, true), guardOf(other, true)]);

/** Whether two guards always hold together, under what is given. `true` is certain. */
export const equivalent = (
  machine: Machine,
  guard: Expression | undefined,
  other: Expression | undefined,
  given: readonly Formula[] = [],
): boolean => implies(machine, guard, other, given) && implies(machine, other, guard, given);
