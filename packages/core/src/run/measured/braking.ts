import { STILL } from '../../tolerances.js';
import type { Watch } from './moment.js';

/** How far and how long the body went on: metres sideways, seconds. NaN for what did not happen. */
export interface Braking {
  distance: number;
  time: number;
}

/**
 * The longest way on the ground from letting go of the axis to standing still (`stop`), and from pushing it the other
 * way to going there (`turn`).
 */
export function watchBraking(axis: number, dt: number): { see: Watch; stop: Braking; turn: Braking } {
  const stop: Braking = { distance: NaN, time: NaN };
  const turn: Braking = { distance: NaN, time: NaN };
  let stopping: { from: number; ticks: number } | undefined;
  let turning: { from: number; ticks: number; way: number } | undefined;
  const done = (of: Braking, distance: number, ticks: number): void => {
    if (distance <= of.distance) return;
    of.distance = distance;
    of.time = ticks * dt;
  };
  return {
    stop,
    turn,
    see(now, before) {
      const [held, was] = [now.input[axis] ?? 0, before?.input[axis] ?? 0];
      if (!now.grounded || held !== 0) stopping = undefined;
      else if (before !== undefined && was !== 0 && Math.abs(before.vx) >= STILL)
        stopping = { from: before.x, ticks: 0 };
      if (stopping !== undefined) {
        stopping.ticks++;
        if (Math.abs(now.vx) < STILL) {
          done(stop, Math.abs(now.x - stopping.from), stopping.ticks);
          stopping = undefined;
        }
      }
      if (!now.grounded || (turning !== undefined && held * turning.way <= 0)) turning = undefined;
      else if (
        before !== undefined &&
        held !== 0 &&
        held * was <= 0 &&
        held * before.vx < 0 &&
        Math.abs(before.vx) >= STILL
      )
        turning = { from: before.x, ticks: 0, way: held };
      if (turning === undefined) return;
      turning.ticks++;
      if (now.vx * turning.way < 0) return;
      done(turn, Math.abs(now.x - turning.from), turning.ticks);
      turning = undefined;
    },
  };
}
