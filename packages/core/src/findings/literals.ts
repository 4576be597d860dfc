import {
  type Comparison,
  type Expression,
  factId,
  type FactName,
  idOfRef,
  toTicks,
} from '../notation/index.js';
import { type Linear, linearOf, type Opaque, sum, textOf } from './linear.js';

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

/** `Σ scale · number < value`, or `≤`. */
export interface Sum {
  kind: 'sum';
  terms: ReadonlyMap<string, number>;
  op: '<' | '<=';
  value: number;
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

/** A guard (or its negation) in negation normal form. Lengths of time are counted in ticks. */
export function formulaOf(e: Expression, positive = true): Formula {
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

/** Two numbers compared, with what is known of the parts that are not linear. */
function compared(left: Expression, right: Expression, op: Comparison): Formula {
  const opaque: Opaque[] = [];
  const difference = sum(linearOf(left, opaque), linearOf(right, opaque), -1);
  const formula = against(difference, op, 0);
  const known = opaque.filter(({ key }) => difference.terms.has(key)).map(knownOf);
  return known.length === 0 ? formula : all(formula, ...known);
}

/** Rounding up to ticks is no linear step: only plain facts and constants keep their meaning; the rest is free. */
function timeComparison(left: Expression, right: Expression, op: Comparison, rate: number): Formula {
  const a = ticksOf(left, rate);
  const b = ticksOf(right, rate);
  return a === undefined || b === undefined ? FREE : against(sum(a, b, -1), op, 0);
}

function ticksOf(e: Expression, rate: number): Linear | undefined {
  if (e.kind === 'fact') return { terms: new Map([[idOfRef(e.ref), 1]]), offset: 0 };
  const opaque: Opaque[] = [];
  const { terms, offset } = linearOf(e, opaque);
  return terms.size === 0 ? { terms, offset: toTicks(offset, rate) } : undefined;
}

/** A linear form compared with a value. */
function against(form: Linear, op: Comparison, value: number): Formula {
  const limit = value - form.offset;
  switch (op) {
    case '=':
      return all(against(form, '<=', value), against(form, '>=', value));
    case '!=':
      return some(against(form, '<', value), against(form, '>', value));
    case '>':
    case '>=':
      if (form.terms.size > 1)
        return against(sum({ terms: new Map(), offset: 0 }, form, -1), MIRRORED[op], -value);
  }
  const [only, ...others] = form.terms;
  if (only === undefined) return { kind: compareZero(op, limit) ? 'free' : 'never' };
  if (others.length > 0) return { kind: 'sum', terms: form.terms, op: op as '<' | '<=', value: limit };
  const [key, scale] = only;
  return bound(key, (scale < 0 ? MIRRORED[op] : op) as '<', limit / scale);
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
    const formula = against(sum({ terms: new Map([[key, 1]]), offset: 0 }, of_, -1), op, 0);
    return all(formula, ...opaque.filter((o) => o.key !== key).map(knownOf));
  };
  const range = (low: number, high: number): Formula => all(bound(key, '>=', low), bound(key, '<=', high));
  if (e.kind === 'choice')
    return some(all(formulaOf(e.when, true), is(e.then)), all(formulaOf(e.when, false), is(e.otherwise)));
  if (e.kind === 'arithmetic' && e.op === '*')
    return textOf(e.left) === textOf(e.right) ? bound(key, '>=', 0) : FREE;
  if (e.kind === 'fact') return CLOCKS.includes(e.ref.fact) ? bound(key, '>=', 0) : FREE;
  if (e.kind !== 'function') return FREE;
  const [first, ...others] = e.args;
  const against0 = (op: Comparison): Formula => compared(first!, ZERO(first!), op);
  switch (e.name) {
    case 'abs':
      return some(
        all(against0('>='), is(first!)),
        all(against0('<'), is({ kind: 'negate', of: first!, dimension: e.dimension, syntax: e.syntax })),
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
      const [low, high] = others;
      // Held below the higher bound first, then above the lower one, which wins where they cross.
      return some(
        all(is(low!), some(compared(first!, low!, '<='), compared(high!, low!, '<='))),
        all(is(high!), compared(first!, high!, '>='), compared(high!, low!, '>=')),
        all(is(first!), compared(first!, high!, '<='), compared(first!, low!, '>=')),
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
