import type { Expression } from '../../../notation/index.js';
import {
  formulaOf,
  keysIn,
  linearOf,
  type Formula,
  bound,
  domainOf,
  type Opaque,
  slackOf,
} from '../../../solver/index.js';
import type { Machine } from '../../../machine/index.js';

/**
 * What a number is to the guards that compare it with constants: with sorted constants c0 < c1 < … region 0 is below
 * c0, region 1 is c0 itself, region 2 lies between c0 and c1, and so on; the last is above all of them. No guard can
 * tell two numbers of one region apart.
 */
export type Cuts = readonly number[];

/** More constants than this are not followed. */
export const MAX_CUTS = 7;

export const regionsOf = (cuts: Cuts): number => 2 * cuts.length + 1;

/** The constants that guards compare the number with a key with by itself, sorted. */
export function cutsOf(guards: readonly Expression[], key: string): number[] {
  const cuts = new Set<number>();
  const see = (formula: Formula): void => {
    if (formula.kind === 'and' || formula.kind === 'or') formula.parts.forEach(see);
    else if (formula.kind === 'bound' && formula.key === key) cuts.add(formula.value);
  };
  for (const guard of guards) {
    const formula = formulaOf(guard);
    if (keysIn([formula]).has(key)) see(formula);
  }
  return [...cuts].sort((a, b) => a - b);
}

export function regionOf(cuts: Cuts, value: number): number {
  const above = cuts.filter((c) => c < value).length;
  return cuts[above] === value ? 2 * above + 1 : 2 * above;
}

/** The ends of a region; both are in it only when they are the same. */
export function endsOf(cuts: Cuts, region: number): { low: number; high: number } {
  const i = region >> 1;
  if (region % 2 === 1) return { low: cuts[i] ?? 0, high: cuts[i] ?? 0 };
  return { low: cuts[i - 1] ?? -Infinity, high: cuts[i] ?? Infinity };
}

/** A region as the solver sees it. */
export function formulasOfRegion(cuts: Cuts, region: number, key: string): Formula[] {
  const { low, high } = endsOf(cuts, region);
  if (low === high) return [bound(key, '>=', low), bound(key, '<=', high)];
  return [
    ...(Number.isFinite(low) ? [bound(key, '>', low)] : []),
    ...(Number.isFinite(high) ? [bound(key, '<', high)] : []),
  ];
}

/** The regions that numbers from `low` to `high` lie in, ends included. */
export function regionsBetween(cuts: Cuts, { low, high }: { low: number; high: number }): number[] {
  const [first, last] = [regionOf(cuts, low), regionOf(cuts, high)];
  return Array.from({ length: last - first + 1 }, (_, i) => first + i);
}

/** Between what an expression is, whatever its facts are and however a run rounds. */
export function rangeOfExpression(machine: Machine, e: Expression): { low: number; high: number } {
  const opaque: Opaque[] = [];
  const { terms, offset, rounding } = linearOf(e, opaque);
  let low = offset;
  let high = offset;
  for (const [key, scale] of terms) {
    const domain = opaque.some((o) => o.key === key)
      ? { low: -Infinity, high: Infinity }
      : domainOf(machine, key);
    const ends = [scale * domain.low, scale * domain.high];
    low += Math.min(...ends);
    high += Math.max(...ends);
  }
  // One number scaled is rounded to the side of its ends; a sum may come to a little more or less.
  const isMonotone = rounding.steps === 0 || (terms.size <= 1 && offset === 0);
  const slack = isMonotone
    ? 0
    : slackOf(rounding, (key) => {
        const { low, high } = domainOf(machine, key);
        return Math.max(Math.abs(low), Math.abs(high));
      });
  return { low: low - slack, high: high + slack };
}
