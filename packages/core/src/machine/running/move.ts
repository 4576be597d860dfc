import {
  carryBody,
  dropThrough,
  fits,
  isTouching,
  moveBody,
  slideBody,
  sortContacts,
  zonesAt,
} from '../../world/index.js';
import { bounded, SKIN, UNTURNED } from '../../tolerances.js';
import { DEFAULT_GROUND } from '../compile/motion-rules.js';
import * as at from '../lowered/layout.js';
import { anchorShift } from '../reference/situation.js';
import type { Fast } from './fast.js';

const NOTHING: readonly number[] = [];

/** Tells the world which one-way platforms are dropped through. */
export function placeDropped(fast: Fast, s: Float64Array): void {
  const first = fast.layout.dropped;
  const count = s[first]!;
  if (count !== 0) dropThrough(fast.world, Array.from(s.subarray(first + 1, first + 1 + count)));
  else if (fast.world.dropped.length !== 0) dropThrough(fast.world, NOTHING);
}

const underfoot = { nx: 0, ny: 0 };

/** Steps 7 and 8, as `move` of the reference. The tick is counted already. */
export function move(fast: Fast, s: Float64Array): void {
  const { machine, world, body, layout } = fast;
  const above = machine.plane === 'above';
  const rule = ruleOf(fast, s);
  const dropping = s[layout.dropped] !== 0;
  placeDropped(fast, s);
  body.x = s[at.X]!;
  body.y = s[at.Y]!;
  const isEven = machine.integration === 'semi-implicit';
  body.vx = s[isEven ? at.VX : layout.travel]!;
  body.vy = s[isEven ? at.VY : layout.travel + 1]!;
  s[at.CRAMPED] = 0;
  if (s[at.WANTED] !== s[at.STANCE]) {
    if (takeStance(fast, s)) settle(fast, s, rule.walkable, above);
    else s[at.CRAMPED] = 1;
  }
  const on = s[at.GROUND] === 0 ? -1 : s[at.GROUND_SOLID]!;
  carry(fast, s, on);
  underfoot.nx = s[at.GROUND_NX]!;
  underfoot.ny = s[at.GROUND_NY]!;
  const stands = s[at.GROUND] !== 0 && !(dropping && world.dropped.includes(s[at.GROUND_SOLID]!));
  if (above) slideBody(world, s[at.STANCE]!, body, machine.dt);
  else moveBody(world, s[at.STANCE]!, body, stands ? underfoot : undefined, rule, machine.dt);
  if (dropping) keepDropped(fast, s);
  settle(fast, s, rule.walkable, above);
  if (!isEven) addToTravel(fast, s);
  if (rule.inherit && on >= 0 && s[at.GROUND] === 0) inherit(fast, world.course.solids[on]!.mover);
  s[at.CRUSHED] = world.contacts.minDistance < -SKIN ? 1 : 0;
  s[at.X] = body.x;
  s[at.Y] = body.y;
  s[at.VX] = body.vx;
  s[at.VY] = body.vy;
  enterZones(fast, s);
  if (s[at.GROUND] === 0 && !above) s[at.AIR_TICKS]!++;
  else {
    s[at.AIR_TICKS] = 0;
    s[at.GROUND_Y] = body.y;
  }
}

const more = { x: 0, y: 0 };

/** Takes from `more` what of it points into a surface; tells whether there was any. */
function stop(nx: number, ny: number): boolean {
  const into = more.x * nx + more.y * ny;
  if (into >= 0) return false;
  more.x -= into * nx;
  more.y -= into * ny;
  return true;
}

/** Adds what the rules gave beyond what the body moved by, as `afterTravel` of the reference. */
function addToTravel({ world, layout, body }: Fast, s: Float64Array): void {
  const travelX = s[layout.travel]!;
  const travelY = s[layout.travel + 1]!;
  // Nothing of it is left for the next tick, or to tell situations apart.
  s.fill(0, layout.travel, layout.travel + 2);
  more.x = s[at.VX]! - travelX;
  more.y = s[at.VY]! - travelY;
  const turnedX = body.vx - travelX;
  const turnedY = body.vy - travelY;
  const turned = Math.sqrt(turnedX * turnedX + turnedY * turnedY);
  const isTurned = turned > UNTURNED;
  let isStopped = isTurned && stop(turnedX / turned, turnedY / turned);
  const { nx, ny, count } = world.contacts;
  for (let i = 0; i < count; i++) isStopped = stop(nx[i]!, ny[i]!) || isStopped;
  if (!isTurned && !isStopped) {
    body.vx = s[at.VX]!;
    body.vy = s[at.VY]!;
    return;
  }
  if (s[at.GROUND] !== 0) {
    const along = more.x * s[at.GROUND_NY]! - more.y * s[at.GROUND_NX]!;
    more.x = along * s[at.GROUND_NY]!;
    more.y = 0 - along * s[at.GROUND_NX]!;
  }
  body.vx += more.x;
  body.vy += more.y;
}

/** The ground rule of the first lane whose active state has one. */
function ruleOf({ machine, grounds, layout }: Fast, s: Float64Array): typeof DEFAULT_GROUND {
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const ground = grounds[s[layout.leaves + lane]!];
    if (ground !== undefined) return ground;
  }
  return DEFAULT_GROUND;
}

/** Changes into the wanted stance, or a step towards it, keeping its anchor where it is, if there is room. */
function takeStance(fast: Fast, s: Float64Array): boolean {
  const { machine, world, body } = fast;
  const next = nextStance(fast, s);
  const shift = anchorShift(machine, s[at.STANCE]!, next);
  if (!fits(world, next, body.x, body.y + shift)) return false;
  body.y += shift;
  s[at.STANCE] = next;
  if (next !== s[at.WANTED]) s[at.BLEND_DONE]!++;
  else {
    s[at.BLEND_FROM] = -1;
    s[at.BLEND_TO] = 0;
    s[at.BLEND_DONE] = 0;
  }
  return true;
}

/** The stance of the next tick on the way to the wanted one. A change in the middle of a blend is made at once. */
function nextStance(fast: Fast, s: Float64Array): number {
  const { stances, blends } = fast.machine;
  const wanted = s[at.WANTED]!;
  if (s[at.BLEND_FROM]! < 0 || s[at.BLEND_TO] !== wanted) {
    const midway = stances[s[at.STANCE]!]!.step;
    s[at.BLEND_FROM] = midway ? -1 : s[at.STANCE]!;
    s[at.BLEND_TO] = midway ? 0 : wanted;
    s[at.BLEND_DONE] = 0;
  }
  if (s[at.BLEND_FROM]! < 0 || blends.size === 0) return wanted;
  const first = blends.get(`${s[at.BLEND_FROM]}>${wanted}`);
  const done = s[at.BLEND_DONE]!;
  return first === undefined || done + 1 >= stances[wanted]!.blend ? wanted : first + done;
}

/** Movers move, and with them the body and the anchors that are on one. */
function carry(fast: Fast, s: Float64Array, on: number): void {
  const { world, machine, layout } = fast;
  if (world.offsets.length === 0) return;
  carryBody(world, s[at.STANCE]!, fast.body, on, s[at.TICK]! * machine.dt);
  const { before } = world;
  for (let i = 0; i < layout.anchors.length; i++) {
    const first = layout.anchors[i]!;
    for (let k = 0; k < s[first]!; k++) {
      const mover = s[first + 3 + 3 * k]!;
      if (mover < 0) continue;
      s[first + 1 + 3 * k]! += world.offsets[2 * mover]! - before[2 * mover]!;
      s[first + 2 + 3 * k]! += world.offsets[2 * mover + 1]! - before[2 * mover + 1]!;
    }
  }
}

/** Whoever leaves a mover goes on with its speed, and from here on by itself. */
function inherit({ world, machine, body }: Fast, mover: number): void {
  if (mover < 0) return;
  const { before } = world;
  body.vx = bounded(body.vx + (world.offsets[2 * mover]! - before[2 * mover]!) / machine.dt);
  body.vy = bounded(body.vy + (world.offsets[2 * mover + 1]! - before[2 * mover + 1]!) / machine.dt);
}

/** A platform is dropped through until the body no longer touches it. */
function keepDropped(fast: Fast, s: Float64Array): void {
  const { world, body } = fast;
  const first = fast.layout.dropped;
  let kept = 0;
  for (let i = 0; i < s[first]!; i++) {
    const solid = s[first + 1 + i]!;
    if (isTouching(world, s[at.STANCE]!, body, solid)) s[first + 1 + kept++] = solid;
  }
  s.fill(0, first + 1 + kept, first + 1 + s[first]!);
  s[first] = kept;
  placeDropped(fast, s);
}

/** Sorts what the body touches into the situation. */
export function settle(fast: Fast, s: Float64Array, walkable: number, above: boolean): void {
  const { world, body } = fast;
  const { ground, steep, wall, ceiling } = sortContacts(world, s[at.STANCE]!, body, walkable, above);
  const { nx, ny, solid } = world.contacts;
  s[at.GROUND] = ground < 0 ? 0 : 1;
  s[at.GROUND_NX] = ground < 0 ? 0 : nx[ground]!;
  s[at.GROUND_NY] = ground < 0 ? 0 : ny[ground]!;
  s[at.GROUND_SOLID] = ground < 0 ? -1 : solid[ground]!;
  s[at.STEEP] = steep < 0 ? 0 : 1;
  s[at.STEEP_NX] = steep < 0 ? 0 : nx[steep]!;
  s[at.STEEP_NY] = steep < 0 ? 0 : ny[steep]!;
  s[at.WALL] = wall;
  s[at.CEILING] = ceiling ? 1 : 0;
}

/** Which zones the body is in after the move; one that works once is gone when its first visit is over. */
function enterZones(fast: Fast, s: Float64Array): void {
  const { world, layout, inside, body } = fast;
  const { zones } = world.course;
  if (zones.length === 0) return;
  const count = zonesAt(world, s[at.STANCE]!, body.x, body.y, inside);
  if (count === 0 && s[at.IN_ZONES] === 0) return;
  let bits = 0;
  for (let i = 0, k = 0; i < zones.length; i++) {
    const place = layout.zones + i;
    let zone = s[place]!;
    const isInside = k < count && inside[k] === i;
    if (isInside) k++;
    else if ((zone & at.INSIDE) !== 0 && zones[i]!.once) zone |= at.SPENT;
    zone = isInside && (zone & at.SPENT) === 0 ? zone | at.INSIDE : zone & ~at.INSIDE;
    s[place] = zone;
    bits |= zone & ~at.SPENT;
  }
  s[at.IN_ZONES] = bits === 0 ? 0 : 1;
}
