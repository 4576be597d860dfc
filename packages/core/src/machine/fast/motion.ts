import type { Moving } from '../../world/index.js';
import { length, putWithinDirections } from '../reference/drive.js';
import { decay } from '../trigonometry.js';
import * as at from './layout.js';
import { isWrittenByAnother, type Log, note } from './log.js';
import { middleOfStance, putCentre, type Senses } from './senses.js';

/** What the generated motion calls: zones, the drive in two axes, tethers, the log. `body` has the velocity. */
export function motionHelpers({ machine, world, layout }: Senses, log: Log, body: Moving) {
  const { dt } = machine;
  const { zones } = world.course;
  // What each zone's drag leaves of a speed in one tick.
  const factors = zones.map((zone) => (zone.drag > 0 ? decay(zone.drag * dt) : 1));
  const centre = { x: 0, y: 0 };
  const driven = { x: 0, y: 0 };
  return {
    body,
    log,
    note,
    isWrittenByAnother,
    centre,
    driven,
    decay,
    /** What the winds of the zones that the body is in add up to upward (m/s²). */
    windUp: (s: Float64Array): number => {
      let up = 0;
      for (let i = 0; i < zones.length; i++)
        if ((s[layout.zones + i]! & at.INSIDE) !== 0) up += zones[i]!.wind?.y ?? 0;
      return up;
    },
    /** The zones that the body is in: wind and drag all the time; along the ground with normal (nx, ny) when it stands. */
    blow: (s: Float64Array, stands: boolean, nx: number, ny: number): void => {
      for (let i = 0; i < zones.length; i++) {
        if ((s[layout.zones + i]! & at.INSIDE) === 0) continue;
        const { wind } = zones[i]!;
        if (wind !== undefined && wind.x !== 0) {
          if (stands) {
            const along = body.vx * ny - body.vy * nx + wind.x * dt;
            body.vx = along * ny;
            body.vy = 0 - along * nx;
          } else body.vx += wind.x * dt;
          note(log, 'vx', -1, 'wind', i, -1, false, body.vx);
        }
        if (wind !== undefined && wind.y !== 0 && !stands)
          note(log, 'vy', -1, 'wind', i, -1, false, (body.vy += wind.y * dt));
        if (factors[i] === 1) continue;
        note(log, 'vx', -1, 'drag', i, -1, false, (body.vx *= factors[i]!));
        body.vy *= factors[i]!;
        if (!stands) note(log, 'vy', -1, 'drag', i, -1, false, body.vy);
      }
    },
    /** As `drivenAbove` of the reference; the result is in `driven`. Without a `carry`, `above` is infinite. */
    driveAbove: (
      vx: number,
      vy: number,
      toX: number,
      toY: number,
      directions: 'free' | '8' | '4',
      instant: boolean,
      gain: number,
      brake: number,
      turn: number,
      above: number,
      fade: number,
    ): void => {
      driven.x = toX;
      driven.y = toY;
      putWithinDirections(driven, directions);
      if (instant) return;
      const { x, y } = driven;
      const dot = vx * x + vy * y;
      const excess = length(vx, vy) - length(x, y);
      const max = (dot >= 0 && excess > above ? fade : dot < 0 ? turn : excess > 0 ? brake : gain) * dt;
      const dx = x - vx;
      const dy = y - vy;
      const far = length(dx, dy);
      if (far <= max) return;
      driven.x = vx + (dx / far) * max;
      driven.y = vy + (dy / far) * max;
    },
    /** Whether some tether holds; then `centre` is where it pulls to. */
    hangs: (s: Float64Array): boolean => putCentre(layout, s, centre),
    middle: (s: Float64Array): number => s[at.Y]! + middleOfStance(machine, s[at.STANCE]!),
  };
}
