import { ANGLE, type Dimension, LENGTH, PLAIN, SPEED, TIME, TRUTH } from './dimension.js';

/** What one fact means, for the checker, for help in the interface and for the reference. */
export interface FactEntry {
  dimension: Dimension;
  /** A use of it, for the reference; NAME stands for the thing's name. */
  example: string;
  help: string;
}

const PLAIN_FACTS = {
  grounded: {
    dimension: TRUTH,
    example: 'grounded within 0.08 s',
    help: 'the body stands on ground it can walk on',
  },
  airborne: {
    dimension: TRUTH,
    example: 'airborne and vy < 0',
    help: 'the body does not stand on walkable ground',
  },
  rising: { dimension: TRUTH, example: 'rising and not held(hop)', help: 'airborne and moving up' },
  falling: { dimension: TRUTH, example: 'falling and pushing', help: 'airborne and moving down' },
  steep: {
    dimension: TRUTH,
    example: 'steep for 3 ticks',
    help: 'the body touches a slope too steep to walk on',
  },
  ceiling: { dimension: TRUTH, example: 'ceiling or vy <= 0', help: 'the body touches something from below' },
  cramped: {
    dimension: TRUTH,
    example: 'not cramped',
    help: 'there is no room for the stance that is asked for',
  },
  downhill: {
    dimension: TRUTH,
    example: 'speed > 4 m/s and downhill',
    help: 'grounded on a slope and moving down it',
  },
  uphill: {
    dimension: TRUTH,
    example: 'uphill and speed < 2 m/s',
    help: 'grounded on a slope and moving up it',
  },
  crushed: {
    dimension: TRUTH,
    example: 'crushed',
    help: 'the body is caught between a mover and something else',
  },
  tethers: { dimension: PLAIN, example: 'tethers >= 2', help: 'how many tethers hold' },
  tetherLength: {
    dimension: LENGTH,
    example: 'tetherLength <= 1 m',
    help: 'how far the middle of the body is from the centre of the anchors; 0 m without a tether',
  },
  pushing: {
    dimension: TRUTH,
    example: 'pushing for 0.05 s',
    help: 'an axis that steers sideways points into the touched wall',
  },
  wall: {
    dimension: PLAIN,
    example: 'wall != 0',
    help: 'the side on which a wall is touched: -1 left, 1 right, 0 none',
  },
  facing: { dimension: PLAIN, example: 'facing = wall', help: 'where the body faces: -1 left, 1 right' },
  vx: { dimension: SPEED, example: 'vx > 5 m/s', help: 'velocity to the right' },
  vy: { dimension: SPEED, example: 'vy <= 0 m/s', help: 'velocity upward' },
  speed: {
    dimension: SPEED,
    example: 'speed > 3 m/s',
    help: 'speed along the ground; aloft, speed sideways',
  },
  x: { dimension: LENGTH, example: 'x > 12 m', help: 'where the feet are, to the right' },
  y: { dimension: LENGTH, example: 'y < -3 m', help: 'where the feet are, upward' },
  height: {
    dimension: LENGTH,
    example: 'height >= 2 m',
    help: 'how far the feet are above the ground last stood on',
  },
  slope: {
    dimension: ANGLE,
    example: 'slope > 20 deg',
    help: 'steepness of the ground underfoot; 0 deg aloft',
  },
  airtime: { dimension: TIME, example: 'airtime < 0.1 s', help: 'how long the body has been airborne' },
  elapsed: {
    dimension: TIME,
    example: 'elapsed >= 0.18 s',
    help: 'how long the state (or, in a group\u2019s own guard, the group) has lasted',
  },
} satisfies Record<string, FactEntry>;

export type PlainFact = keyof typeof PLAIN_FACTS;

/** Facts that stand alone. The senses among them are as they were after the last move. */
export const FACTS: Readonly<Record<PlainFact, FactEntry>> = PLAIN_FACTS;

/** The kinds of things that have names in a moveset. */
export type ThingKind =
  | 'button'
  | 'axis'
  | 'probe'
  | 'timer'
  | 'cooldown'
  | 'state'
  | 'stance'
  | 'ability'
  | 'event'
  | 'aim'
  | 'tether'
  | 'zone';

/** What a fact about a named thing means; `also` says what a second name stands for. */
export interface FactOfEntry extends FactEntry {
  of: ThingKind;
  also?: 'tag';
}

const NAMED_FACTS = {
  held: { of: 'button', dimension: TRUTH, example: 'held(NAME) for 0.2 s', help: 'the button is down' },
  pressed: {
    of: 'button',
    dimension: TRUTH,
    example: 'pressed(NAME) within 0.1 s',
    help: 'the button went down this tick',
  },
  released: {
    of: 'button',
    dimension: TRUTH,
    example: 'released(NAME)',
    help: 'the button went up this tick',
  },
  axis: { of: 'axis', dimension: PLAIN, example: 'axis(NAME) != 0', help: 'where the axis is, from -1 to 1' },
  aim: {
    of: 'aim',
    dimension: ANGLE,
    example: 'aim(NAME) > 45 deg',
    help: 'the direction of the aim, from -180 deg to 180 deg; 0 deg is right, 90 deg up',
  },
  aimx: {
    of: 'aim',
    dimension: PLAIN,
    example: 'aimx(NAME) * facing > 0',
    help: 'how far right the aim points, from -1 to 1',
  },
  aimy: {
    of: 'aim',
    dimension: PLAIN,
    example: 'aimy(NAME) > 0.5',
    help: 'how far up the aim points, from -1 to 1',
  },
  probe: {
    of: 'probe',
    dimension: TRUTH,
    example: 'not probe(NAME)',
    help: 'the probe hits something it sees',
  },
  distance: {
    of: 'probe',
    dimension: LENGTH,
    example: 'distance(NAME) < 0.2 m',
    help: 'how far the probe reaches before it hits; its reach when it hits nothing',
  },
  running: {
    of: 'timer',
    dimension: TRUTH,
    example: 'running(NAME)',
    help: 'the timer was started and has time left',
  },
  done: {
    of: 'timer',
    dimension: TRUTH,
    example: 'done(NAME) or released(hop)',
    help: 'the timer was started and has run out',
  },
  left: {
    of: 'timer',
    dimension: TIME,
    example: 'left(NAME) < 0.1 s',
    help: 'the time the timer has left; 0 s when it is not running',
  },
  ready: {
    of: 'cooldown',
    dimension: TRUTH,
    example: 'ready(NAME)',
    help: 'the cooldown has at least one charge',
  },
  charges: {
    of: 'cooldown',
    dimension: PLAIN,
    example: 'charges(NAME) = 2',
    help: 'the charges the cooldown has',
  },
  hits: {
    of: 'probe',
    also: 'tag',
    dimension: TRUTH,
    example: 'hits(NAME, stone)',
    help: 'the probe hits something that has the tag',
  },
  angle: {
    of: 'probe',
    dimension: ANGLE,
    example: 'angle(NAME) > 60 deg',
    help: 'the steepness of what the probe hits; 0 deg when it hits nothing',
  },
  inside: {
    of: 'zone',
    dimension: TRUTH,
    example: 'inside(NAME)',
    help: 'the body is in a zone with this tag',
  },
  catches: {
    of: 'tether',
    dimension: TRUTH,
    example: 'pressed(hop) and catches(NAME)',
    help: 'the tether would find something to hold on to',
  },
  in: {
    of: 'state',
    dimension: TRUTH,
    example: 'in(NAME) for 3 ticks',
    help: 'the state or group is active, in whichever lane it is',
  },
  fits: {
    of: 'stance',
    dimension: TRUTH,
    example: 'not fits(NAME)',
    help: 'there is room for the stance where the body is',
  },
  unlocked: { of: 'ability', dimension: TRUTH, example: 'unlocked(NAME)', help: 'the ability is unlocked' },
  event: { of: 'event', dimension: TRUTH, example: 'event(NAME)', help: 'the event was raised last tick' },
} satisfies Record<string, FactOfEntry>;

export type NamedFact = keyof typeof NAMED_FACTS;

/** Facts about a named thing, written like a call. */
export const FACTS_OF: Readonly<Record<NamedFact, FactOfEntry>> = NAMED_FACTS;

export const isPlainFact = (name: string): name is PlainFact => Object.hasOwn(FACTS, name);
export const isNamedFact = (name: string): name is NamedFact => Object.hasOwn(FACTS_OF, name);

/** Functions of numbers. `same` means that all arguments share one dimension, which is the result's too. */
export const FUNCTIONS: Record<string, { args: number | 'many'; help: string }> = {
  min: { args: 'many', help: 'the least of its arguments' },
  max: { args: 'many', help: 'the greatest of its arguments' },
  abs: { args: 1, help: 'without its sign' },
  sign: { args: 1, help: '-1, 0 or 1' },
  clamp: { args: 3, help: 'clamp(value, low, high): the value kept between two bounds' },
  lerp: { args: 3, help: 'lerp(a, b, share): from a to b by a plain share' },
  sqrt: { args: 1, help: 'the square root; a negative number gives 0' },
  approach: {
    args: 3,
    help: 'approach(value, target, step): the value moved to the target by at most a step',
  },
};
