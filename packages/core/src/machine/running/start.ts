import { DEFAULT_GROUND } from '../compile/motion-rules.js';
import * as at from '../lowered/layout.js';
import { dropThrough, placeMovers } from '../../world/index.js';
import { startOfMemory } from '../reference/memories.js';
import { leafFrom, type Situation, wantedStance } from '../reference/situation.js';
import type { Fast } from './fast.js';

import { settle } from './move.js';

/** The situation before the first tick, at a place, as `startSituation` of the reference. */
export function startFast(fast: Fast, place: { x: number; y: number; facing: 1 | -1 }): Float64Array {
  const { layout, machine, world, body } = fast;
  const s = new Float64Array(layout.size);
  // A world that was used before still stands as its last run left it.
  placeMovers(world, 0);
  dropThrough(world, []);
  const leaves = machine.lanes.map((lane) => leafFrom(machine, lane.initial));
  const stance = Math.max(0, wantedStance(machine, leaves));
  s[at.X] = place.x;
  s[at.Y] = place.y;
  s[at.FACING] = place.facing;
  s[at.STANCE] = stance;
  s[at.WANTED] = stance;
  s[at.BLEND_FROM] = -1;
  s[at.GROUND_Y] = place.y;
  s.set(leaves, layout.leaves);
  s.fill(-1, layout.last, layout.last + machine.states.length);
  s.set(
    machine.variables.map((v) => v.initial),
    layout.variables,
  );
  s.fill(-1, layout.timers, layout.timers + machine.timers.length);
  s.set(
    machine.cooldowns.map((c) => c.charges),
    layout.charges,
  );
  s.fill(-1, layout.spentIn, layout.spentIn + machine.cooldowns.length);
  s.set(
    machine.abilities.map((a) => (a.locked ? 0 : 1)),
    layout.unlocked,
  );
  s.set(machine.memories.map(startOfMemory), layout.memories);
  const rule = leaves.map((leaf) => machine.states[leaf]!.motion.ground).find((g) => g !== undefined);
  Object.assign(body, { x: place.x, y: place.y, vx: 0, vy: 0 });
  settle(fast, s, (rule ?? DEFAULT_GROUND).walkable, machine.plane === 'above');
  return s;
}

/** What of a situation of the reference has a meaning, in the layout of the buffer: for holding the two together. */
export function bufferOf(fast: Fast, r: Situation): Float64Array {
  const { layout } = fast;
  const s = new Float64Array(layout.size);
  const { ground, steep, wall, ceiling } = r.footing;
  s[at.TICK] = r.tick;
  s[at.X] = r.body.x;
  s[at.Y] = r.body.y;
  s[at.VX] = r.body.vx;
  s[at.VY] = r.body.vy;
  s[at.FACING] = r.facing;
  s[at.STANCE] = r.stance;
  s[at.WANTED] = r.wanted;
  s[at.BLEND_FROM] = r.blend?.from ?? -1;
  s[at.BLEND_TO] = r.blend?.to ?? 0;
  s[at.BLEND_DONE] = r.blend?.done ?? 0;
  s[at.GROUND] = ground === undefined ? 0 : 1;
  s[at.GROUND_NX] = ground?.nx ?? 0;
  s[at.GROUND_NY] = ground?.ny ?? 0;
  s[at.GROUND_SOLID] = ground?.solid ?? -1;
  s[at.STEEP] = steep === undefined ? 0 : 1;
  s[at.STEEP_NX] = steep?.nx ?? 0;
  s[at.STEEP_NY] = steep?.ny ?? 0;
  s[at.WALL] = wall;
  s[at.CEILING] = Number(ceiling);
  s[at.CRUSHED] = Number(r.crushed);
  s[at.CRAMPED] = Number(r.cramped);
  s[at.GROUND_Y] = r.groundY;
  s[at.AIR_TICKS] = r.airTicks;
  s[at.IN_ZONES] = r.zones.length + r.launched.length > 0 ? 1 : 0;
  s.set(r.leaves, layout.leaves);
  // Counted by the reference after the tick: a state entered in tick t has 0 when t is over.
  s.set(
    r.elapsed.map((e) => r.tick - 1 - e),
    layout.entered,
  );
  s.set(r.last, layout.last);
  s.set(r.variables, layout.variables);
  s.set(r.timers, layout.timers);
  s.set(
    r.cooldowns.map((c) => c.charges),
    layout.charges,
  );
  s.set(
    r.cooldowns.map((c) => c.clock),
    layout.clocks,
  );
  s.set(
    r.cooldowns.map((c) => c.spentIn),
    layout.spentIn,
  );
  s.set(r.unlocked.map(Number), layout.unlocked);
  s.set(r.events.map(Number), layout.events);
  s.set(r.memories, layout.memories);
  s.set(r.input, layout.input);
  r.anchors.forEach((held, i) => {
    s[layout.anchors[i]!] = held.length;
    s.set(
      held.flatMap((a) => [a.x, a.y, a.mover]),
      layout.anchors[i]! + 1,
    );
  });
  s[layout.dropped] = r.dropped.length;
  s.set(r.dropped, layout.dropped + 1);
  fast.world.course.zones.forEach((_, z) => {
    s[layout.zones + z] =
      (r.zones.includes(z) ? at.INSIDE : 0) +
      (r.launched.includes(z) ? at.LAUNCHED : 0) +
      (r.spentZones.includes(z) ? at.SPENT : 0);
  });
  return s;
}
