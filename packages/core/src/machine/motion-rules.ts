import type { MotionFile, Path } from '../model/index.js';
import {
  ACCELERATION,
  ANGLE,
  type Expression,
  LENGTH,
  PLAIN,
  RATE,
  SPEED,
  TRUTH,
} from '../notation/index.js';
import { type Context, constantAt, expressionAt, fault } from './context.js';
import type { Motion } from './definition.js';

/** The motion of a state that says nothing, outside any group. */
export const NO_MOTION: Motion = {
  drive: undefined,
  gravity: undefined,
  hold: undefined,
  push: undefined,
  drag: undefined,
  ground: undefined,
};

/** What counts as ground when no state says: walkable up to 50°, snapping down by up to 15 cm. */
export const DEFAULT_GROUND = { walkable: Math.cos((50 * Math.PI) / 180), snap: 0.15 };

/** A state's own motion laid over its group's: a field that the state writes replaces the group's field whole. */
export function compileMotion(
  context: Context,
  file: MotionFile | undefined,
  inherited: Motion,
  path: Path,
  elapsed: string,
): Motion {
  if (file === undefined) return inherited;
  const at = (...steps: string[]): Path => [...path, ...steps];
  const acceleration = (
    text: Parameters<typeof expressionAt>[1],
    ...steps: string[]
  ): Expression | undefined => expressionAt(context, text, at(...steps), ACCELERATION, elapsed);
  const speed = (text: Parameters<typeof expressionAt>[1], ...steps: string[]): Expression | undefined =>
    expressionAt(context, text, at(...steps), SPEED, elapsed);
  const scale = (text: Parameters<typeof expressionAt>[1], ...steps: string[]): Expression | undefined =>
    expressionAt(context, text, at(...steps), PLAIN, elapsed);
  const own: Motion = { ...NO_MOTION };
  const { drive, gravity, hold, push, drag, ground } = file;
  if (drive !== undefined) {
    if (drive.gain === undefined && drive.instant !== true) {
      fault(
        context,
        at('drive'),
        "'gain' is missing here, expected an acceleration such as 60 m/s2, or 'instant: true'",
      );
    }
    const to = speed(drive.to, 'drive', 'to');
    const above = speed(drive.carry?.above, 'drive', 'carry', 'above');
    const fade = acceleration(drive.carry?.fade, 'drive', 'carry', 'fade');
    const rates = {
      gain: acceleration(drive.gain, 'drive', 'gain'),
      brake: acceleration(drive.brake, 'drive', 'brake'),
      turn: acceleration(drive.turn, 'drive', 'turn'),
    };
    if (to !== undefined) {
      own.drive = {
        to,
        ...rates,
        instant: drive.instant === true,
        carry: above !== undefined && fade !== undefined ? { above, fade } : undefined,
      };
    }
  }
  if (typeof gravity === 'object') {
    const cutScale = scale(gravity.cut?.scale, 'gravity', 'cut', 'scale');
    const cutWhen = expressionAt(context, gravity.cut?.when, at('gravity', 'cut', 'when'), TRUTH, elapsed);
    own.gravity = {
      rising: scale(gravity.rising, 'gravity', 'rising'),
      falling: scale(gravity.falling, 'gravity', 'falling'),
      cut: cutScale !== undefined && cutWhen !== undefined ? { scale: cutScale, when: cutWhen } : undefined,
      terminal: speed(gravity.terminal, 'gravity', 'terminal'),
    };
  } else if (gravity !== undefined) {
    const both = scale(gravity, 'gravity');
    own.gravity = { rising: both, falling: both, cut: undefined, terminal: undefined };
  }
  if (hold !== undefined) own.hold = { vx: speed(hold.vx, 'hold', 'vx'), vy: speed(hold.vy, 'hold', 'vy') };
  if (push !== undefined) {
    own.push = {
      x: acceleration(push.x, 'push', 'x'),
      y: acceleration(push.y, 'push', 'y'),
      downhill: acceleration(push.downhill, 'push', 'downhill'),
    };
  }
  own.drag = expressionAt(context, drag, at('drag'), RATE, elapsed);
  if (ground !== undefined) {
    const degrees =
      ground.walkable === undefined
        ? undefined
        : constantAt(context, ground.walkable, at('ground', 'walkable'), ANGLE, 0);
    if (degrees !== undefined && degrees > 80)
      fault(
        context,
        at('ground', 'walkable'),
        `found ${degrees} deg, expected at most 80 deg (steeper is a wall)`,
      );
    own.ground = {
      walkable: degrees === undefined ? DEFAULT_GROUND.walkable : Math.cos((degrees * Math.PI) / 180),
      snap:
        ground.snap === undefined
          ? DEFAULT_GROUND.snap
          : constantAt(context, ground.snap, at('ground', 'snap'), LENGTH, 0),
    };
  }
  const merged: Motion = { ...inherited };
  for (const field of Object.keys(NO_MOTION) as (keyof Motion)[]) {
    if (own[field] !== undefined) Object.assign(merged, { [field]: own[field] });
  }
  return merged;
}
