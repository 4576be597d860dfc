import { evaluate, type Expression, factsIn } from '../../notation/index.js';

/** The controls whose press an expression asks for, at any place in it. */
export const pressesIn = (e: Expression): string[] =>
  factsIn(e).flatMap(({ fact, of }) => (fact === 'pressed' && of !== undefined ? [of] : []));

/**
 * The controls whose press made a guard hold: a press now, or one that a `within` remembers. What is asked for negated
 * uses no press, and of an `or` only what was needed counts: nothing when a part holds without a press, else the first
 * part that holds. The guard must hold on the facts.
 */
export function pressesUsed(e: Expression, facts: ArrayLike<number>): readonly string[] {
  switch (e.kind) {
    case 'fact':
      return e.ref.fact === 'pressed' && e.ref.of !== undefined ? [e.ref.of] : [];
    case 'memory':
      return e.presses;
    case 'logic': {
      if (e.op === 'and') return e.parts.flatMap((part) => pressesUsed(part, facts));
      const open = e.parts.filter((part) => evaluate(part, facts) !== 0);
      const used = open.map((part) => pressesUsed(part, facts));
      return used.some((presses) => presses.length === 0) ? [] : (used[0] ?? []);
    }
    case 'choice':
      return pressesUsed(evaluate(e.when, facts) !== 0 ? e.then : e.otherwise, facts);
    default:
      return [];
  }
}
