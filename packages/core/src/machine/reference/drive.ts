import { approach, evaluate } from '../../notation/index.js';
import type { Drive } from '../definition/machine.js';

/** What a drive must know of the ground underfoot: how steeply the way it moves leads up, as a sine; 0 aloft. */
export interface Slope {
  rise: number;
}

/** A speed after one tick of a drive: instant, carried above the target, or approached by gain, brake or turn. */
export function driven(drive: Drive, speed: number, slope: Slope, live: Float64Array, dt: number): number {
  const target = evaluate(drive.to, live);
  if (drive.instant) return target;
  const { gain, brake, turn } = ratesOf(drive, live);
  const against = speed * target < 0;
  const excess = Math.abs(speed) - Math.abs(target);
  const { carry } = drive;
  if (carry !== undefined && !against && excess > evaluate(carry.above, live)) {
    // Uphill a kept speed fades faster and downhill slower, by as much as the slope rises.
    const uphill = slope.rise * Math.sign(speed);
    const share = carry.slope === undefined ? 1 : Math.max(0, 1 + evaluate(carry.slope, live) * uphill);
    return approach(speed, target, evaluate(carry.fade, live) * share * dt);
  }
  if (against) return approach(speed, target, turn * dt);
  return approach(speed, target, (excess > 0 ? brake : gain) * dt);
}

/** A velocity after one tick of a drive in two axes: as `driven`, straight towards the target. */
export function drivenAbove(
  drive: Drive,
  directions: 'free' | '8' | '4',
  v: { x: number; y: number },
  live: Float64Array,
  dt: number,
): { x: number; y: number } {
  const target = { x: evaluate(drive.to, live), y: drive.toY === undefined ? 0 : evaluate(drive.toY, live) };
  putWithinDirections(target, directions);
  if (drive.instant) return target;
  const { gain, brake, turn } = ratesOf(drive, live);
  const dot = v.x * target.x + v.y * target.y;
  const excess = length(v.x, v.y) - length(target.x, target.y);
  const { carry } = drive;
  const carries = carry !== undefined && dot >= 0 && excess > evaluate(carry.above, live);
  const rate = carries ? evaluate(carry.fade, live) : dot < 0 ? turn : excess > 0 ? brake : gain;
  const step = rate * dt;
  const dx = target.x - v.x;
  const dy = target.y - v.y;
  const far = length(dx, dy);
  return far <= step ? target : { x: v.x + (dx / far) * step, y: v.y + (dy / far) * step };
}

/**
 * Turns a wanted velocity into one of the ways that are allowed: no faster on a diagonal than straight; `4` keeps the
 * greater axis. In place.
 */
export function putWithinDirections(v: { x: number; y: number }, directions: 'free' | '8' | '4'): void {
  const ax = Math.abs(v.x);
  const ay = Math.abs(v.y);
  const max = Math.max(ax, ay);
  const length = Math.sqrt(ax * ax + ay * ay);
  // Eight ways: straight when one axis is less than tan 22.5° of the other, else the diagonal.
  const straight = directions === '4' || Math.min(ax, ay) < 0.41421356237309503 * max;
  if (length === 0) return;
  if (directions === 'free') {
    v.x = (v.x * max) / length;
    v.y = (v.y * max) / length;
  } else if (straight) {
    if (ax >= ay) v.y = 0;
    else v.x = 0;
  } else {
    const diagonal = max * Math.SQRT1_2;
    v.x = Math.sign(v.x) * diagonal;
    v.y = Math.sign(v.y) * diagonal;
  }
}

export const length = (x: number, y: number): number => Math.sqrt(x * x + y * y);

function ratesOf(drive: Drive, live: Float64Array): { gain: number; brake: number; turn: number } {
  const gain = drive.gain === undefined ? 0 : evaluate(drive.gain, live);
  const brake = drive.brake === undefined ? gain : evaluate(drive.brake, live);
  return { gain, brake, turn: drive.turn === undefined ? brake : evaluate(drive.turn, live) };
}
