import { type Dimension, sameDimension, TIME, toTicks, unitOf } from './dimension.js';
import { evaluate } from './evaluate.js';
import { type Expression, partsOf } from './expression.js';
import { print } from './print.js';

/** One term of a guard with its value: what *why* shows. */
export interface Term {
  text: string;
  /** 1 or 0 for a truth value, else a number in base units. */
  value: number;
  dimension: Dimension;
  /** For a comparison, what stands on its two sides, when that is more than the text says. */
  detail: string | undefined;
  parts: Term[];
  expression: Expression;
}

/** An expression on a table of facts as a tree of terms with their values. */
export function explain(e: Expression, facts: ArrayLike<number>): Term {
  // `not grounded` says all there is to say of `grounded`.
  const plainNot = e.kind === 'not' && partsOf(e.of).length === 0;
  const truthParts = plainNot
    ? []
    : partsOf(e).filter((part) => part.dimension.truth && part.kind !== 'constant');
  return {
    text: print(e.syntax),
    value: evaluate(e, facts),
    dimension: e.dimension,
    detail: e.kind === 'compare' && !e.left.dimension.truth ? sides(e.left, e.right, facts) : undefined,
    parts: truthParts.map((part) => explain(part, facts)),
    expression: e,
  };
}

/** A number with its unit, three decimals at most. */
export function formatValue(value: number, dimension: Dimension, rate?: number): string {
  if (dimension.truth) return value === 0 ? 'false' : 'true';
  const rounded = Math.round(value * 1000) / 1000;
  const number = String(Object.is(rounded, -0) ? 0 : rounded);
  const unit = unitOf(dimension);
  const ticks =
    rate !== undefined && sameDimension(dimension, TIME) ? ` = ${toTicks(value, rate)} ticks` : '';
  return (unit === '' ? number : `${number} ${unit}`) + ticks;
}

function sides(left: Expression, right: Expression, facts: ArrayLike<number>): string {
  return [left, right]
    .filter((side) => side.kind !== 'constant' || side.syntax.kind !== 'number')
    .map((side) => `${print(side.syntax)} is ${formatValue(evaluate(side, facts), side.dimension)}`)
    .join(', ');
}

/** The terms of an `and` that do not hold; a guard of one term is that term. */
export const falseTerms = ({ text, parts, expression }: Term): string[] =>
  expression.kind === 'logic' && expression.op === 'and'
    ? parts.filter((p) => p.value === 0).map((p) => p.text)
    : [text];
