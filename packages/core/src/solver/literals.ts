import { present } from '../present.js';
import {
  type Comparison,
  type Expression,
  factId,
  type FactName,
  idOfRef,
  toTicks,
} from '../notation/index.js';
import { ROUNDING } from '../tolerances.js';
import {
  constant,
  difference,
  type Linear,
  linearOf,
  numberOf,
  type Opaque,
  type Rounding,
  textOf,
} from './linear.js';

/**
 * What the guard solver reasons about. A guard is taken apart into formulas over three kinds of literal: a truth
 * fact, a bound on one number, and a bound on a sum of several. What it does not understand is left free: `true`,
 * which never makes a contradiction.
 */
export type Formula =
  | { kind: 'and' | 'or'; parts: Formula[] }
  | { kind: 'truth'; key: string; value: boolean }
  | { kind: 'bound'; key: string; op: '<' | '<=' | '>' | '>='; value: number }
  | Sum
  | { kind: 'free' }
  | { kind: 'never' };

/**
 * `Σ scale · number < value`, or `≤`, of what a run works out on doubles. By how much that may differ from the real sum
 * depends on how large the numbers are: see `slackOf` and `boundOfSum`.
 */
export interface Sum {
  kind: 'sum';
  terms: ReadonlyMap<string, number>;
  op: '<' | '<=';
  value: number;
  rounding: Rounding;
}

/** A bound on one number. */
export type Bound = Extract<Formula, { kind: 'bound' }>;

/** The share of what went into it that so many rounded operations may err by; the scales were worked out by as many. */
const errorOf = (steps: number): number => 2 * (steps + 1) * ROUNDING;

/** How far a sum on doubles may be from the real one, while no number is greater than its bound either way. */
export function slackOf({ steps, sizes, constants }: Rounding, greatest: (key: string) => number): number {
  if (steps === 0) return 0;
  let total = constants;
  for (const [key, size] of sizes) total += size * greatest(key);
  return errorOf(steps) * total;
}

/**
 * What a sum of one number says of it, however a run rounds. From `s·x ≤ v` on doubles follows
 * `s·x ≤ v + ε(A·|x| + B)`, which on either side of zero is a bound on x. Undefined when the scale is lost in rounding.
 */
export function boundOfSum(
  { terms, op, value, rounding }: Sum,
  isWhole: (key: string) => boolean,
): Bound | undefined {
  const [key, scale] = present([...terms][0]);
  const s = Math.abs(scale);
  const limited = (limit: number): Bound =>
    scale > 0
      ? { kind: 'bound', key, op, value: limit }
      : { kind: 'bound', key, op: op === '<' ? '>' : '>=', value: -limit };
  if (rounding.steps === 0 || (rounding.isWhole && isWhole(key))) return limited(value / s);
  const error = errorOf(rounding.steps);
  const size = error * (rounding.sizes.get(key) ?? 0);
  if (s <= 2 * size) return undefined;
  const v = value + error * rounding.constants;
  const limit = v >= 0 ? v / (s - size) : v / (s + size);
  return limited(limit + Math.abs(limit) * error);
}

export const truth = (key: string, value = true): Formula => ({ kind: 'truth', key, value });
/** A truth fact of a named thing. */
export const truthOf = (fact: FactName, of: string, value = true): Formula => truth(factId(fact, of), value);
export const bound = (key: string, op: '<' | '<=' | '>' | '>=', value: number): Formula => ({
  kind: 'bound',
  key,
  op,
  value,
});
/** A bound on a number of a named thing. */
export const boundOf = (fact: FactName, of: string, op: '<' | '<=' | '>' | '>=', value: number): Formula =>
  bound(factId(fact, of), op, value);
export const all = (...parts: Formula[]): Formula => ({ kind: 'and', parts });
export const some = (...parts: Formula[]): Formula => ({ kind: 'or', parts });
export const FREE: Formula = { kind: 'free' };
export const NEVER_HOLDS: Formula = { kind: 'never' };

/** All numbers and truth facts that formulas speak of. */
export function keysIn(formulas: readonly Formula[]): Set<string> {
  const keys = new Set<string>();
  const see = (formula: Formula): void => {
    if (formula.kind === 'and' || formula.kind === 'or') formula.parts.forEach(see);
    else if (formula.kind === 'truth' || formula.kind === 'bound') keys.add(formula.key);
    else if (formula.kind === 'sum') for (const key of formula.terms.keys()) keys.add(key);
  };
  formulas.forEach(see);
  return keys;
}

/**
 * A guard (or its negation) in negation normal form. Lengths of time are counted in ticks. Worked out once for each
 * expression: the same guards are asked about again and again.
 */
export function formulaOf(e: Expression, positive = true): Formula {
  const known = positive ? asserted : denied;
  let formula = known.get(e);
  if (formula === undefined) known.set(e, (formula = formulaFrom(e, positive)));
  return formula;
}

const asserted = new WeakMap<Expression, Formula>();
const denied = new WeakMap<Expression, Formula>();

function formulaFrom(e: Expression, positive: boolean): Formula {
  switch (e.kind) {
    case 'constant':
      return { kind: (e.value !== 0) === positive ? 'free' : 'never' };
    case 'fact':
      return truth(idOfRef(e.ref), positive);
    case 'not':
      return formulaOf(e.of, !positive);
    case 'logic':
      return {
        kind: (e.op === 'and') === positive ? 'and' : 'or',
        parts: e.parts.map((part) => formulaOf(part, positive)),
      };
    case 'memory': {
      // Holding for a time implies holding now; not having held within a time implies not holding now.
      const own = truth(`#${e.slot}`, positive);
      if ((e.mode === 'for') !== positive) return own;
      return all(own, formulaOf(e.of, positive));
    }
    case 'compare':
      return comparisonOf(e, positive);
    case 'choice': {
      const branch = (when: boolean): Formula =>
        all(formulaOf(e.when, when), formulaOf(when ? e.then : e.otherwise, positive));
      return some(branch(true), branch(false));
    }
    default:
      return FREE;
  }
}

const NEGATED: Record<Comparison, Comparison> = {
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
  '=': '!=',
  '!=': '=',
};
const MIRRORED: Record<Comparison, Comparison> = {
  '<': '>',
  '<=': '>=',
  '>': '<',
  '>=': '<=',
  '=': '=',
  '!=': '!=',
};

function comparisonOf(e: Extract<Expression, { kind: 'compare' }>, positive: boolean): Formula {
  const op = positive ? e.op : NEGATED[e.op];
  if (e.left.dimension.truth) return truthComparison(e.left, e.right, op);
  if (e.rate !== undefined) return timeComparison(e.left, e.right, op, e.rate);
  return compared(e.left, e.right, op);
}

/**
 * Two numbers compared, with what is known of the parts that are not linear. A side that a run works out by rounded
 * steps is a number of its own, so that the same side has the same value in every guard; it is tied to the sum that it
 * stands for as near as rounding allows.
 */
function compared(left: Expression, right: Expression, op: Comparison): Formula {
  const opaque: Opaque[] = [];
  const sides = [linearOf(left, opaque), linearOf(right, opaque)] as const;
  const form = difference(...sides);
  const direct = form.terms.size === 0 && form.rounding.steps > 0 ? FREE : against(form, op);
  const parts = [direct, ...opaque.map(knownOf)];
  if (sides.some((side) => side.rounding.steps > 0)) {
    const exact = sides.map((side, i) => asRounded(side, i === 0 ? left : right, parts));
    parts.push(against(difference(present(exact[0]), present(exact[1])), op));
  }
  return parts.length === 1 ? direct : all(...parts);
}

/** A side as it is when it is exact, else as a number of its own, tied to its sum by what is added to `parts`. */
function asRounded(side: Linear, e: Expression, parts: Formula[]): Linear {
  if (side.rounding.steps === 0) return side;
  const own = numberOf(`~${textOf(e)}`);
  const gap = difference(own, side);
  parts.push(against(gap, '<='), against(gap, '>='));
  return own;
}

/** Rounding up to ticks is no linear step: only plain facts and constants keep their meaning; the rest is free. */
function timeComparison(left: Expression, right: Expression, op: Comparison, rate: number): Formula {
  const a = ticksOf(left, rate);
  const b = ticksOf(right, rate);
  return a === undefined || b === undefined ? FREE : against(difference(a, b), op);
}

function ticksOf(e: Expression, rate: number): Linear | undefined {
  if (e.kind === 'fact') return numberOf(idOfRef(e.ref));
  return e.kind === 'constant' ? constant(toTicks(e.value, rate)) : undefined;
}

/** A linear form compared with 0, as a run compares it: whatever rounding may let hold is let hold. */
function against(form: Linear, op: Comparison): Formula {
  const { terms, offset, rounding } = form;
  switch (op) {
    case '=':
      return all(against(form, '<='), against(form, '>='));
    case '!=':
      return some(against(form, '<'), against(form, '>'));
    case '>':
    case '>=':
      if (terms.size > 1 || rounding.steps > 0) return against(difference(constant(0), form), MIRRORED[op]);
  }
  const [only, ...others] = terms;
  // All numbers cancelled out; what they were rounded by did not.
  if (only === undefined)
    return rounding.steps > 0 ? FREE : { kind: compareZero(op, -offset) ? 'free' : 'never' };
  if (others.length > 0 || rounding.steps > 0)
    return { kind: 'sum', terms, op: op as '<' | '<=', value: -offset, rounding };
  const [key, scale] = only;
  return bound(key, (scale < 0 ? MIRRORED[op] : op) as '<', -offset / scale);
}

/** `0 op value`. */
const compareZero = (op: Comparison, value: number): boolean =>
  op === '<' ? value > 0 : op === '<=' ? value >= 0 : op === '>' ? value < 0 : value <= 0;

/** Facts that are lengths of time and never below zero. */
const CLOCKS: readonly FactName[] = ['elapsed', 'laneElapsed', 'airtime', 'left'];

/** What is certain of a part that is not linear. */
function knownOf({ key, expression: e }: Opaque): Formula {
  const is = (of: Expression, op: Comparison = '='): Formula => {
    const opaque: Opaque[] = [];
    const of_ = linearOf(of, opaque);
    const formula = against(difference(numberOf(key), of_), op);
    return all(formula, ...opaque.filter((o) => o.key !== key).map(knownOf));
  };
  const range = (low: number, high: number): Formula => all(bound(key, '>=', low), bound(key, '<=', high));
  if (e.kind === 'choice')
    return some(all(formulaOf(e.when, true), is(e.then)), all(formulaOf(e.when, false), is(e.otherwise)));
  if (e.kind === 'arithmetic' && e.op === '*')
    return textOf(e.left) === textOf(e.right) ? bound(key, '>=', 0) : FREE;
  if (e.kind === 'fact') return CLOCKS.includes(e.ref.fact) ? bound(key, '>=', 0) : FREE;
  if (e.kind !== 'function') return FREE;
  const first = present(e.args[0]);
  const against0 = (op: Comparison): Formula => compared(first, ZERO(first), op);
  switch (e.name) {
    case 'abs':
      return some(
        all(against0('>='), is(first)),
        all(against0('<'), is({ kind: 'negate', of: first, dimension: e.dimension, syntax: e.syntax })),
      );
    case 'sign':
      return some(
        all(against0('>'), range(1, 1)),
        all(against0('='), range(0, 0)),
        all(against0('<'), range(-1, -1)),
      );
    case 'min':
    case 'max': {
      const op = e.name === 'min' ? '<=' : '>=';
      return all(...e.args.map((arg) => is(arg, op)), some(...e.args.map((arg) => is(arg))));
    }
    case 'clamp': {
      const low = present(e.args[1]);
      const high = present(e.args[2]);
      // Held below the higher bound first, then above the lower one, which wins where they cross.
      return some(
        all(is(low), some(compared(first, low, '<='), compared(high, low, '<='))),
        all(is(high), compared(first, high, '>='), compared(high, low, '>=')),
        all(is(first), compared(first, high, '<='), compared(first, low, '>=')),
      );
    }
    case 'sqrt':
      return bound(key, '>=', 0);
    default:
      return FREE;
  }
}

const ZERO = (like: Expression): Expression => ({
  kind: 'constant',
  value: 0,
  dials: [],
  dimension: like.dimension,
  syntax: like.syntax,
});

function truthComparison(left: Expression, right: Expression, op: Comparison): Formula {
  const same = op === '=';
  const both = (l: boolean, r: boolean): Formula => all(formulaOf(left, l), formulaOf(right, r));
  return some(both(true, same), both(false, !same));
}
