import { type Comparison, type Expression, toTicks } from '../notation/index.js';

/**
 * What the guard solver reasons about. A guard is taken apart into formulas over two kinds of literal: a truth
 * fact, and a bound on one number. What it does not understand is left free: `true`, which never makes a
 * contradiction.
 */
export type Formula =
  | { kind: 'and' | 'or'; parts: Formula[] }
  | { kind: 'truth'; key: string; value: boolean }
  | { kind: 'bound'; key: string; op: '<' | '<=' | '>' | '>='; value: number }
  | { kind: 'free' }
  | { kind: 'never' };

export const truth = (key: string, value = true): Formula => ({ kind: 'truth', key, value });
export const bound = (key: string, op: '<' | '<=' | '>' | '>=', value: number): Formula => ({
  kind: 'bound',
  key,
  op,
  value,
});

/** A guard (or its negation) in negation normal form. Lengths of time are counted in ticks. */
export function formulaOf(e: Expression, positive = true): Formula {
  switch (e.kind) {
    case 'constant':
      return { kind: (e.value !== 0) === positive ? 'free' : 'never' };
    case 'fact':
      return truth(e.key, positive);
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
      return { kind: 'and', parts: [own, formulaOf(e.of, positive)] };
    }
    case 'compare':
      return comparisonOf(e, positive);
    case 'choice': {
      const branch = (when: boolean): Formula => ({
        kind: 'and',
        parts: [formulaOf(e.when, when), formulaOf(when ? e.then : e.otherwise, positive)],
      });
      return { kind: 'or', parts: [branch(true), branch(false)] };
    }
    default:
      return { kind: 'free' };
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
  const left = linear(e.left);
  const right = linear(e.right);
  if (left === undefined || right === undefined) return { kind: 'free' };
  const scale = left.scale - right.scale;
  const key = left.key ?? right.key;
  const severalNumbers = left.key !== undefined && right.key !== undefined && left.key !== right.key;
  if (key === undefined || severalNumbers || scale === 0) return { kind: 'free' };
  // Rounding up to ticks is no linear step: only a plain fact beside a constant keeps its meaning.
  if (
    e.rate !== undefined &&
    !(isPlain(left) && right.key === undefined) &&
    !(isPlain(right) && left.key === undefined)
  )
    return { kind: 'free' };
  const value = (right.offset - left.offset) / scale;
  const limit = e.rate === undefined ? value : toTicks(value, e.rate);
  const turned = scale < 0 ? MIRRORED[op] : op;
  switch (turned) {
    case '=':
      return { kind: 'and', parts: [bound(key, '<=', limit), bound(key, '>=', limit)] };
    case '!=':
      return { kind: 'or', parts: [bound(key, '<', limit), bound(key, '>', limit)] };
    default:
      return bound(key, turned, limit);
  }
}

function truthComparison(left: Expression, right: Expression, op: Comparison): Formula {
  const same = op === '=';
  const both = (l: boolean, r: boolean): Formula => ({
    kind: 'and',
    parts: [formulaOf(left, l), formulaOf(right, r)],
  });
  return { kind: 'or', parts: [both(true, same), both(false, !same)] };
}

interface Linear {
  key: string | undefined;
  scale: number;
  offset: number;
}

const isPlain = (l: Linear): boolean => l.key !== undefined && l.scale === 1 && l.offset === 0;

/** `scale · fact + offset`, when an expression is that. */
function linear(e: Expression): Linear | undefined {
  switch (e.kind) {
    case 'constant':
      return { key: undefined, scale: 0, offset: e.value };
    case 'fact':
      return { key: e.key, scale: 1, offset: 0 };
    case 'negate': {
      const of = linear(e.of);
      return of && { key: of.key, scale: -of.scale, offset: -of.offset };
    }
    case 'arithmetic': {
      const left = linear(e.left);
      const right = linear(e.right);
      if (left === undefined || right === undefined) return undefined;
      if (e.op === '+' || e.op === '-') {
        if (left.key !== undefined && right.key !== undefined && left.key !== right.key) return undefined;
        const sign = e.op === '+' ? 1 : -1;
        return {
          key: left.key ?? right.key,
          scale: left.scale + sign * right.scale,
          offset: left.offset + sign * right.offset,
        };
      }
      if (e.op === '*') {
        const [factor, of] = left.key === undefined ? [left, right] : [right, left];
        if (factor.key !== undefined) return undefined;
        return { key: of.key, scale: of.scale * factor.offset, offset: of.offset * factor.offset };
      }
      if (right.key !== undefined || right.offset === 0) return undefined;
      return { key: left.key, scale: left.scale / right.offset, offset: left.offset / right.offset };
    }
    default:
      return undefined;
  }
}
