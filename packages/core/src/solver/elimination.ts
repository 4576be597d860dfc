import { present } from '../present.js';
import { ELIMINATION } from '../tolerances.js';

/**
 * `Σ scale · number < value`, or `≤`; `size` is the greatest number that went into it, for judging rounding, and
 * `isExact` says that nothing was rounded: only then may `0 < 0` be taken for a contradiction.
 */
export interface Constraint {
  terms: ReadonlyMap<string, number>;
  strict: boolean;
  value: number;
  size: number;
  isExact: boolean;
}

/** More constraints than this are given up as feasible. */
const MAX_BOUNDS = 400;

/**
 * Whether linear constraints over real numbers have a solution, by eliminating one number after the other (Fourier
 * 1826, Motzkin 1936). `undefined` is certain: there is none. Else values for all numbers, or an empty map when it
 * was given up. `whole` numbers are only rounded in the solution, where that is possible.
 */
export function feasible(
  constraints: readonly Constraint[],
  isWhole: (key: string) => boolean,
): Map<string, number> | undefined {
  let left = tightest(constraints.map(tidied));
  const stages: { key: string; about: Constraint[] }[] = [];
  for (;;) {
    if (left.some(isContradiction)) return undefined;
    left = left.filter((c) => c.terms.size > 0);
    const key = cheapest(left);
    if (key === undefined) break;
    const about = left.filter((c) => c.terms.has(key));
    const above = about.filter((c) => present(c.terms.get(key)) > 0);
    const below = about.filter((c) => present(c.terms.get(key)) < 0);
    const next = left.filter((c) => !c.terms.has(key));
    if (next.length + above.length * below.length > MAX_BOUNDS) return new Map();
    for (const a of above) for (const b of below) next.push(combined(a, b, key));
    stages.push({ key, about });
    left = tightest(next);
  }
  return solutionOf(stages, isWhole);
}

/** Of constraints on the same sum the tightest: the others say nothing more. */
function tightest(constraints: readonly Constraint[]): Constraint[] {
  const found = new Map<string, Constraint>();
  for (const c of constraints) {
    const label = [...c.terms]
      .map(([key, scale]) => `${key} ${scale}`)
      .sort()
      .join();
    const known = found.get(label);
    if (
      known === undefined ||
      c.value < known.value ||
      (c.value === known.value && c.strict && !known.strict)
    )
      found.set(label, c);
  }
  return [...found.values()];
}

function isContradiction({ terms, strict, value, size, isExact }: Constraint): boolean {
  if (terms.size > 0) return false;
  return value < -ELIMINATION * size || (strict && isExact && value === 0);
}

/** The number whose elimination makes the fewest new constraints. */
function cheapest(constraints: readonly Constraint[]): string | undefined {
  const counts = new Map<string, [number, number]>();
  for (const { terms } of constraints) {
    for (const [key, scale] of terms) {
      const [above, below] = counts.get(key) ?? [0, 0];
      counts.set(key, scale > 0 ? [above + 1, below] : [above, below + 1]);
    }
  }
  let best: string | undefined;
  let min = Infinity;
  for (const [key, [above, below]] of counts) {
    const cost = above * below - above - below;
    if (cost < min) [best, min] = [key, cost];
  }
  return best;
}

function combined(above: Constraint, below: Constraint, key: string): Constraint {
  const a = present(above.terms.get(key));
  const b = -present(below.terms.get(key));
  const terms = new Map<string, number>();
  for (const [k, scale] of above.terms) if (k !== key) terms.set(k, scale / a);
  for (const [k, scale] of below.terms) {
    if (k === key) continue;
    const total = (terms.get(k) ?? 0) + scale / b;
    if (total === 0) terms.delete(k);
    else terms.set(k, total);
  }
  return {
    terms,
    strict: above.strict || below.strict,
    value: above.value / a + below.value / b,
    size: Math.max(above.size / a, below.size / b),
    isExact: above.isExact && below.isExact && a === 1 && b === 1,
  };
}

const tidied = (c: Constraint): Constraint => ({
  ...c,
  size: Math.max(c.size, Math.abs(c.value), ...[...c.terms.values()].map(Math.abs)),
});

/** Values for the numbers, last eliminated first, each between the bounds that the others leave it. */
function solutionOf(
  stages: readonly { key: string; about: readonly Constraint[] }[],
  isWhole: (key: string) => boolean,
): Map<string, number> {
  const values = new Map<string, number>();
  for (const { key, about } of [...stages].reverse()) {
    let low = -Infinity;
    let high = Infinity;
    let lowOpen = false;
    let highOpen = false;
    for (const { terms, value, strict } of about) {
      let rest = value;
      for (const [k, scale] of terms) if (k !== key) rest -= scale * (values.get(k) ?? 0);
      const scale = present(terms.get(key));
      const limit = rest / scale;
      if (scale > 0 && (limit < high || (limit === high && strict))) [high, highOpen] = [limit, strict];
      if (scale < 0 && (limit > low || (limit === low && strict))) [low, lowOpen] = [limit, strict];
    }
    values.set(key, between({ low, lowOpen, high, highOpen, whole: isWhole(key) }));
  }
  return values;
}

/** A value in a range: zero where it lies inside, else a plain one near the end of it. */
export function between(range: {
  low: number;
  lowOpen: boolean;
  high: number;
  highOpen: boolean;
  whole: boolean;
}): number {
  const { low, lowOpen, high, highOpen, whole } = range;
  const isIn = (n: number): boolean =>
    (lowOpen ? n > low : n >= low) && (highOpen ? n < high : n <= high) && (!whole || Number.isInteger(n));
  const nearLow = Math.floor(low) + (lowOpen || !Number.isInteger(low) ? 1 : 0);
  const nearHigh = Math.ceil(high) - (highOpen || !Number.isInteger(high) ? 1 : 0);
  for (const n of [0, nearLow, nearHigh, low, high, (low + high) / 2])
    if (Number.isFinite(n) && isIn(n)) return n;
  return Number.isFinite(low) ? low : Number.isFinite(high) ? high : 0;
}
