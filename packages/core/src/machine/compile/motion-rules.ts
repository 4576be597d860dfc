import type { MotionFile, NotationText, Path } from '../../model/index.js';
import {
  ACCELERATION,
  ANGLE,
  checkText,
  type Expression,
  type FactRef,
  LENGTH,
  PLAIN,
  RATE,
  sameDimension,
  SPEED,
  TRUTH,
} from '../../notation/index.js';
import { ANY_EDGE } from '../../world/index.js';
import { type Context, constantAt, expressionAt, fault } from './context.js';
import type { Motion } from '../definition/machine.js';
import { cosine, unitVector } from '../trigonometry.js';

/** The cosine that no edge meets. */
const NO_EDGE = 1;

/** The motion of a state that says nothing, outside any group. */
export const NO_MOTION: Motion = {
  drive: undefined,
  gravity: undefined,
  hold: undefined,
  push: undefined,
  drag: undefined,
  ground: undefined,
  tether: undefined,
  directions: undefined,
};

/** What counts as ground when no state says: walkable up to 50°, following it down over any edge and ledges of 15 cm. */
export const DEFAULT_GROUND: NonNullable<Motion['ground']> = {
  walkable: cosine(50),
  snap: 0.15,
  turn: ANY_EDGE,
  step: 0,
  slip: undefined,
  inherit: false,
};

/** A state's own motion laid over its group's: a field that the state writes replaces the group's field whole. */
export function compileMotion(
  context: Context,
  file: MotionFile | undefined,
  inherited: Motion,
  path: Path,
  elapsed: FactRef,
): Motion {
  if (file === undefined) return inherited;
  const at = (...steps: string[]): Path => [...path, ...steps];
  const acceleration = (
    text: Parameters<typeof expressionAt>[1],
    ...steps: string[]
  ): Expression | undefined => expressionAt(context, text, at(...steps), ACCELERATION, { elapsed });
  const speed = (text: Parameters<typeof expressionAt>[1], ...steps: string[]): Expression | undefined =>
    expressionAt(context, text, at(...steps), SPEED, { elapsed });
  const scale = (text: Parameters<typeof expressionAt>[1], ...steps: string[]): Expression | undefined =>
    expressionAt(context, text, at(...steps), PLAIN, { elapsed });
  const own: Motion = { ...NO_MOTION };
  const { drive, gravity, hold, push, drag, ground, tether } = file;
  checkPlane(context, file, path);
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
    const slope = scale(drive.carry?.slope, 'drive', 'carry', 'slope');
    const toY = speed(drive.toY, 'drive', 'toY');
    const rates = {
      gain: acceleration(drive.gain, 'drive', 'gain'),
      brake: acceleration(drive.brake, 'drive', 'brake'),
      turn: acceleration(drive.turn, 'drive', 'turn'),
    };
    if (to !== undefined) {
      own.drive = {
        to,
        toY,
        ...rates,
        instant: drive.instant === true,
        carry: above !== undefined && fade !== undefined ? { above, fade, slope } : undefined,
      };
    }
  }
  if (typeof gravity === 'object') {
    const cutScale = scale(gravity.cut?.scale, 'gravity', 'cut', 'scale');
    const cutWhen = expressionAt(context, gravity.cut?.when, at('gravity', 'cut', 'when'), TRUTH, {
      elapsed,
    });
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
  own.drag = expressionAt(context, drag, at('drag'), RATE, { elapsed });
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
      walkable: degrees === undefined ? DEFAULT_GROUND.walkable : cosine(degrees),
      ...snapOf(context, ground.snap, at('ground', 'snap')),
      step: ground.step === undefined ? 0 : constantAt(context, ground.step, at('ground', 'step'), LENGTH, 0),
      slip: acceleration(ground.slip, 'ground', 'slip'),
      inherit: ground.inherit ?? false,
    };
  }
  if (tether !== undefined) {
    own.tether = {
      reel: speed(tether.reel, 'tether', 'reel'),
      climb: speed(tether.climb, 'tether', 'climb'),
      sideways: undefined,
    };
    if (tether.sideways !== undefined)
      own.tether.sideways = sidewaysOf(context, tether.sideways, at('tether', 'sideways'), elapsed);
  }
  own.directions = file.directions;
  noteIdle(context, file, own, path);
  const merged: Motion = { ...inherited };
  for (const field of Object.keys(NO_MOTION) as (keyof Motion)[]) {
    if (own[field] !== undefined) Object.assign(merged, { [field]: own[field] });
  }
  return merged;
}

/** Fields of a motion that have no effect beside the others. */
function noteIdle(context: Context, file: MotionFile, own: Motion, path: Path): void {
  const { drive, gravity, hold, tether, directions } = file;
  const note = (because: string, ...field: string[]): void =>
    void context.idle.push({ field: field.join('.'), because, path: [...path, ...field] });
  const above = context.file.plane === 'above';
  if (drive?.instant === true)
    for (const field of ['gain', 'brake', 'turn', 'carry'] as const)
      if (drive[field] !== undefined) note('an instant drive takes no time', 'drive', field);
  if (tether?.reel !== undefined)
    for (const field of ['climb', 'sideways'] as const)
      if (tether[field] !== undefined) note('a reel moves the body straight to the anchors', 'tether', field);
  if (drive !== undefined && hold?.vx !== undefined && (!above || hold.vy !== undefined))
    note('the state holds what it would move', 'drive');
  if (gravity !== undefined && !above && context.gravity === 0) note('the moveset has no gravity', 'gravity');
  if (directions !== undefined && own.drive === undefined && drive === undefined)
    note('the state does not drive', 'directions');
}

/** How far the feet follow the ground down: a ledge by its height, or an edge by its angle; nothing at 0. */
function snapOf(
  context: Context,
  text: NotationText | undefined,
  path: Path,
): { snap: number; turn: number } {
  const { snap, turn } = DEFAULT_GROUND;
  if (text === undefined) return { snap, turn };
  const { expression } = checkText(String(text), context.scope);
  if (expression !== undefined && sameDimension(expression.dimension, ANGLE)) {
    const degrees = constantAt(context, text, path, ANGLE, 0);
    return degrees === 0 ? { snap: 0, turn: NO_EDGE } : { snap, turn: cosine(degrees) };
  }
  const ledge = constantAt(context, text, path, LENGTH, 0);
  return { snap: ledge, turn: ledge === 0 ? NO_EDGE : ANY_EDGE };
}

/** A limit by length, or by an angle from the vertical, whose tangent is taken here once. */
function sidewaysOf(
  context: Context,
  text: NotationText,
  path: Path,
  elapsed: FactRef,
): { length: Expression } | { tangent: number } | undefined {
  const parsed = checkText(String(text), { ...context.scope, elapsed });
  if (parsed.expression !== undefined && sameDimension(parsed.expression.dimension, ANGLE)) {
    const { x, y } = unitVector(constantAt(context, text, path, ANGLE, 0));
    return { tangent: x === 0 ? Infinity : y / x };
  }
  const length = expressionAt(context, text, path, LENGTH, { elapsed });
  return length && { length };
}

/** Fields that one plane has and the other does not. */
function checkPlane(context: Context, file: MotionFile, path: Path): void {
  const above = context.file.plane === 'above';
  const wrong = above
    ? (['gravity', 'ground', 'tether'] as const).filter((field) => file[field] !== undefined)
    : [
        ...(file.directions === undefined ? [] : ['directions']),
        ...(file.drive?.toY === undefined ? [] : ['drive.toY']),
      ];
  if (above && file.drive?.carry?.slope !== undefined)
    fault(
      context,
      [...path, 'drive', 'carry', 'slope'],
      "found 'slope' in a moveset seen from above, which has no slopes",
      { key: true },
    );
  if (above && file.push?.downhill !== undefined)
    fault(
      context,
      [...path, 'push', 'downhill'],
      "found 'downhill' in a moveset seen from above, which has no slopes",
      { key: true },
    );
  for (const field of wrong) {
    const plane = above ? 'a moveset seen from above' : 'a moveset seen from the side';
    fault(context, [...path, ...field.split('.')], `found '${field}' in ${plane}, which does not have it`, {
      key: true,
    });
  }
}
