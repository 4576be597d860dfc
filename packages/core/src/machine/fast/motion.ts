import { approach } from '../../notation/index.js';
import type { Motion } from '../definition.js';
import { putWithinDirections } from '../drive.js';
import { LEAVING } from '../motion.js';
import type { Fast } from './fast.js';
import { MOTION } from './generate.js';
import * as at from './layout.js';
import { type By, isWrittenByAnother, note } from './log.js';
import { middleOfStance, putCentre } from './senses.js';

/**
 * Step 6, as `applyMotion` of the reference: zones, then the rules of the active states in lane order, turn the
 * velocity in `fast.body` into this tick's. In what follows `m` has the values of one lane's rule, by `MOTION`.
 */
export function applyMotion(fast: Fast, s: Float64Array): void {
  const { machine, body, held, live } = fast;
  const lanes = machine.lanes.length;
  body.vx = s[at.VX]!;
  body.vy = s[at.VY]!;
  held.vx = false;
  held.vy = false;
  if (s[at.IN_ZONES] !== 0) blow(fast, s);
  const stands = s[at.GROUND] !== 0 && body.vx * s[at.GROUND_NX]! + body.vy * s[at.GROUND_NY]! <= LEAVING;
  let pull = -1;
  for (let lane = 0; lane < lanes; lane++) {
    const leaf = fast.leaves[lane]!;
    const rule = fast.states[leaf]!.motion;
    const m = fast.motion[lane]!;
    fast.code.motion[leaf]!(live, m);
    const yields = fast.yields[lane]!;
    const givesVx = yields.vx && isGiven(fast, lane, 'vx');
    const givesVy = yields.vy && isGiven(fast, lane, 'vy');
    const givesGravity = yields.gravity && isGiven(fast, lane, 'gravity');
    if (rule.hold !== undefined) hold(fast, rule, m, givesVx, givesVy, lane, leaf);
    if (rule.drive !== undefined && !givesVx && !held.vx) drive(fast, s, rule, m, stands, lane, leaf);
    if (rule.push !== undefined) push(fast, s, rule, m, givesVx, givesVy, stands, lane, leaf);
    if (rule.gravity !== undefined && !givesGravity) pull = lane;
  }
  if (!stands && !held.vy && machine.gravity !== 0) fall(fast, pull);
  if (!stands && s[at.STEEP] !== 0) slip(fast, s);
  for (let lane = 0; lane < lanes; lane++) {
    const leaf = fast.leaves[lane]!;
    const rule = fast.states[leaf]!.motion;
    const m = fast.motion[lane]!;
    if (rule.tether !== undefined) hang(fast, s, rule.tether, m, lane, leaf);
    if (rule.drag !== undefined) drag(fast, m[MOTION.drag]!, stands, lane, 'drag', leaf);
  }
}

/** The zones that the body is in: wind and drag all the time. */
function blow(fast: Fast, s: Float64Array): void {
  const { zones } = fast.world.course;
  const { body, log } = fast;
  const { dt } = fast.machine;
  for (let i = 0; i < zones.length; i++) {
    if ((s[fast.layout.zones + i]! & at.INSIDE) === 0) continue;
    const { wind, drag: rate } = zones[i]!;
    if (wind !== undefined) {
      if (wind.x !== 0) note(log, 'vx', -1, 'zone wind', i, -1, false, (body.vx += wind.x * dt));
      if (wind.y !== 0) note(log, 'vy', -1, 'zone wind', i, -1, false, (body.vy += wind.y * dt));
    }
    if (rate > 0) drag(fast, rate, false, -1, 'zone drag', i);
  }
}

/** Whether a channel that a lane yields is written by another in this tick. */
function isGiven(fast: Fast, lane: number, channel: 'vx' | 'vy' | 'gravity'): boolean {
  for (let other = 0; other < fast.yields.length; other++) {
    if (other === lane) continue;
    const { drive, hold, push, gravity } = fast.states[fast.leaves[other]!]!.motion;
    if (channel === 'gravity' && gravity !== undefined) return true;
    if (channel === 'vx' && (drive !== undefined || hold?.vx !== undefined || push?.x !== undefined))
      return true;
    if (channel === 'vy' && (hold?.vy !== undefined || push?.y !== undefined)) return true;
  }
  return isWrittenByAnother(fast.log, channel, lane);
}

function hold(
  fast: Fast,
  rule: Motion,
  m: Float64Array,
  givesVx: boolean,
  givesVy: boolean,
  lane: number,
  leaf: number,
): void {
  const { body, held, log } = fast;
  if (rule.hold!.vx !== undefined && !givesVx) {
    body.vx = m[MOTION.holdVx]!;
    held.vx = true;
    note(log, 'vx', lane, 'hold', leaf, -1, true, body.vx);
  }
  if (rule.hold!.vy !== undefined && !givesVy) {
    body.vy = m[MOTION.holdVy]!;
    held.vy = true;
    note(log, 'vy', lane, 'hold', leaf, -1, true, body.vy);
  }
}

function drive(
  fast: Fast,
  s: Float64Array,
  rule: Motion,
  m: Float64Array,
  stands: boolean,
  lane: number,
  leaf: number,
): void {
  const { body, log, machine } = fast;
  const { instant } = rule.drive!;
  if (machine.plane === 'above') {
    driveAbove(fast, rule, m);
    note(log, 'vx', lane, 'drive', leaf, -1, instant, body.vx);
    if (!fast.held.vy) note(log, 'vy', lane, 'drive', leaf, -1, instant, body.vy);
    return;
  }
  if (stands) {
    const nx = s[at.GROUND_NX]!;
    const ny = s[at.GROUND_NY]!;
    // Moving right, the surface rises where its normal leans left.
    const speed = driven(rule, m, body.vx * ny - body.vy * nx, -nx, machine.dt);
    body.vx = speed * ny;
    if (!fast.held.vy) body.vy = speed * -nx;
  } else body.vx = driven(rule, m, body.vx, 0, machine.dt);
  note(log, 'vx', lane, 'drive', leaf, -1, instant, body.vx);
}

/** As `driven` of the reference. */
function driven({ drive: rule }: Motion, m: Float64Array, speed: number, rise: number, dt: number): number {
  const to = m[MOTION.to]!;
  if (rule!.instant) return to;
  const against = speed * to < 0;
  const excess = Math.abs(speed) - Math.abs(to);
  if (rule!.carry !== undefined && !against && excess > m[MOTION.above]!) {
    const uphill = rise * Math.sign(speed);
    const share = rule!.carry.slope === undefined ? 1 : Math.max(0, 1 + m[MOTION.slope]! * uphill);
    return approach(speed, to, m[MOTION.fade]! * share * dt);
  }
  if (against) return approach(speed, to, m[MOTION.turn]! * dt);
  return approach(speed, to, (excess > 0 ? m[MOTION.brake]! : m[MOTION.gain]!) * dt);
}

const target = { x: 0, y: 0 };

/** As `drivenAbove` of the reference; vy is left alone when it is held. */
function driveAbove(fast: Fast, rule: Motion, m: Float64Array): void {
  const { body } = fast;
  target.x = m[MOTION.to]!;
  target.y = rule.drive!.toY === undefined ? 0 : m[MOTION.toY]!;
  putWithinDirections(target, rule.directions ?? 'free');
  let { x, y } = target;
  if (!rule.drive!.instant) {
    const dot = body.vx * x + body.vy * y;
    const slower = body.vx * body.vx + body.vy * body.vy > x * x + y * y;
    const change = dot < 0 ? m[MOTION.turn]! : slower ? m[MOTION.brake]! : m[MOTION.gain]!;
    const most = change * fast.machine.dt;
    const dx = x - body.vx;
    const dy = y - body.vy;
    const far = Math.sqrt(dx * dx + dy * dy);
    if (far > most) {
      x = body.vx + (dx / far) * most;
      y = body.vy + (dy / far) * most;
    }
  }
  body.vx = x;
  if (!fast.held.vy) body.vy = y;
}

function push(
  fast: Fast,
  s: Float64Array,
  rule: Motion,
  m: Float64Array,
  givesVx: boolean,
  givesVy: boolean,
  stands: boolean,
  lane: number,
  leaf: number,
): void {
  const { body, held, log } = fast;
  const { x, y, downhill } = rule.push!;
  const { dt } = fast.machine;
  // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
  const along = stands && downhill !== undefined ? m[MOTION.downhill]! * s[at.GROUND_NX]! : 0;
  const ax = (x === undefined ? 0 : m[MOTION.pushX]!) + (stands ? along * s[at.GROUND_NY]! : 0);
  const ay = (y === undefined ? 0 : m[MOTION.pushY]!) - (stands ? along * s[at.GROUND_NX]! : 0);
  if (!held.vx && !givesVx && ax !== 0) note(log, 'vx', lane, 'push', leaf, -1, false, (body.vx += ax * dt));
  if (!held.vy && !givesVy && ay !== 0) note(log, 'vy', lane, 'push', leaf, -1, false, (body.vy += ay * dt));
}

/** Gravity, once a tick, by the rule of the last lane that has one; as it is when none has (−1). */
function fall(fast: Fast, lane: number): void {
  const { body, machine } = fast;
  const leaf = lane < 0 ? -1 : fast.leaves[lane]!;
  const rule = leaf < 0 ? undefined : fast.states[leaf]!.motion.gravity;
  let scale = 1;
  if (rule !== undefined) {
    const m = fast.motion[lane]!;
    scale = body.vy > 0 ? m[MOTION.rising]! : m[MOTION.falling]!;
    if (body.vy > 0 && rule.cut !== undefined && m[MOTION.cutWhen] !== 0) scale = m[MOTION.cutScale]!;
  }
  body.vy -= machine.gravity * scale * machine.dt;
  if (rule?.terminal !== undefined) body.vy = Math.max(body.vy, -fast.motion[lane]![MOTION.terminal]!);
  note(fast.log, 'vy', lane, 'gravity', leaf, -1, false, body.vy);
}

/** On what is too steep to walk, `slip` adds a pull down the surface to whatever the body does. */
function slip(fast: Fast, s: Float64Array): void {
  const { body, held, log, machine } = fast;
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const leaf = fast.leaves[lane]!;
    if (fast.states[leaf]!.motion.ground?.slip === undefined) continue;
    const a = fast.motion[lane]![MOTION.slip]! * machine.dt * Math.sign(s[at.STEEP_NX]!);
    if (!held.vx) note(log, 'vx', lane, 'slip', leaf, -1, false, (body.vx += a * s[at.STEEP_NY]!));
    if (!held.vy) note(log, 'vy', lane, 'slip', leaf, -1, false, (body.vy -= a * s[at.STEEP_NX]!));
  }
}

const centre = { x: 0, y: 0 };

/** On a line: reeled to the centre of the anchors, or climbing with a limit sideways. */
function hang(
  fast: Fast,
  s: Float64Array,
  rule: NonNullable<Motion['tether']>,
  m: Float64Array,
  lane: number,
  leaf: number,
): void {
  const { body, machine, layout, log } = fast;
  if (!putCentre(layout, s, centre)) return;
  const x = s[at.X]!;
  const y = s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
  if (rule.reel !== undefined) {
    const dx = centre.x - x;
    const dy = centre.y - y;
    const far = Math.sqrt(dx * dx + dy * dy);
    const speed = Math.min(m[MOTION.reel]!, far / machine.dt);
    body.vx = far === 0 ? 0 : (dx / far) * speed;
    note(log, 'vx', lane, 'tether', leaf, -1, true, body.vx);
    body.vy = far === 0 ? 0 : (dy / far) * speed;
    note(log, 'vy', lane, 'tether', leaf, -1, true, body.vy);
    return;
  }
  body.vy = rule.climb === undefined ? 0 : m[MOTION.climb]!;
  note(log, 'vy', lane, 'tether', leaf, -1, true, body.vy);
  const { sideways } = rule;
  if (sideways === undefined) return;
  const below = centre.y - (y + body.vy * machine.dt);
  const limit = 'length' in sideways ? m[MOTION.sideways]! : Math.max(0, below) * sideways.tangent;
  const next = Math.max(centre.x - limit, Math.min(centre.x + limit, x + body.vx * machine.dt));
  body.vx = (next - x) / machine.dt;
  note(log, 'vx', lane, 'tether', leaf, -1, true, body.vx);
}

function drag(fast: Fast, rate: number, stands: boolean, lane: number, by: By, who: number): void {
  const { body, held, log } = fast;
  const factor = 1 / (1 + rate * fast.machine.dt);
  if (!held.vx) note(log, 'vx', lane, by, who, -1, false, (body.vx *= factor));
  if (stands) body.vy *= factor;
  else if (!held.vy) note(log, 'vy', lane, by, who, -1, false, (body.vy *= factor));
}
