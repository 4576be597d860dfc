import { evaluate, type Expression, holds } from '../notation/index.js';
import type { World } from '../world/index.js';
import type { Write } from './act.js';
import type { Channel, GravityRule, Machine, Motion, TetherRule } from './definition.js';
import { driven, drivenAbove } from './drive.js';
import type { Situation } from './situation.js';
import { centreOf, middleOf } from './tether.js';

/** A velocity away from the ground by more than this leaves it (m/s). */
export const LEAVING = 1e-6;

/** A tick's velocity while the rules work on it. */
interface Work {
  vx: number;
  vy: number;
  /** Components that are held: nothing else moves them. */
  held: { vx: boolean; vy: boolean };
  write(channel: Channel, lane: number, author: string, replaces: boolean, value: number): void;
}

/**
 * Step 6 of a tick: zones, then the active states' rules in lane order turn the velocity into this tick's.
 * Semi-implicit Euler: the velocity is changed first, and the body then moves with it. On the ground, `drive` works
 * along the surface and gravity is carried by it. Every change is recorded with its author.
 */
export function applyMotion(
  machine: Machine,
  world: World,
  s: Situation,
  live: Float64Array,
  writes: Write[],
): void {
  const { dt } = machine;
  const work: Work = {
    vx: s.body.vx,
    vy: s.body.vy,
    held: { vx: false, vy: false },
    write: (channel, lane, author, replaces, value) =>
      void writes.push({ channel, lane, author, replaces, value }),
  };
  const ground = s.footing.ground;
  blow(world, s, work, dt);
  const stands = ground !== undefined && work.vx * ground.nx + work.vy * ground.ny <= LEAVING;
  let pull: { rule: GravityRule; lane: number; author: string } | undefined;
  s.leaves.forEach((leaf, lane) => {
    const { motion, name } = machine.states[leaf]!;
    const gives = yieldedBy(machine, s, lane, writes);
    hold(work, motion, gives, lane, name, live);
    if (motion.drive !== undefined && !gives.vx && !work.held.vx)
      drive(machine, s, work, motion, stands, lane, name, live);
    push(s, work, motion, gives, stands, lane, name, live, dt);
    if (motion.gravity !== undefined && !gives.gravity)
      pull = { rule: motion.gravity, lane, author: `${name} gravity` };
  });
  if (!stands && !work.held.vy && machine.gravity !== 0) fall(machine, work, pull, live);
  if (!stands) slip(s, work, machine, live, dt);
  s.leaves.forEach((leaf, lane) => {
    const { motion, name } = machine.states[leaf]!;
    if (motion.tether !== undefined) hang(machine, s, work, motion.tether, lane, `${name} tether`, live);
    if (motion.drag !== undefined) drag(work, evaluate(motion.drag, live), stands, lane, `${name} drag`, dt);
  });
  s.body = { ...s.body, vx: work.vx, vy: work.vy };
}

/** The zones that the body is in: wind and drag all the time; a launch was given when it was entered. */
function blow(world: World, s: Situation, work: Work, dt: number): void {
  for (const index of s.zones) {
    const zone = world.course.zones[index]!;
    if (zone.wind !== undefined) {
      if (zone.wind.x !== 0) work.write('vx', -1, `${zone.name} wind`, false, (work.vx += zone.wind.x * dt));
      if (zone.wind.y !== 0) work.write('vy', -1, `${zone.name} wind`, false, (work.vy += zone.wind.y * dt));
    }
    if (zone.drag > 0) drag(work, zone.drag, false, -1, `${zone.name} drag`, dt);
  }
}

function hold(
  work: Work,
  motion: Motion,
  gives: Given,
  lane: number,
  name: string,
  live: Float64Array,
): void {
  for (const channel of ['vx', 'vy'] as const) {
    const value = motion.hold?.[channel];
    if (value === undefined || gives[channel]) continue;
    work[channel] = evaluate(value, live);
    work.held[channel] = true;
    work.write(channel, lane, `${name} hold`, true, work[channel]);
  }
}

function drive(
  machine: Machine,
  s: Situation,
  work: Work,
  motion: Motion,
  stands: boolean,
  lane: number,
  name: string,
  live: Float64Array,
): void {
  const rule = motion.drive!;
  const { ground } = s.footing;
  if (machine.plane === 'above') {
    const v = drivenAbove(rule, motion.directions ?? 'free', { x: work.vx, y: work.vy }, live, machine.dt);
    work.vx = v.x;
    work.write('vx', lane, `${name} drive`, rule.instant, v.x);
    if (work.held.vy) return;
    work.vy = v.y;
    work.write('vy', lane, `${name} drive`, rule.instant, v.y);
    return;
  }
  if (stands && ground !== undefined) {
    // Moving right, the surface rises where its normal leans left.
    const speed = driven(
      rule,
      work.vx * ground.ny - work.vy * ground.nx,
      { rise: -ground.nx },
      live,
      machine.dt,
    );
    work.vx = speed * ground.ny;
    if (!work.held.vy) work.vy = speed * -ground.nx;
  } else work.vx = driven(rule, work.vx, { rise: 0 }, live, machine.dt);
  work.write('vx', lane, `${name} drive`, rule.instant, work.vx);
}

function push(
  s: Situation,
  work: Work,
  motion: Motion,
  gives: Given,
  stands: boolean,
  lane: number,
  name: string,
  live: Float64Array,
  dt: number,
): void {
  const rule = motion.push;
  if (rule === undefined) return;
  const value = (e: Expression | undefined): number => (e === undefined ? 0 : evaluate(e, live));
  const ground = stands ? s.footing.ground : undefined;
  // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
  const downhill = ground === undefined ? 0 : value(rule.downhill) * ground.nx;
  const ax = value(rule.x) + (ground === undefined ? 0 : downhill * ground.ny);
  const ay = value(rule.y) - (ground === undefined ? 0 : downhill * ground.nx);
  if (!work.held.vx && !gives.vx && ax !== 0)
    work.write('vx', lane, `${name} push`, false, (work.vx += ax * dt));
  if (!work.held.vy && !gives.vy && ay !== 0)
    work.write('vy', lane, `${name} push`, false, (work.vy += ay * dt));
}

/** Gravity, once a tick, by the rule of the last lane that has one. */
function fall(
  machine: Machine,
  work: Work,
  pull: { rule: GravityRule; lane: number; author: string } | undefined,
  live: Float64Array,
): void {
  const rule = pull?.rule;
  const scaleOf = (e: Expression | undefined): number => (e === undefined ? 1 : evaluate(e, live));
  let scale = work.vy > 0 ? scaleOf(rule?.rising) : scaleOf(rule?.falling);
  if (work.vy > 0 && rule?.cut !== undefined && holds(rule.cut.when, live))
    scale = evaluate(rule.cut.scale, live);
  work.vy -= machine.gravity * scale * machine.dt;
  if (rule?.terminal !== undefined) work.vy = Math.max(work.vy, -evaluate(rule.terminal, live));
  work.write('vy', pull?.lane ?? -1, pull?.author ?? 'gravity', false, work.vy);
}

/** On what is too steep to walk, `slip` adds a pull down the surface to whatever the body does. */
function slip(s: Situation, work: Work, machine: Machine, live: Float64Array, dt: number): void {
  const { steep } = s.footing;
  if (steep === undefined) return;
  s.leaves.forEach((leaf, lane) => {
    const { motion, name } = machine.states[leaf]!;
    if (motion.ground?.slip === undefined) return;
    const a = evaluate(motion.ground.slip, live) * dt * Math.sign(steep.nx);
    if (!work.held.vx) work.write('vx', lane, `${name} slip`, false, (work.vx += a * steep.ny));
    if (!work.held.vy) work.write('vy', lane, `${name} slip`, false, (work.vy -= a * steep.nx));
  });
}

/** Beyond a limit by no more than this, a body is at it (metres). */
export const SLACK = 1e-6;

/** On a line: reeled to the centre of the anchors, or climbing with a limit sideways. Gravity does not pull there. */
function hang(
  machine: Machine,
  s: Situation,
  work: Work,
  rule: TetherRule,
  lane: number,
  author: string,
  live: Float64Array,
): void {
  const centre = centreOf(s);
  if (centre === undefined) return;
  const middle = middleOf(machine, s);
  const set = (channel: 'vx' | 'vy', value: number): void => {
    work[channel] = value;
    work.write(channel, lane, author, true, value);
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
  if (rule.sideways === undefined) return;
  const limitAt = (y: number): number =>
    'length' in rule.sideways!
      ? evaluate(rule.sideways.length, live)
      : Math.max(0, centre.y - y) * rule.sideways!.tangent;
  const limit = limitAt(middle.y + work.vy * machine.dt);
  const out = middle.x - centre.x;
  const far = Math.abs(out);
  if (far > limit && far > limitAt(middle.y) + SLACK) {
    // Caught beyond the limit: it swings in, as fast as it would fall, and is not put there at once.
    const inwards = out < 0 ? 1 : -1;
    const speed = Math.max(0, inwards * work.vx, inwards * s.body.vx + machine.gravity * machine.dt);
    set('vx', inwards * Math.min(speed, (far - limit) / machine.dt));
    return;
  }
  const next = Math.max(centre.x - limit, Math.min(centre.x + limit, middle.x + work.vx * machine.dt));
  set('vx', (next - middle.x) / machine.dt);
}

function drag(work: Work, rate: number, stands: boolean, lane: number, author: string, dt: number): void {
  // Implicit Euler of v' = −drag·v: stable at any rate, and without an exponential.
  const factor = 1 / (1 + rate * dt);
  if (!work.held.vx) work.write('vx', lane, author, false, (work.vx *= factor));
  if (stands) work.vy *= factor;
  else if (!work.held.vy) work.write('vy', lane, author, false, (work.vy *= factor));
}

type Given = Record<'vx' | 'vy' | 'gravity', boolean>;

/** The channels that a lane leaves to another in this tick: those it yields, and another lane writes. */
function yieldedBy(machine: Machine, s: Situation, lane: number, writes: readonly Write[]): Given {
  const { yields } = machine.lanes[lane]!;
  const others = s.leaves.filter((_, i) => i !== lane).map((leaf) => machine.states[leaf]!.motion);
  const given = (channel: 'vx' | 'vy' | 'gravity', moves: (motion: Motion) => boolean): boolean =>
    yields.includes(channel) &&
    (others.some(moves) || writes.some((w) => w.channel === channel && w.lane !== lane && w.lane >= 0));
  return {
    vx: given('vx', (m) => m.drive !== undefined || m.hold?.vx !== undefined || m.push?.x !== undefined),
    vy: given('vy', (m) => m.hold?.vy !== undefined || m.push?.y !== undefined),
    gravity: given('gravity', (m) => m.gravity !== undefined),
  };
}
