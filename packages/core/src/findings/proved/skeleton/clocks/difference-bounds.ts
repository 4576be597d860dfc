/**
 * What is known of several clocks at once: for any two of them, how much the first may be ahead of the second
 * (difference bound matrices: Dill, "Timing assumptions and verification of finite-state concurrent systems", 1989).
 * `upper[i * size + j]` bounds clock i − clock j; clock 0 always shows 0, so that column 0 holds upper bounds and row 0
 * the negated lower ones. All are whole ticks.
 */
export interface Bounds {
  size: number;
  upper: Int32Array;
}

/** No bound. Far below the largest whole number, so that a sum of two never runs over. */
export const UNBOUNDED = 1 << 29;

/** Clocks that all show 0. */
export const allZero = (clocks: number): Bounds => ({
  size: clocks + 1,
  upper: new Int32Array((clocks + 1) * (clocks + 1)),
});

export const copyOf = ({ size, upper }: Bounds): Bounds => ({ size, upper: upper.slice() });

const sum = (a: number, b: number): number => (a >= UNBOUNDED || b >= UNBOUNDED ? UNBOUNDED : a + b);

/** Makes every bound as tight as the others imply (Floyd and Warshall). False when no clocks meet them all. */
export function tighten({ size, upper }: Bounds): boolean {
  for (let k = 0; k < size; k++) {
    for (let i = 0; i < size; i++) {
      const through = upper[i * size + k]!;
      if (through >= UNBOUNDED) continue;
      for (let j = 0; j < size; j++) {
        const total = sum(through, upper[k * size + j]!);
        if (total < upper[i * size + j]!) upper[i * size + j] = total;
      }
    }
  }
  for (let i = 0; i < size; i++) if (upper[i * size + i]! < 0) return false;
  return true;
}

/** Adds `clock first − clock second ≤ most`. False when no clocks meet that and what was known. */
export function restrict(bounds: Bounds, first: number, second: number, max: number): boolean {
  const { size, upper } = bounds;
  if (upper[first * size + second]! <= max) return true;
  upper[first * size + second] = max;
  return tighten(bounds);
}

/** Forgets all about a clock. */
export function forget({ size, upper }: Bounds, clock: number): void {
  for (let i = 0; i < size; i++) {
    upper[i * size + clock] = UNBOUNDED;
    upper[clock * size + i] = UNBOUNDED;
  }
  upper[clock * size + clock] = 0;
}

/** Sets a clock to a number of ticks. */
export function setClock({ size, upper }: Bounds, clock: number, ticks: number): void {
  for (let i = 0; i < size; i++) {
    if (i === clock) continue;
    upper[clock * size + i] = sum(upper[i]!, ticks);
    upper[i * size + clock] = sum(upper[i * size]!, -ticks);
  }
  upper[clock * size + clock] = 0;
}

/** Adds a number of ticks to a clock. */
export function shiftClock({ size, upper }: Bounds, clock: number, ticks: number): void {
  for (let i = 0; i < size; i++) {
    if (i === clock) continue;
    upper[clock * size + i] = sum(upper[clock * size + i]!, ticks);
    upper[i * size + clock] = sum(upper[i * size + clock]!, -ticks);
  }
}

/** How a clock goes on in one tick: by one; by one or not at all; by one or back to 0; or not at all. */
export type Pace = 'steady' | 'pausable' | 'resettable' | 'frozen';

/** One tick goes by. `paces` are those of the clocks from 1 on. What comes of it is not tightened. */
export function advance(bounds: Bounds, paces: readonly Pace[]): void {
  const { size, upper } = bounds;
  const before = upper.slice();
  // Between how much and how much a clock gains; a reset is added below.
  const min = (i: number): number =>
    i > 0 && (paces[i - 1] === 'steady' || paces[i - 1] === 'resettable') ? 1 : 0;
  const max = (i: number): number => (i > 0 && paces[i - 1] !== 'frozen' ? 1 : 0);
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++)
      if (i !== j) upper[i * size + j] = sum(before[i * size + j]!, max(i) - min(j));
  paces.forEach((pace, k) => {
    if (pace !== 'resettable') return;
    const i = k + 1;
    for (let j = 0; j < size; j++) {
      if (j === i) continue;
      upper[i * size + j] = Math.max(upper[i * size + j]!, upper[j]!);
      upper[j * size + i] = Math.max(upper[j * size + i]!, upper[j * size]!);
    }
  });
}

/** Widens `bounds` to hold what `other` holds, too. Whether it did not before. */
export function include(bounds: Bounds, other: Bounds): boolean {
  let grew = false;
  for (let i = 0; i < bounds.upper.length; i++) {
    if (other.upper[i]! <= bounds.upper[i]!) continue;
    bounds.upper[i] = other.upper[i]!;
    grew = true;
  }
  return grew;
}

/**
 * Widens each bound that grew since `before` to the next of `thresholds` (sorted), or to none: what grows tick by tick
 * comes to its end at once.
 */
export function widen({ upper }: Bounds, before: Bounds, thresholds: readonly number[]): void {
  for (let i = 0; i < upper.length; i++) {
    const now = upper[i]!;
    if (now > before.upper[i]!) upper[i] = thresholds.find((t) => t >= now) ?? UNBOUNDED;
  }
}

/** Between which ticks a clock is; infinite where it has no bound. */
export function rangeOf({ size, upper }: Bounds, clock: number): { low: number; high: number } {
  const low = upper[clock]!;
  const high = upper[clock * size]!;
  return { low: low >= UNBOUNDED ? -Infinity : 0 - low, high: high >= UNBOUNDED ? Infinity : high };
}

/** Whether clocks that show `ticks` (from clock 1 on; undefined: whatever it shows) are among those that are possible. */
export function holdsTicks({ size, upper }: Bounds, ticks: readonly (number | undefined)[]): boolean {
  const shown = [0, ...ticks];
  return shown.every((a, i) =>
    shown.every((b, j) => a === undefined || b === undefined || a - b <= upper[i * size + j]!),
  );
}

/** By how much a clock may be ahead of another; undefined where what each may show says as much. */
export function differenceOf({ size, upper }: Bounds, first: number, second: number): number | undefined {
  const max = upper[first * size + second]!;
  return max < sum(upper[first * size]!, upper[second]!) ? max : undefined;
}
