import { approach, evaluate, type Expression, holds } from '../notation/index.js';
import type { Write } from './act.js';
import type { Channel, Drive, GravityRule, Machine, Motion } from './definition.js';
import type { Situation } from './situation.js';

/** A velocity away from the ground by more than this leaves it (m/s). */
const LEAVING = 1e-6;

/**
 * Step 6 of a tick: the active states' rules, in lane order, turn the velocity into this tick's. Semi-implicit Euler:
 * the velocity is changed first, and the body then moves with it. On the ground, `drive` works along the surface and
 * gravity is carried by it. Every change is recorded with its author.
 */
export function applyMotion(machine: Machine, s: Situation, live: Float64Array, writes: Write[]): void {
  const { dt } = machine;
  const value = (e: Expression | undefined, otherwise: number): number =>
    e === undefined ? otherwise : evaluate(e, live);
  const ground = s.footing.ground;
  const stands = ground !== undefined && s.body.vx * ground.nx + s.body.vy * ground.ny <= LEAVING;
  let { vx, vy } = s.body;
  const held = { vx: false, vy: false };
  const write = (channel: Channel, lane: number, author: string, replaces: boolean, to: number): void => {
    writes.push({ channel, lane, author, replaces, value: to });
  };
  let pull: { rule: GravityRule; lane: number; author: string } | undefined;

  s.leaves.forEach((leaf, lane) => {
    const { motion, name } = machine.states[leaf]!;
    const gives = yieldedBy(machine, s, lane, writes);
    const hold = motion.hold && {
      vx: gives.vx ? undefined : motion.hold.vx,
      vy: gives.vy ? undefined : motion.hold.vy,
    };
    const drive = gives.vx ? undefined : motion.drive;
    const push = motion.push && {
      ...motion.push,
      x: gives.vx ? undefined : motion.push.x,
      y: gives.vy ? undefined : motion.push.y,
    };
    const gravity = gives.gravity ? undefined : motion.gravity;
    if (hold?.vx !== undefined) {
      vx = evaluate(hold.vx, live);
      held.vx = true;
      write('vx', lane, `${name} hold`, true, vx);
    }
    if (hold?.vy !== undefined) {
      vy = evaluate(hold.vy, live);
      held.vy = true;
      write('vy', lane, `${name} hold`, true, vy);
    }
    if (drive !== undefined && !held.vx) {
      if (stands) {
        const speed = driven(drive, vx * ground.ny - vy * ground.nx, live, dt);
        [vx, vy] = [speed * ground.ny, held.vy ? vy : speed * -ground.nx];
      } else vx = driven(drive, vx, live, dt);
      write('vx', lane, `${name} drive`, drive.instant, vx);
    }
    if (push !== undefined) {
      // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
      const downhill = stands ? value(push.downhill, 0) * ground.nx : 0;
      const ax = value(push.x, 0) + (stands ? downhill * ground.ny : 0);
      const ay = value(push.y, 0) - (stands ? downhill * ground.nx : 0);
      if (!held.vx && ax !== 0) write('vx', lane, `${name} push`, false, (vx += ax * dt));
      if (!held.vy && ay !== 0) write('vy', lane, `${name} push`, false, (vy += ay * dt));
    }
    if (gravity !== undefined) pull = { rule: gravity, lane, author: `${name} gravity` };
  });

  if (!stands && !held.vy && machine.gravity !== 0) {
    const rule = pull?.rule;
    let scale = vy > 0 ? value(rule?.rising, 1) : value(rule?.falling, 1);
    if (vy > 0 && rule?.cut !== undefined && holds(rule.cut.when, live))
      scale = evaluate(rule.cut.scale, live);
    vy -= machine.gravity * scale * dt;
    if (rule?.terminal !== undefined) vy = Math.max(vy, -evaluate(rule.terminal, live));
    write('vy', pull?.lane ?? -1, pull?.author ?? 'gravity', false, vy);
  }

  s.leaves.forEach((leaf, lane) => {
    const { motion, name } = machine.states[leaf]!;
    if (motion.drag === undefined) return;
    // Implicit Euler of v' = −drag·v: stable at any rate, and without an exponential.
    const factor = 1 / (1 + evaluate(motion.drag, live) * dt);
    if (!held.vx) write('vx', lane, `${name} drag`, false, (vx *= factor));
    if (!held.vy && !stands) write('vy', lane, `${name} drag`, false, (vy *= factor));
    else if (stands) vy *= factor;
  });
  s.body = { ...s.body, vx, vy };
}

/** The channels that a lane leaves to another in this tick: those it yields, and another lane writes. */
function yieldedBy(
  machine: Machine,
  s: Situation,
  lane: number,
  writes: readonly Write[],
): Record<'vx' | 'vy' | 'gravity', boolean> {
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

/** A speed after one tick of a drive: instant, carried above the target, or approached by gain, brake or turn. */
function driven(drive: Drive, speed: number, live: Float64Array, dt: number): number {
  const target = evaluate(drive.to, live);
  if (drive.instant) return target;
  const gain = drive.gain === undefined ? 0 : evaluate(drive.gain, live);
  const brake = drive.brake === undefined ? gain : evaluate(drive.brake, live);
  const against = speed * target < 0;
  const excess = Math.abs(speed) - Math.abs(target);
  if (drive.carry !== undefined && !against && excess > evaluate(drive.carry.above, live)) {
    return approach(speed, target, evaluate(drive.carry.fade, live) * dt);
  }
  if (against)
    return approach(speed, target, (drive.turn === undefined ? brake : evaluate(drive.turn, live)) * dt);
  return approach(speed, target, (excess > 0 ? brake : gain) * dt);
}
