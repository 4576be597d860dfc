import { present } from '../../present.js';
import { bounded } from '../../tolerances.js';
import {
  carryBody,
  dropThrough,
  fits,
  footingAt,
  isTouching,
  moveBody,
  placeMovers,
  slideBody,
  type World,
  zonesAt,
} from '../../world/index.js';
import { type Acting, act, enterInitial, type Taken } from './act.js';
import type { Write } from '../definition/author.js';
import { advanceClocks } from './clocks.js';
import { type Choice, decide } from './decide.js';
import type { Machine } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import { applyMotion, type Velocity } from './motion.js';
import { afterTravel } from './travel.js';
import { sense } from './sense.js';
import { anchorShift, groundRule, type Situation } from './situation.js';

/** What one tick did beyond changing the situation: enough for *why* to be asked later. */
export interface TickOutcome {
  /** The facts that the lanes decided on. */
  facts: Float64Array;
  choices: Choice[][];
  taken: Taken[];
  writes: Write[];
}

/**
 * One tick, in the order that is part of the meaning: input, sense, clocks, decide, act, motion, move, settle.
 * Changes the situation in place; the same situation, input and world always give the same outcome, bit for bit.
 * `input` is one number a control, in file order: 0 or 1 for a button, −1…1 for an axis.
 */
export function tick(machine: Machine, world: World, s: Situation, input: readonly number[]): TickOutcome {
  placeMovers(world, s.tick * machine.dt);
  dropThrough(world, s.dropped);
  const facts = new Float64Array(machine.facts.refs.length);
  sense(machine, world, s, input, facts);
  if (s.tick === 0) enterInitial(machine, world, s, facts);
  pickUp(machine, world, s, facts);
  advanceClocks(machine, s, facts);
  const choices = s.leaves.map((leaf) => decide(machine, leaf, facts, s.last));
  const live = facts.slice();
  s.raised = machine.events.map(() => false);
  const acting: Acting = { machine, world, s, live, writes: [], yielded: {} };
  const taken = act(acting, facts, choices);
  launch(acting);
  const travel = applyMotion(acting);
  move(machine, world, s, travel);
  s.events = s.raised;
  s.input = machine.controls.map((_, i) => input[i] ?? 0);
  s.tick++;
  return { facts, choices, taken, writes: acting.writes };
}

/** Zones that unlock do so when the body is in them; one that works once is then gone. */
function pickUp(machine: Machine, world: World, s: Situation, facts: Float64Array): void {
  for (const index of s.zones) {
    const { unlocks } = present(world.course.zones[index]);
    const ability = unlocks === undefined ? -1 : machine.abilities.findIndex((a) => a.name === unlocks);
    if (ability < 0) continue;
    s.unlocked[ability] = true;
    facts[slotOf(machine.facts, 'unlocked', unlocks)] = 1;
  }
}

/** A zone's launch is given in the tick after it was entered, over what the lanes wrote, and never twice in one stay. */
function launch({ machine, world, s, live, writes }: Acting): void {
  for (const index of s.zones) {
    const zone = present(world.course.zones[index]);
    if (zone.launch === undefined || s.launched.includes(index)) continue;
    s.body = { ...s.body, vx: zone.launch.x, vy: zone.launch.y };
    for (const channel of ['vx', 'vy'] as const) {
      live[slotOf(machine.facts, channel)] = s.body[channel];
      writes.push({
        channel,
        author: { kind: 'launch', lane: -1, state: -1, to: -1, zone: zone.name },
        replaces: true,
        value: s.body[channel],
      });
    }
  }
  s.launched = s.zones.filter((z) => present(world.course.zones[z]).launch !== undefined);
}

/**
 * Steps 7 and 8: changes stance where there is room, moves movers and body, the body by the velocity `travel`, and sorts
 * what it now touches.
 */
function move(machine: Machine, world: World, s: Situation, travel: Velocity): void {
  const rule = groundRule(machine, s.leaves);
  const above = machine.plane === 'above';
  const { vx, vy } = s.body;
  s.body = { ...s.body, ...travel };
  dropThrough(world, s.dropped);
  s.cramped = false;
  if (s.wanted !== s.stance) {
    if (takeStance(machine, world, s)) s.footing = footingAt(world, s.stance, s.body, rule, above);
    else s.cramped = true;
  }
  const before = world.offsets.slice();
  const on = s.footing.ground?.solid ?? -1;
  carryBody(world, s.stance, s.body, on, (s.tick + 1) * machine.dt);
  for (const anchor of s.anchors.flat()) {
    if (anchor.mover < 0) continue;
    anchor.x += present(world.offsets[2 * anchor.mover]) - present(before[2 * anchor.mover]);
    anchor.y += present(world.offsets[2 * anchor.mover + 1]) - present(before[2 * anchor.mover + 1]);
  }
  const ground = s.dropped.includes(on) ? undefined : s.footing.ground;
  if (above) slideBody(world, s.stance, s.body, machine.dt);
  else moveBody(world, s.stance, s.body, ground, rule, machine.dt);
  s.dropped = s.dropped.filter((solid) => isTouching(world, s.stance, s.body, solid));
  dropThrough(world, s.dropped);
  s.footing = footingAt(world, s.stance, s.body, rule, above);
  if (machine.integration !== 'semi-implicit')
    Object.assign(s.body, afterTravel({ vx, vy }, travel, s.body, s.footing));
  const mover = on < 0 ? -1 : present(world.course.solids[on]).mover;
  if (rule.inherit && mover >= 0 && s.footing.ground === undefined) {
    // Whoever leaves a mover goes on with its speed, and from here on by itself.
    s.body.vx = bounded(
      s.body.vx + (present(world.offsets[2 * mover]) - present(before[2 * mover])) / machine.dt,
    );
    s.body.vy = bounded(
      s.body.vy + (present(world.offsets[2 * mover + 1]) - present(before[2 * mover + 1])) / machine.dt,
    );
  }
  s.crushed = !fits(world, s.stance, s.body.x, s.body.y);
  const inside: number[] = [];
  inside.length = zonesAt(world, s.stance, s.body.x, s.body.y, inside);
  // A zone that works once is gone when its first visit is over.
  const over = s.zones.filter((z) => present(world.course.zones[z]).once && !inside.includes(z));
  s.spentZones = [...s.spentZones, ...over];
  s.zones = inside.filter((z) => !s.spentZones.includes(z));
  if (s.footing.ground === undefined && !above) s.airTicks++;
  else {
    s.airTicks = 0;
    s.groundY = s.body.y;
  }
}

/** Changes into the wanted stance, or a step towards it, keeping its anchor where it is, if there is room. */
function takeStance(machine: Machine, world: World, s: Situation): boolean {
  const next = nextStance(machine, s);
  const shift = anchorShift(machine, s.stance, next);
  if (!fits(world, next, s.body.x, s.body.y + shift)) return false;
  s.body = { ...s.body, y: s.body.y + shift };
  s.stance = next;
  if (s.blend !== undefined) s.blend = next === s.wanted ? undefined : { ...s.blend, done: s.blend.done + 1 };
  return true;
}

/** The stance of the next tick on the way to the wanted one. A change in the middle of a blend is made at once. */
function nextStance(machine: Machine, s: Situation): number {
  const { wanted } = s;
  if (s.blend?.to !== wanted)
    s.blend = present(machine.stances[s.stance]).step ? undefined : { from: s.stance, to: wanted, done: 0 };
  const first = s.blend === undefined ? undefined : machine.blends.get(`${s.blend.from}>${wanted}`);
  if (first === undefined || present(s.blend).done + 1 >= present(machine.stances[wanted]).blend)
    return wanted;
  return first + present(s.blend).done;
}
