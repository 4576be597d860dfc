import { present } from '../present.js';
import { toTicks } from './dimension.js';
import type { Expression } from './expression.js';
import type { Arithmetic, Comparison } from './syntax.js';

/** The value of an expression on a table of facts, one number a slot. Only + − × ÷ and square root are used. */
export function evaluate(e: Expression, facts: ArrayLike<number>): number {
  switch (e.kind) {
    case 'constant':
      return e.value;
    case 'fact':
    case 'memory':
      return present(facts[e.slot]);
    case 'negate':
      return 0 - evaluate(e.of, facts);
    case 'not':
      return evaluate(e.of, facts) === 0 ? 1 : 0;
    case 'arithmetic':
      return arithmetic(e.op, evaluate(e.left, facts), evaluate(e.right, facts));
    case 'compare': {
      const left = evaluate(e.left, facts);
      const right = evaluate(e.right, facts);
      return e.rate === undefined
        ? compare(e.op, left, right)
        : compare(e.op, toTicks(left, e.rate), toTicks(right, e.rate));
    }
    case 'logic': {
      const stop = e.op === 'or' ? 1 : 0;
      for (const part of e.parts) if (evaluate(part, facts) === stop) return stop;
      return 1 - stop;
    }
    case 'choice':
      return evaluate(evaluate(e.when, facts) !== 0 ? e.then : e.otherwise, facts);
    case 'function':
      return apply(
        e.name,
        e.args.map((arg) => evaluate(arg, facts)),
      );
  }
}

/** Whether a guard holds. A guard that is not there always does. */
export const holds = (e: Expression | undefined, facts: ArrayLike<number>): boolean =>
  e === undefined || evaluate(e, facts) !== 0;

export function arithmetic(op: Arithmetic, a: number, b: number): number {
  switch (op) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return b === 0 ? 0 : a / b;
  }
}

export function compare(op: Comparison, a: number, b: number): number {
  switch (op) {
    case '<':
      return a < b ? 1 : 0;
    case '<=':
      return a <= b ? 1 : 0;
    case '>':
      return a > b ? 1 : 0;
    case '>=':
      return a >= b ? 1 : 0;
    case '=':
      return a === b ? 1 : 0;
    case '!=':
      return a !== b ? 1 : 0;
  }
}

/** Moves a value to a target by at most a step. */
export const approach = (value: number, target: number, step: number): number =>
  value < target ? Math.min(value + step, target) : Math.max(value - step, target);

export function apply(name: string, args: readonly number[]): number {
  const [a = 0, b = 0, c = 0] = args;
  switch (name) {
    case 'min':
      return Math.min(...args);
    case 'max':
      return Math.max(...args);
    case 'abs':
      return Math.abs(a);
    case 'sign':
      return a > 0 ? 1 : a < 0 ? -1 : 0;
    case 'clamp':
      return Math.max(b, Math.min(c, a));
    case 'lerp':
      return a + (b - a) * c;
    case 'sqrt':
      return a > 0 ? Math.sqrt(a) : 0;
    case 'approach':
      return approach(a, b, Math.abs(c));
    default:
      throw new RangeError(`no function is called ${name}`);
  }
}
