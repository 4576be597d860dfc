import type { Machine } from '../../machine/index.js';

/** What measures look at after each tick; its lists may be used again by the next but one. */
export interface Moment {
  x: number;
  y: number;
  vx: number;
  vy: number;
  grounded: boolean;
  /** The leaf of each lane, and how many charges each cooldown has. */
  leaves: ArrayLike<number>;
  charges: ArrayLike<number>;
  input: ArrayLike<number>;
}

/** Watches a run tick by tick, `before` being the moment before (undefined in the first tick). */
export type Watch = (now: Moment, before: Moment | undefined) => void;

/** The control that steers the body sideways; −1 when there is none. */
export const steeringAxis = (machine: Machine): number => machine.steering[0] ?? -1;
