import { present } from '../../present.js';
import { castShape, type World } from '../../world/index.js';
import type { Machine, Tether } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import type { Situation } from './situation.js';
import { putUnitVector } from '../trigonometry.js';

/** The middle of the body: where lines are held. */
export function middleOf(machine: Machine, s: Situation): { x: number; y: number } {
  const { bottom, top } = present(machine.stances[s.stance]);
  return { x: s.body.x, y: s.body.y + (bottom + top) / 2 };
}

/** A place that a tether can hold on to, and the mover it is on (−1 none). */
export interface Hold {
  x: number;
  y: number;
  mover: number;
}

/** Where a tether would take hold now, or undefined. */
export function catchOf(
  machine: Machine,
  world: World,
  s: Situation,
  tether: Tether,
  facts: ArrayLike<number>,
): Hold | undefined {
  const hold = { ...middleOf(machine, s), mover: -1 };
  return putCatch(machine, world, tether, facts, hold) ? hold : undefined;
}

const aimed = { x: 0, y: 0 };

/**
 * Finds where a tether would take hold: along its aim on a marked surface, or at the nearest marked anchor in reach.
 * `hold` is the place that it is cast from and becomes where it holds; false when there is nothing to hold on to.
 */
export function putCatch(
  machine: Machine,
  world: World,
  tether: Tether,
  facts: ArrayLike<number>,
  hold: Hold,
): boolean {
  const { x, y } = hold;
  if (tether.aim !== undefined) {
    putUnitVector(present(facts[slotOf(machine.facts, 'aim', tether.aim)]), aimed);
    // Cast against everything: what is not marked is in the way.
    const hit = castShape(world, 0, undefined, x, y, aimed.x, aimed.y, tether.reach);
    if (!hit.hit || !tether.sees.includes(present(world.course.solids[hit.solid]).tag)) return false;
    hold.x = x + aimed.x * hit.distance;
    hold.y = y + aimed.y * hit.distance;
    hold.mover = present(world.course.solids[hit.solid]).mover;
    return true;
  }
  let nearest = tether.reach;
  let found = false;
  for (const anchor of world.course.anchors) {
    const distance = Math.sqrt((anchor.x - x) ** 2 + (anchor.y - y) ** 2);
    if (distance > nearest || !tether.sees.includes(anchor.tag)) continue;
    nearest = distance;
    found = true;
    hold.x = anchor.x;
    hold.y = anchor.y;
    hold.mover = -1;
  }
  return found;
}

/** The centre of all anchors that hold, or undefined when none does. */
export function centreOf(s: Situation): { x: number; y: number } | undefined {
  const all = s.anchors.flat();
  if (all.length === 0) return undefined;
  return {
    x: all.reduce((sum, a) => sum + a.x, 0) / all.length,
    y: all.reduce((sum, a) => sum + a.y, 0) / all.length,
  };
}

/** Holds on to a new anchor; beyond the most, the oldest lets go. Holding on to the same place again changes nothing. */
export function addAnchor(
  machine: Machine,
  s: Situation,
  tether: number,
  anchor: { x: number; y: number; mover: number },
): void {
  const held = present(s.anchors[tether]);
  if (held.some((a) => a.x === anchor.x && a.y === anchor.y)) return;
  held.push(anchor);
  if (held.length > present(machine.tethers[tether]).most) held.shift();
}
