import { type Outcome, outcomeUnit } from './outcomes.js';

/** What an outcome of a tape, by its place, is to be. */
export interface Goal {
  tape: number;
  outcome: Outcome;
  is: 'about' | 'atMost' | 'atLeast';
  value: number;
}

/** A value is about another when it differs by no more than this share of it. */
const ABOUT = 0.005;

/** What did not happen misses its goal by as much as this share. */
const NOT_AT_ALL = 2;

/** How far a goal may be missed and still count as met: times cannot be told finer than by ticks. */
const slackOf = ({ outcome, value }: Goal, dt: number): number =>
  outcomeUnit(outcome) === 's' ? 0.501 * dt : ABOUT * Math.max(Math.abs(value), 0.1);

/** By how much a value misses a goal, in the outcome's unit; 0 when it is met. NaN, for what did not happen, stays NaN. */
function missOf({ is, value: wanted }: Goal, value: number): number {
  if (is === 'atMost') return Math.max(0, value - wanted);
  if (is === 'atLeast') return Math.max(0, wanted - value);
  return Math.abs(value - wanted);
}

export const isMet = (goal: Goal, value: number, dt: number): boolean =>
  missOf(goal, value) <= (goal.is === 'about' ? slackOf(goal, dt) : 1e-9);

/** What a goal costs: the square of its miss as a share of what is wanted, 0 when it is met. */
export function costOf(goal: Goal, value: number, dt: number): number {
  if (isMet(goal, value, dt)) return 0;
  const miss = missOf(goal, value) / Math.max(Math.abs(goal.value), 0.1);
  return Number.isNaN(miss) ? NOT_AT_ALL ** 2 : Math.min(miss, 10) ** 2;
}
