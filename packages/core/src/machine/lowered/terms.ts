import type { Comparison } from '../../notation/index.js';
import type { Operation, Place, Sense, Statement, Term } from './program.js';

/** Short names for making terms and statements: lowering is made of little else. */

export const number = (value: number): Term => ({ kind: 'number', value });
export const field = (place: number): Place => ({ kind: 'field', place });
export const element = (first: number, index: Term): Place => ({ kind: 'element', first, index });
export const input = (control: number): Term => ({ kind: 'input', control });
export const fact = (slot: number, asked = false): Place => ({ kind: 'fact', slot, asked });
export const local = (name: string): Place => ({ kind: 'local', name, isTruth: false });
export const truthLocal = (name: string): Place => ({ kind: 'local', name, isTruth: true });
export const sense = (name: Sense, ...args: Term[]): Term => ({ kind: 'sense', sense: name, args });
export const operation = (op: Operation, ...args: Term[]): Term => ({ kind: 'operation', op, args });
export const plus = (a: Term, b: Term): Term => operation('+', a, b);
export const minus = (a: Term, b: Term): Term => operation('-', a, b);
export const times = (...factors: Term[]): Term => factors.reduce((a, b) => operation('*', a, b));
export const negated = (a: Term): Term => operation('-', number(0), a);
export const compare = (left: Term, op: Comparison, right: Term): Term => ({
  kind: 'compare',
  op,
  left,
  right,
});
export const is = (left: Term, value: number): Term => compare(left, '=', number(value));
export const isNot = (left: Term, value: number): Term => compare(left, '!=', number(value));
export const not = (of: Term): Term => ({ kind: 'not', of });
export const all = (...of: Term[]): Term => ({ kind: 'all', of });
export const any = (...of: Term[]): Term => ({ kind: 'any', of });
export const choice = (when: Term, then: Term, otherwise: Term): Term => ({
  kind: 'choice',
  when,
  then,
  otherwise,
});

export const letBe = (name: string, value: Term): Statement => ({ kind: 'let', name, value });
export const set = (to: Place, value: Term): Statement => ({ kind: 'set', to, value });

/** A condition without a body is no statement at all, and one that always holds is its body. */
export function when(
  condition: Term,
  then: readonly Statement[],
  otherwise: readonly Statement[] = [],
): Statement[] {
  if (isAlways(condition)) return [...then];
  if (then.length > 0) return [{ kind: 'if', when: condition, then, otherwise }];
  return otherwise.length === 0 ? [] : [{ kind: 'if', when: not(condition), then: otherwise, otherwise: [] }];
}

/** A choice by a number; cases in which there is nothing to do are left out. */
export function switchOn(
  on: Term,
  cases: readonly { of: number; body: readonly Statement[] }[],
  otherwise: readonly Statement[] = [],
): Statement[] {
  const filled = cases.filter(({ body }) => body.length > 0);
  if (filled.length === 0) return [...otherwise];
  // What is left out must not come under what is done otherwise.
  const kept = otherwise.length === 0 ? filled : cases;
  return [{ kind: 'switch', on, cases: kept, otherwise }];
}

/** Whether a condition holds whatever else is so: all of nothing. */
export const isAlways = (t: Term): boolean => t.kind === 'all' && t.of.every(isAlways);

/** Whether a condition never holds: any of nothing. */
export const isNever = (t: Term): boolean => t.kind === 'any' && t.of.every(isNever);

/** Whether a term is a truth, not a number. */
export function isTruth(t: Term): boolean {
  switch (t.kind) {
    case 'compare':
    case 'not':
    case 'all':
    case 'any':
      return true;
    case 'local':
      return t.isTruth;
    case 'sense':
      return t.sense === 'hangs';
    case 'choice':
      return isTruth(t.then) && isTruth(t.otherwise);
    default:
      return false;
  }
}
