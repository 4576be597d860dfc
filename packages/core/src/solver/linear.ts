import { type Expression, idOfRef, sameDimension, TIME } from '../notation/index.js';

/**
 * `Σ scale · number + offset`: what an expression is when it is linear. A run works it out on doubles, so it may come to
 * a little more or less: `rounding` bounds how much.
 */
export interface Linear {
  terms: ReadonlyMap<string, number>;
  offset: number;
  rounding: Rounding;
}

/**
 * How far a value worked out on doubles may be from the real one: at most
 * `steps · ROUNDING · (Σ sizes · |number| + constants)`, for each operation errs by one relative rounding of what it
 * makes, which is never more than that sum (Higham, Accuracy and Stability of Numerical Algorithms, 3.1). `isWhole`:
 * all scales and constants are whole numbers, so that on whole numbers nothing is rounded.
 */
export interface Rounding {
  steps: number;
  sizes: ReadonlyMap<string, number>;
  constants: number;
  isWhole: boolean;
}

const exact = (offset: number): Rounding => ({
  steps: 0,
  sizes: new Map(),
  constants: Math.abs(offset),
  isWhole: Number.isInteger(offset),
});

/** A single number, as it is. */
export const numberOf = (key: string): Linear => ({
  terms: new Map([[key, 1]]),
  offset: 0,
  rounding: { steps: 0, sizes: new Map([[key, 1]]), constants: 0, isWhole: true },
});

/**
 * A part of an expression that is not linear, as a number of its own: the same part is the same number wherever it
 * stands in the guards of a tick. Whoever reads a linear form must say what is known of these.
 */
export interface Opaque {
  key: string;
  expression: Expression;
}

export const constant = (offset: number): Linear => ({ terms: new Map(), offset, rounding: exact(offset) });

/** An expression as a linear form over facts and opaque parts, which are added to `opaque`. */
export function linearOf(e: Expression, opaque: Opaque[]): Linear {
  switch (e.kind) {
    case 'constant':
      return constant(e.value);
    case 'fact':
      // A length of time is counted in ticks where it is compared as one, and is another number where it is not.
      return isTime(e) ? asOpaque(e, opaque) : numberOf(idOfRef(e.ref));
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
      const [a, b, share] = e.args.map((arg) => linearOf(arg, opaque)) as [Linear, Linear, Linear];
      return share.terms.size > 0 ? asOpaque(e, opaque) : sum(a, scaled(sum(b, a, -1), share.offset), 1);
    }
    default:
      return asOpaque(e, opaque);
  }
}

const isTime = (e: Expression): boolean => sameDimension(e.dimension, TIME);

function asOpaque(expression: Expression, opaque: Opaque[]): Linear {
  const key = `~${textOf(expression)}`;
  if (!opaque.some((o) => o.key === key)) opaque.push({ key, expression });
  return numberOf(key);
}

/** `a + factor · b` with a factor of 1 or −1, in one rounded operation; what cancels out is gone. */
function sum(a: Linear, b: Linear, factor: 1 | -1): Linear {
  const isTrivial = (of: Linear): boolean => of.terms.size === 0 && of.offset === 0;
  const sizes = new Map(a.rounding.sizes);
  for (const [key, size] of b.rounding.sizes) sizes.set(key, (sizes.get(key) ?? 0) + size);
  return {
    ...added(a, b, factor),
    rounding: {
      // Adding nothing rounds nothing.
      steps: a.rounding.steps + b.rounding.steps + (isTrivial(a) || isTrivial(b) ? 0 : 1),
      sizes,
      constants: a.rounding.constants + b.rounding.constants,
      isWhole: a.rounding.isWhole && b.rounding.isWhole,
    },
  };
}

/** What two sides of a comparison differ by. Nothing is worked out for that: only each side itself is rounded. */
export function difference(a: Linear, b: Linear): Linear {
  const rounded = [a, b].filter(({ rounding }) => rounding.steps > 0).map(({ rounding }) => rounding);
  const sizes = new Map<string, number>();
  for (const { sizes: own } of rounded)
    for (const [key, size] of own) sizes.set(key, (sizes.get(key) ?? 0) + size);
  return {
    ...added(a, b, -1),
    rounding: {
      steps: rounded.reduce((n, { steps }) => n + steps, 0),
      sizes,
      constants: rounded.reduce((n, { constants }) => n + constants, 0),
      isWhole: a.rounding.isWhole && b.rounding.isWhole,
    },
  };
}

function added(a: Linear, b: Linear, factor: 1 | -1): Pick<Linear, 'terms' | 'offset'> {
  const terms = new Map(a.terms);
  for (const [key, scale] of b.terms) {
    const total = (terms.get(key) ?? 0) + factor * scale;
    if (total === 0) terms.delete(key);
    else terms.set(key, total);
  }
  return { terms, offset: a.offset + factor * b.offset };
}

const scaled = (a: Linear, factor: number): Linear =>
  factor === 0
    ? constant(0)
    : mapped(a, (n) => n * factor, Math.abs(factor) === 1 ? 0 : 1, Number.isInteger(factor));

const divided = (a: Linear, by: number): Linear =>
  mapped(a, (n) => n / by, Math.abs(by) === 1 ? 0 : 1, Math.abs(by) === 1);

/** The same to all scales and constants, in so many rounded operations. */
function mapped(
  { terms, offset, rounding }: Linear,
  to: (n: number) => number,
  steps: number,
  isWhole: boolean,
): Linear {
  return {
    terms: new Map([...terms].map(([key, scale]) => [key, to(scale)])),
    offset: to(offset),
    rounding: {
      steps: rounding.steps + steps,
      sizes: new Map([...rounding.sizes].map(([key, size]) => [key, Math.abs(to(size))])),
      constants: Math.abs(to(rounding.constants)),
      isWhole: rounding.isWhole && isWhole,
    },
  };
}

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
