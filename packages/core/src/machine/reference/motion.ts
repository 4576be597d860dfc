import { present } from '../../present.js';
import { bounded, LEAVING, TETHER_SLACK } from '../../tolerances.js';
import { evaluate, type Expression, holds } from '../../notation/index.js';
import { type Acting, takeBack } from './act.js';
import type { Author, AuthorKind } from '../definition/author.js';
import type { Channel, GravityRule, Machine, Motion, TetherRule } from '../definition/machine.js';
import { driven, drivenAbove } from './drive.js';
import type { Situation } from './situation.js';
import { centreOf, middleOf } from './tether.js';
import { decay } from '../trigonometry.js';

/** Metres a second. */
export interface Velocity {
  vx: number;
  vy: number;
}

/** A tick's velocity while the rules work on it. */
interface Work extends Acting {
  vx: number;
  vy: number;
  /** The velocity before the rules; what a rule sets counts from there. */
  from: Velocity;
  /** Components that are held: nothing else moves them. */
  held: { vx: boolean; vy: boolean };
  /** The ground that the body stands on and is not about to leave. */
  ground: { nx: number; ny: number } | undefined;
}

/** The rule of one lane's active state, with what the lane leaves to others in this tick. */
interface Rule {
  lane: number;
  leaf: number;
  motion: Motion;
  given: Given;
}

type Given = Record<'vx' | 'vy' | 'gravity', boolean>;

/**
 * Step 6 of a tick: zones, then the active states' rules in lane order turn the velocity into this tick's.
 * On walkable ground speeds and accelerations sideways work along the surface, and gravity is carried by it, with pushes
 * upward that are no stronger. Every change is recorded with its author. Gives the velocity that the body moves by: see
 * `Integration`.
 */
export function applyMotion(acting: Acting): Velocity {
  const { machine, s } = acting;
  for (const channel of ['vx', 'vy'] as const) {
    const yielded = acting.yielded[channel];
    if (yielded !== undefined && movedByAnother(machine, s, yielded.lane, channel)) takeBack(acting, channel);
  }
  const rules = s.leaves.map((leaf, lane): Rule => {
    const { motion } = present(machine.states[leaf]);
    return { lane, leaf, motion, given: givenBy(acting, lane) };
  });
  const work: Work = {
    ...acting,
    vx: s.body.vx,
    vy: s.body.vy,
    from: { vx: s.body.vx, vy: s.body.vy },
    held: { vx: false, vy: false },
    ground: undefined,
  };
  const pull = rules.findLast(({ motion, given }) => motion.gravity !== undefined && !given.gravity);
  const { ground } = s.footing;
  if (
    ground !== undefined &&
    work.vx * ground.nx + work.vy * ground.ny <= LEAVING &&
    !isLifted(work, rules, pull?.motion.gravity)
  )
    work.ground = ground;
  blow(work);
  for (const rule of rules) {
    hold(work, rule);
    drive(work, rule);
    push(work, rule);
  }
  if (work.ground === undefined && !work.held.vy && machine.gravity !== 0) fall(work, pull);
  if (work.ground === undefined) slip(work, rules);
  for (const { motion, lane, leaf } of rules) {
    if (motion.tether !== undefined) hang(work, motion.tether, { kind: 'tether', lane, state: leaf, to: -1 });
    if (motion.drag !== undefined) {
      const factor = decay(evaluate(motion.drag, work.live) * machine.dt);
      drag(work, factor, { kind: 'drag', lane, state: leaf, to: -1 });
    }
  }
  s.body = { ...s.body, vx: bounded(work.vx), vy: bounded(work.vy) };
  return travelOf(work);
}

/** The velocity that the body moves by. */
function travelOf({ machine: { integration }, s: { body }, from }: Work): Velocity {
  const { vx, vy } = body;
  switch (integration) {
    case 'semi-implicit':
      return { vx, vy };
    case 'explicit':
      return { vx: bounded(from.vx), vy: bounded(from.vy) };
    case 'trapezoid':
      return { vx: bounded((from.vx + vx) * 0.5), vy: bounded((from.vy + vy) * 0.5) };
  }
}

function record(work: Work, channel: 'vx' | 'vy', author: Author, replaces: boolean): void {
  work.writes.push({ channel, author, replaces, value: work[channel] });
  if (!replaces) return;
  work.from[channel] = work[channel];
  // A speed along the ground is both.
  if (channel === 'vx' && work.ground !== undefined && !work.held.vy) work.from.vy = work.vy;
}

const by = ({ lane, leaf }: Rule, kind: AuthorKind): Author => ({ kind, lane, state: leaf, to: -1 });

/** The speed along the ground; the surface's tangent to the right is (ny, −nx). */
const alongOf = ({ vx, vy }: Work, { nx, ny }: { nx: number; ny: number }): number => vx * ny - vy * nx;

/** Gives a body on the ground a speed along it; a held part stays as it is. */
function putAlong(work: Work, { nx, ny }: { nx: number; ny: number }, speed: number): void {
  work.vx = speed * ny;
  if (!work.held.vy) work.vy = 0 - speed * nx;
}

const value = (e: Expression | undefined, live: Float64Array): number =>
  e === undefined ? 0 : evaluate(e, live);

/** What pushes and winds add up to upward (m/s²); nothing where a state holds vy, for then they move nothing. */
function liftOf({ s, world, live }: Work, rules: readonly Rule[]): number {
  if (rules.some(({ motion, given }) => motion.hold?.vy !== undefined && !given.vy)) return 0;
  let lift = 0;
  for (const zone of s.zones) lift += present(world.course.zones[zone]).wind?.y ?? 0;
  for (const { motion, given } of rules) if (!given.vy) lift += value(motion.push?.y, live);
  return lift;
}

/** Whether pushes and winds lift the body more strongly than gravity holds it down. */
function isLifted(work: Work, rules: readonly Rule[], gravity: GravityRule | undefined): boolean {
  const lift = liftOf(work, rules);
  return lift > 0 && lift > work.machine.gravity * scaleOf(gravity, work.vy, work.live);
}

function scaleOf(rule: GravityRule | undefined, vy: number, live: Float64Array): number {
  if (rule === undefined) return 1;
  if (vy > 0 && rule.cut !== undefined && holds(rule.cut.when, live)) return evaluate(rule.cut.scale, live);
  const scale = vy > 0 ? rule.rising : rule.falling;
  return scale === undefined ? 1 : evaluate(scale, live);
}

/** The zones that the body is in: wind and drag all the time; a launch was given when it was entered. */
function blow(work: Work): void {
  const { s, world, machine, ground } = work;
  for (const index of s.zones) {
    const { name, wind, drag: rate } = present(world.course.zones[index]);
    const author = (kind: AuthorKind): Author => ({ kind, lane: -1, state: -1, to: -1, zone: name });
    if (wind !== undefined && wind.x !== 0) {
      if (ground === undefined) work.vx += wind.x * machine.dt;
      else putAlong(work, ground, alongOf(work, ground) + wind.x * machine.dt);
      record(work, 'vx', author('wind'), false);
    }
    if (wind !== undefined && wind.y !== 0 && ground === undefined) {
      work.vy += wind.y * machine.dt;
      record(work, 'vy', author('wind'), false);
    }
    if (rate > 0) drag(work, decay(rate * machine.dt), author('drag'));
  }
}

function hold(work: Work, rule: Rule): void {
  const { motion, given } = rule;
  const holdsVy = motion.hold?.vy !== undefined && !given.vy;
  if (motion.hold?.vx !== undefined && !given.vx) {
    const speed = evaluate(motion.hold.vx, work.live);
    // A state that holds both means the velocity itself; one that holds vx alone means a speed along the ground.
    if (work.ground === undefined || holdsVy || work.held.vy) work.vx = speed;
    else putAlong(work, work.ground, speed);
    work.held.vx = true;
    record(work, 'vx', by(rule, 'hold'), true);
  }
  if (motion.hold?.vy !== undefined && holdsVy) {
    work.vy = evaluate(motion.hold.vy, work.live);
    work.held.vy = true;
    record(work, 'vy', by(rule, 'hold'), true);
  }
}

function drive(work: Work, rule: Rule): void {
  const { machine, live, ground } = work;
  const { motion, given } = rule;
  const { drive } = motion;
  if (drive === undefined) return;
  const author = by(rule, 'drive');
  if (machine.plane === 'above') {
    const v = drivenAbove(drive, motion.directions ?? 'free', { x: work.vx, y: work.vy }, live, machine.dt);
    if (!work.held.vx && !given.vx) {
      work.vx = v.x;
      record(work, 'vx', author, drive.instant);
    }
    if (!work.held.vy && !given.vy) {
      work.vy = v.y;
      record(work, 'vy', author, drive.instant);
    }
    return;
  }
  if (work.held.vx || given.vx) return;
  if (ground === undefined) work.vx = driven(drive, work.vx, { rise: 0 }, live, machine.dt);
  // Moving right, the surface rises where its normal leans left.
  else putAlong(work, ground, driven(drive, alongOf(work, ground), { rise: -ground.nx }, live, machine.dt));
  record(work, 'vx', author, drive.instant);
}

function push(work: Work, rule: Rule): void {
  const { push: pushes } = rule.motion;
  if (pushes === undefined) return;
  const { machine, live, ground, held } = work;
  const x = value(pushes.x, live);
  if (ground !== undefined) {
    // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
    const along = x + value(pushes.downhill, live) * ground.nx;
    if (along === 0 || held.vx || rule.given.vx) return;
    putAlong(work, ground, alongOf(work, ground) + along * machine.dt);
    record(work, 'vx', by(rule, 'push'), false);
    return;
  }
  const y = value(pushes.y, live);
  if (x !== 0 && !held.vx && !rule.given.vx) {
    work.vx += x * machine.dt;
    record(work, 'vx', by(rule, 'push'), false);
  }
  if (y !== 0 && !held.vy && !rule.given.vy) {
    work.vy += y * machine.dt;
    record(work, 'vy', by(rule, 'push'), false);
  }
}

/** Gravity, once a tick, by the rule of the last lane that has one. */
function fall(work: Work, pull: Rule | undefined): void {
  const { machine, live } = work;
  const rule = pull?.motion.gravity;
  work.vy -= machine.gravity * scaleOf(rule, work.vy, live) * machine.dt;
  if (rule?.terminal !== undefined) work.vy = Math.max(work.vy, -evaluate(rule.terminal, live));
  const author: Author =
    pull === undefined ? { kind: 'gravity', lane: -1, state: -1, to: -1 } : by(pull, 'gravity');
  record(work, 'vy', author, false);
}

/** On what is too steep to walk, `slip` adds a pull down the surface to whatever the body does. */
function slip(work: Work, rules: readonly Rule[]): void {
  const { steep } = work.s.footing;
  if (steep === undefined) return;
  for (const rule of rules) {
    const pull = rule.motion.ground?.slip;
    if (pull === undefined) continue;
    const a = evaluate(pull, work.live) * work.machine.dt * Math.sign(steep.nx);
    if (!work.held.vx) {
      work.vx += a * steep.ny;
      record(work, 'vx', by(rule, 'slip'), false);
    }
    if (!work.held.vy) {
      work.vy -= a * steep.nx;
      record(work, 'vy', by(rule, 'slip'), false);
    }
  }
}

/** On a line: reeled to the centre of the anchors, or climbing with a limit sideways. Gravity does not pull there. */
function hang(work: Work, rule: TetherRule, author: Author): void {
  const { machine, s, live } = work;
  const centre = centreOf(s);
  if (centre === undefined) return;
  const middle = middleOf(machine, s);
  const set = (channel: 'vx' | 'vy', speed: number): void => {
    work[channel] = speed;
    record(work, channel, author, true);
  };
  if (rule.reel !== undefined) {
    const [dx, dy] = [centre.x - middle.x, centre.y - middle.y];
    const far = Math.sqrt(dx * dx + dy * dy);
    const speed = Math.min(evaluate(rule.reel, live), far / machine.dt);
    set('vx', far === 0 ? 0 : (dx / far) * speed);
    set('vy', far === 0 ? 0 : (dy / far) * speed);
    return;
  }
  set('vy', rule.climb === undefined ? 0 : evaluate(rule.climb, live));
  const { sideways } = rule;
  if (sideways === undefined) return;
  const limitAt = (y: number): number =>
    'length' in sideways ? evaluate(sideways.length, live) : Math.max(0, centre.y - y) * sideways.tangent;
  const limit = limitAt(middle.y + work.vy * machine.dt);
  const out = middle.x - centre.x;
  const far = Math.abs(out);
  if (far > limit && far > limitAt(middle.y) + TETHER_SLACK) {
    // Caught beyond the limit: it swings in, as fast as it would fall, and is not put there at once.
    const inwards = out < 0 ? 1 : -1;
    const speed = Math.max(0, inwards * work.vx, inwards * s.body.vx + machine.gravity * machine.dt);
    set('vx', inwards * Math.min(speed, (far - limit) / machine.dt));
    return;
  }
  const next = Math.max(centre.x - limit, Math.min(centre.x + limit, middle.x + work.vx * machine.dt));
  set('vx', (next - middle.x) / machine.dt);
}

/** Exponential damping by what is left of a speed after a tick: the same at every rate. */
function drag(work: Work, factor: number, author: Author): void {
  const { held, ground } = work;
  if (!held.vx) {
    work.vx *= factor;
    record(work, 'vx', author, false);
  }
  // On the ground vy is the upward part of the speed along it.
  if (held.vy || (ground !== undefined && held.vx)) return;
  work.vy *= factor;
  if (ground === undefined) record(work, 'vy', author, false);
}

/** Whether a motion writes a channel. */
export const moves = ({ drive, hold, push, gravity }: Motion, channel: Channel, above: boolean): boolean => {
  switch (channel) {
    case 'vx':
      return (
        drive !== undefined || hold?.vx !== undefined || push?.x !== undefined || push?.downhill !== undefined
      );
    case 'vy':
      return hold?.vy !== undefined || push?.y !== undefined || (above && drive !== undefined);
    case 'gravity':
      return gravity !== undefined;
    default:
      return false;
  }
};

/** Whether the active state of another lane moves a channel. Of lanes that all yield it, the first one keeps it. */
const movedByAnother = (machine: Machine, s: Situation, lane: number, channel: Channel): boolean =>
  s.leaves.some(
    (leaf, other) =>
      other !== lane &&
      (other < lane || !present(machine.lanes[other]).yields.includes(channel)) &&
      moves(present(machine.states[leaf]).motion, channel, machine.plane === 'above'),
  );

/** The channels that a lane leaves to another in this tick: those it yields, and another lane writes. */
function givenBy({ machine, s, writes }: Acting, lane: number): Given {
  const { yields } = present(machine.lanes[lane]);
  const gives = (channel: 'vx' | 'vy' | 'gravity'): boolean =>
    yields.includes(channel) &&
    (movedByAnother(machine, s, lane, channel) ||
      writes.some((w) => w.channel === channel && w.author.lane !== lane && w.author.lane >= 0));
  return { vx: gives('vx'), vy: gives('vy'), gravity: gives('gravity') };
}
