import { placeMovers } from '../../world/index.js';
import { act, enterInitial, ownLive } from './act.js';
import { noteTie } from './decide.js';
import type { Fast } from './fast.js';
import * as at from './layout.js';
import { clearLog, note } from './log.js';
import { move, placeDropped } from './move.js';

/** One tick, as `tick` of the reference, changing the buffer of a situation. `input` is one number a control. */
export function step(fast: Fast, s: Float64Array, input: ArrayLike<number>): void {
  const { machine, world, layout, facts } = fast;
  // Only what differs is stored: storing a reference costs more than comparing it.
  if (fast.live !== facts) fast.live = facts;
  fast.takenCount = 0;
  fast.tiedCount = 0;
  fast.acted = false;
  clearLog(fast.log);
  placeMovers(world, s[at.TICK]! * machine.dt);
  placeDropped(fast, s);
  sense(fast, s, input);
  if (s[at.TICK] === 0) enterInitial(fast, s);
  if (s[at.IN_ZONES] !== 0) pickUp(fast, s);
  fast.code.clocks(s, facts);
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const leaf = s[layout.leaves + lane]!;
    fast.leaves[lane] = leaf;
    const first = fast.code.first(s, facts, leaf);
    fast.chosen[lane] = first;
    if (first >= 0) noteTie(fast, s, lane, leaf, first);
  }
  for (let i = 0; i < fast.raised.length; i++) fast.raised[i] = 0;
  act(fast, s);
  if (s[at.IN_ZONES] !== 0) launch(fast, s);
  fast.code.motion(s, fast.live);
  move(fast, s);
  for (let i = 0; i < fast.raised.length; i++) s[layout.events + i] = fast.raised[i]!;
  fast.code.keep(s, input);
  s[at.TICK]!++;
}

function sense(fast: Fast, s: Float64Array, input: ArrayLike<number>): void {
  const { senses } = fast;
  senses.now++;
  if (senses.situation !== s) senses.situation = s;
  senses.facing = s[at.FACING]!;
  fast.code.sense(s, fast.facts, input);
  if (!fast.allFacts) return;
  for (let i = 0; i < senses.lazySlots.length; i++) senses.ask(senses.lazySlots[i]!);
}

/** Zones that unlock do so when the body is in them. */
function pickUp(fast: Fast, s: Float64Array): void {
  const { unlocks, layout } = fast;
  for (let i = 0; i < unlocks.length; i++) {
    const ability = unlocks[i]!;
    if (ability >= 0 && (s[layout.zones + i]! & at.INSIDE) !== 0) s[layout.unlocked + ability] = 1;
  }
}

/** A zone's launch is given in the tick after it was entered, and never twice in one stay. */
function launch(fast: Fast, s: Float64Array): void {
  const { zones } = fast.world.course;
  for (let i = 0; i < zones.length; i++) {
    const place = fast.layout.zones + i;
    const state = s[place]!;
    const { launch: velocity } = zones[i]!;
    if (velocity === undefined || (state & at.INSIDE) === 0) {
      s[place] = state & ~at.LAUNCHED;
      continue;
    }
    s[place] = state | at.LAUNCHED;
    if ((state & at.LAUNCHED) !== 0) continue;
    s[at.VX] = velocity.x;
    s[at.VY] = velocity.y;
    ownLive(fast);
    fast.live[fast.slots.vx] = velocity.x;
    fast.live[fast.slots.vy] = velocity.y;
    note(fast.log, 'vx', -1, 'launch', i, -1, true, velocity.x);
    note(fast.log, 'vy', -1, 'launch', i, -1, true, velocity.y);
  }
}
