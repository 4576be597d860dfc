import { castShape, type World } from '../world/index.js';
import type { Machine, Tether } from './definition.js';
import type { Situation } from './situation.js';
import { unitVector } from './trigonometry.js';

/** The middle of the body: where lines are held. */
export function middleOf(machine: Machine, s: Situation): { x: number; y: number } {
  const { bottom, top } = machine.stances[s.stance]!;
  return { x: s.body.x, y: s.body.y + (bottom + top) / 2 };
}

/** Where a tether would take hold now: along its aim on a marked surface, or at the nearest marked anchor in reach. */
export function catchOf(
  machine: Machine,
  world: World,
  s: Situation,
  tether: Tether,
  facts: ArrayLike<number>,
): { x: number; y: number; mover: number } | undefined {
  const from = middleOf(machine, s);
  if (tether.aim !== undefined) {
    const direction = unitVector(facts[machine.facts.slots.get(tether.aim)!]!);
    // Cast against everything: what is not marked is in the way.
    const hit = castShape(world, 0, undefined, from.x, from.y, direction.x, direction.y, tether.reach);
    if (!hit.hit || !tether.sees.includes(world.course.solids[hit.solid]!.tag)) return undefined;
    return {
      x: from.x + direction.x * hit.distance,
      y: from.y + direction.y * hit.distance,
      mover: world.course.solids[hit.solid]!.mover,
    };
  }
  let best: { x: number; y: number } | undefined;
  let least = tether.reach;
  for (const anchor of world.course.anchors) {
    const distance = Math.sqrt((anchor.x - from.x) ** 2 + (anchor.y - from.y) ** 2);
    if (tether.sees.includes(anchor.tag) && distance <= least) [best, least] = [anchor, distance];
  }
  return best && { x: best.x, y: best.y, mover: -1 };
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
  const held = s.anchors[tether]!;
  if (held.some((a) => a.x === anchor.x && a.y === anchor.y)) return;
  held.push(anchor);
  if (held.length > machine.tethers[tether]!.most) held.shift();
}
