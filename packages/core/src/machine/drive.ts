import { approach, evaluate } from '../notation/index.js';
import type { Drive } from './definition.js';

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

/** A velocity after one tick of a drive in two axes: as `driven`, along the straight way to the target. */
export function drivenAbove(
  drive: Drive,
  directions: 'free' | '8' | '4',
  v: { x: number; y: number },
  live: Float64Array,
  dt: number,
): { x: number; y: number } {
  const wanted = { x: evaluate(drive.to, live), y: drive.toY === undefined ? 0 : evaluate(drive.toY, live) };
  const target = withinDirections(wanted, directions);
  if (drive.instant) return target;
  const { gain, brake, turn } = ratesOf(drive, live);
  const dot = v.x * target.x + v.y * target.y;
  const slower = v.x * v.x + v.y * v.y > target.x * target.x + target.y * target.y;
  const step = (dot < 0 ? turn : slower ? brake : gain) * dt;
  const dx = target.x - v.x;
  const dy = target.y - v.y;
  const far = Math.sqrt(dx * dx + dy * dy);
  return far <= step ? target : { x: v.x + (dx / far) * step, y: v.y + (dy / far) * step };
}

/** A wanted velocity in the ways that are allowed: no faster on a diagonal than straight; `4` keeps the greater axis. */
function withinDirections(
  v: { x: number; y: number },
  directions: 'free' | '8' | '4',
): { x: number; y: number } {
  const [ax, ay] = [Math.abs(v.x), Math.abs(v.y)];
  if (directions === '4') return ax >= ay ? { x: v.x, y: 0 } : { x: 0, y: v.y };
  const most = Math.max(ax, ay);
  const length = Math.sqrt(ax * ax + ay * ay);
  if (length === 0) return v;
  if (directions === 'free') return { x: (v.x * most) / length, y: (v.y * most) / length };
  // Eight ways: straight when one axis is less than tan 22.5° of the other, else the diagonal.
  if (Math.min(ax, ay) < 0.41421356237309503 * most) return ax >= ay ? { x: v.x, y: 0 } : { x: 0, y: v.y };
  const diagonal = most * Math.SQRT1_2;
  return { x: Math.sign(v.x) * diagonal, y: Math.sign(v.y) * diagonal };
}

function ratesOf(drive: Drive, live: Float64Array): { gain: number; brake: number; turn: number } {
  const gain = drive.gain === undefined ? 0 : evaluate(drive.gain, live);
  const brake = drive.brake === undefined ? gain : evaluate(drive.brake, live);
  return { gain, brake, turn: drive.turn === undefined ? brake : evaluate(drive.turn, live) };
}
