import type { Moving } from '../../world/index.js';
import { putWithinDirections } from '../drive.js';
import * as at from './layout.js';
import { isWrittenByAnother, type Log, note } from './log.js';
import { middleOfStance, putCentre, type Senses } from './senses.js';

/** What the generated motion calls: zones, the drive in two axes, tethers, the log. `body` has the velocity. */
export function motionHelpers({ machine, world, layout }: Senses, log: Log, body: Moving) {
  const { dt } = machine;
  const { zones } = world.course;
  const centre = { x: 0, y: 0 };
  const driven = { x: 0, y: 0 };
  return {
    body,
    log,
    note,
    isWrittenByAnother,
    centre,
    driven,
    /** The zones that the body is in: wind and drag all the time. */
    blow: (s: Float64Array): void => {
      for (let i = 0; i < zones.length; i++) {
        if ((s[layout.zones + i]! & at.INSIDE) === 0) continue;
        const { wind, drag } = zones[i]!;
        if (wind !== undefined && wind.x !== 0)
          note(log, 'vx', -1, 'zone wind', i, -1, false, (body.vx += wind.x * dt));
        if (wind !== undefined && wind.y !== 0)
          note(log, 'vy', -1, 'zone wind', i, -1, false, (body.vy += wind.y * dt));
        if (drag <= 0) continue;
        const factor = 1 / (1 + drag * dt);
        note(log, 'vx', -1, 'zone drag', i, -1, false, (body.vx *= factor));
        note(log, 'vy', -1, 'zone drag', i, -1, false, (body.vy *= factor));
      }
    },
    /** As `drivenAbove` of the reference; the result is in `driven`. */
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
    ): void => {
      driven.x = toX;
      driven.y = toY;
      putWithinDirections(driven, directions);
      if (instant) return;
      const { x, y } = driven;
      const dot = vx * x + vy * y;
      const slower = vx * vx + vy * vy > x * x + y * y;
      const most = (dot < 0 ? turn : slower ? brake : gain) * dt;
      const dx = x - vx;
      const dy = y - vy;
      const far = Math.sqrt(dx * dx + dy * dy);
      if (far <= most) return;
      driven.x = vx + (dx / far) * most;
      driven.y = vy + (dy / far) * most;
    },
    /** Whether some tether holds; then `centre` is where it pulls to. */
    hangs: (s: Float64Array): boolean => putCentre(layout, s, centre),
    middle: (s: Float64Array): number => s[at.Y]! + middleOfStance(machine, s[at.STANCE]!),
  };
}
