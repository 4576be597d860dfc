import { fits, footingAt, moveBody, type World } from '../world/index.js';
import { act, enterInitial, type Taken, type Write } from './act.js';
import { advanceClocks } from './clocks.js';
import { type Choice, decide } from './decide.js';
import type { Machine } from './definition.js';
import { applyMotion } from './motion.js';
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
  const facts = new Float64Array(machine.facts.keys.length);
  sense(machine, world, s, input, facts);
  if (s.tick === 0) enterInitial(machine, s, facts);
  advanceClocks(machine, s, facts);
  const choices = s.leaves.map((leaf, lane) => decide(machine, lane, leaf, facts, s.last));
  const live = facts.slice();
  s.raised = machine.events.map(() => false);
  const { taken, writes } = act(machine, s, facts, live, choices);
  applyMotion(machine, s, live, writes);
  move(machine, world, s);
  s.events = s.raised;
  s.input = machine.controls.map((_, i) => input[i] ?? 0);
  s.tick++;
  return { facts, choices, taken, writes };
}

/** Steps 7 and 8: changes stance where there is room, moves the body, and sorts what it now touches. */
function move(machine: Machine, world: World, s: Situation): void {
  const rule = groundRule(machine, s.leaves);
  if (s.wanted !== s.stance && takeStance(machine, world, s)) {
    s.footing = footingAt(world, s.stance, s.body, rule);
  }
  s.body = moveBody(world, s.stance, s.body, s.footing.ground, rule, machine.dt);
  s.footing = footingAt(world, s.stance, s.body, rule);
  if (s.footing.ground === undefined) s.airTicks++;
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
    s.blend = machine.stances[s.stance]!.step ? undefined : { from: s.stance, to: wanted, done: 0 };
  const first = s.blend === undefined ? undefined : machine.blends.get(`${s.blend.from}>${wanted}`);
  if (first === undefined || s.blend!.done + 1 >= machine.stances[wanted]!.blend) return wanted;
  return first + s.blend!.done;
}
