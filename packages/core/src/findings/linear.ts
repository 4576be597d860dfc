import { type Expression, idOfRef, sameDimension, TIME } from '../notation/index.js';

/** `Σ scale · number + offset`: what an expression is when it is linear. */
export interface Linear {
  terms: ReadonlyMap<string, number>;
  offset: number;
}

/**
 * A part of an expression that is not linear, as a number of its own: the same part is the same number wherever it
 * stands in the guards of a tick. Whoever reads a linear form must say what is known of these.
 */
export interface Opaque {
  key: string;
  expression: Expression;
}

const constant = (offset: number): Linear => ({ terms: new Map(), offset });

/** An expression as a linear form over facts and opaque parts, which are added to `opaque`. */
export function linearOf(e: Expression, opaque: Opaque[]): Linear {
  switch (e.kind) {
    case 'constant':
      return constant(e.value);
    case 'fact':
      // A length of time is counted in ticks where it is compared as one, and is another number where it is not.
      return isTime(e) ? asOpaque(e, opaque) : { terms: new Map([[idOfRef(e.ref), 1]]), offset: 0 };
    case 'negate':
      return scaled(linearOf(e.of, opaque), -1);
    case 'arithmetic': {
      const left = linearOf(e.left, opaque);
      const right = linearOf(e.right, opaque);
      if (e.op === '+') return sum(left, right, 1);
      if (e.op === '-') return sum(left, right, -1);
      if (e.op === '*') {
        if (left.terms.size === 0) return scaled(right, left.offset);
        return right.terms.size === 0 ? scaled(left, right.offset) : asOpaque(e, opaque);
      }
      if (right.terms.size > 0) return asOpaque(e, opaque);
      // Dividing by zero gives zero.
      return right.offset === 0 ? constant(0) : divided(left, right.offset);
    }
    case 'function': {
      if (e.name !== 'lerp') return asOpaque(e, opaque);
      const [a, b, share] = e.args.map((arg) => linearOf(arg, opaque));
      return share!.terms.size > 0 ? asOpaque(e, opaque) : sum(a!, scaled(sum(b!, a!, -1), share!.offset), 1);
    }
    default:
      return asOpaque(e, opaque);
  }
}

const isTime = (e: Expression): boolean => sameDimension(e.dimension, TIME);

function asOpaque(expression: Expression, opaque: Opaque[]): Linear {
  const key = `~${textOf(expression)}`;
  if (!opaque.some((o) => o.key === key)) opaque.push({ key, expression });
  return { terms: new Map([[key, 1]]), offset: 0 };
}

/** `a + factor · b`; what cancels out is gone. */
export function sum(a: Linear, b: Linear, factor: number): Linear {
  const terms = new Map(a.terms);
  for (const [key, scale] of b.terms) {
    const total = (terms.get(key) ?? 0) + factor * scale;
    if (total === 0) terms.delete(key);
    else terms.set(key, total);
  }
  return { terms, offset: a.offset + factor * b.offset };
}

function scaled(a: Linear, factor: number): Linear {
  if (factor === 0) return constant(0);
  return {
    terms: new Map([...a.terms].map(([key, scale]) => [key, scale * factor])),
    offset: a.offset * factor,
  };
}

const divided = (a: Linear, by: number): Linear => ({
  terms: new Map([...a.terms].map(([key, scale]) => [key, scale / by])),
  offset: a.offset / by,
});

/** An expression as text in which the same facts have the same names: two with one text have one value. */
export function textOf(e: Expression): string {
  switch (e.kind) {
    case 'constant':
      return String(e.value);
    case 'fact':
      return idOfRef(e.ref);
    case 'memory':
      return `#${e.slot}`;
    case 'negate':
    case 'not':
      return `(${e.kind} ${textOf(e.of)})`;
    case 'arithmetic':
    case 'compare':
      return `(${textOf(e.left)} ${e.op} ${textOf(e.right)}${e.kind === 'compare' && e.rate !== undefined ? ' ticks' : ''})`;
    case 'logic':
      return `(${e.parts.map(textOf).join(` ${e.op} `)})`;
    case 'choice':
      return `(if ${textOf(e.when)} then ${textOf(e.then)} else ${textOf(e.otherwise)})`;
    case 'function':
      return `${e.name}(${e.args.map(textOf).join(', ')})`;
  }
}
