import { bounded } from '../../tolerances.js';
import { contactsAt } from '../../world/index.js';
import { MAX_PASSING, putWritten } from '../reference/act.js';
import type { AuthorKind } from '../definition/author.js';
import { NEVER } from '../reference/memories.js';
import { MAX_DROPPED, wantedStance } from '../reference/situation.js';
import { putCatch } from '../reference/tether.js';
import { leafOf } from './decide.js';
import type { Exit, Fast, FastEffect, Yieldable } from './fast.js';
import * as at from './layout.js';
import { clearLog, isWrittenByAnother, note, withdraw } from './log.js';
import { middleOfStance } from './senses.js';

/** Step 5, as `act` of the reference: exits, `do`, entries, then `each`; what is chosen is in `fast.chosen`. */
export function act(fast: Fast, s: Float64Array): void {
  const { layout, machine, states, facts, spent } = fast;
  forgetYielded(fast);
  let anySpent = false;
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    let chosen = fast.chosen[lane]!;
    if (chosen < 0) continue;
    const elapsed = fast.slots.elapsed[lane]!;
    const before = facts[elapsed]!;
    for (let i = 0; chosen >= 0 && i < MAX_PASSING; i++) {
      const from = s[layout.leaves + lane]!;
      const exit = fast.exits[from]![chosen]!;
      cross(fast, s, lane, exit);
      const to = s[layout.leaves + lane]!;
      noteTaken(fast, lane, exit.crossing.index, from, to);
      if (exit.spend !== undefined) {
        exit.spend(facts, spent);
        anySpent = true;
      }
      chosen = -1;
      if (!machine.states[to]!.passing) continue;
      // What a passing state sees: the facts of this tick, and that the lane has been there for no time.
      ownLive(fast);
      facts[elapsed] = 0;
      chosen = fast.code.first(s, facts, to);
    }
    facts[elapsed] = before;
  }
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const { inward } = states[fast.leaves[lane]!]!;
    for (let i = 0; i < inward.length; i++) {
      const { each } = states[inward[i]!]!;
      if (each.length > 0) run(fast, s, each, lane, 'each', inward[i]!, -1);
    }
  }
  // What the active states ask for is as before while they are the same.
  const wanted = fast.takenCount === 0 ? -1 : wantedStance(machine, fast.leaves);
  if (wanted >= 0) s[at.WANTED] = wanted;
  if (anySpent) forgetPresses(fast, s);
  if (fast.takenCount > 0 || fast.acted) {
    ownLive(fast);
    fast.code.own(s, fast.live, s[at.TICK]!);
  }
}

/** Before the first tick decides, the initial states and their groups are entered, outer to inner. */
export function enterInitial(fast: Fast, s: Float64Array): void {
  const { layout, machine, states, facts } = fast;
  fast.code.own(s, facts, 0);
  forgetYielded(fast);
  for (let i = 0; i < fast.raised.length; i++) fast.raised[i] = 0;
  for (let lane = 0; lane < machine.lanes.length; lane++) {
    const { inward } = states[s[layout.leaves + lane]!]!;
    for (let i = 0; i < inward.length; i++) {
      run(fast, s, states[inward[i]!]!.enter, lane, 'enter', inward[i]!, -1);
      // Here effects write to the very facts that are decided on.
      if (fast.live !== facts) facts.set(fast.live);
    }
  }
  clearLog(fast.log);
  fast.live = facts;
  for (let i = 0; i < fast.raised.length; i++) {
    s[layout.events + i] = fast.raised[i]!;
    facts[fast.slots.events[i]!] = fast.raised[i]!;
  }
}

function noteTaken(fast: Fast, lane: number, crossing: number, from: number, to: number): void {
  const { taken } = fast;
  const i = fast.takenCount++ * 4;
  taken[i] = lane;
  taken[i + 1] = crossing;
  taken[i + 2] = from;
  taken[i + 3] = to;
}

/** From here on effects and motion see a copy of the facts, so that lanes go on deciding on the facts themselves. */
export function ownLive(fast: Fast): void {
  if (fast.live !== fast.facts) return;
  fast.live = fast.senses.copy;
  fast.live.set(fast.facts);
}

function cross(fast: Fast, s: Float64Array, lane: number, exit: Exit): void {
  const { layout, states } = fast;
  const { crossing } = exit;
  const leaf = s[layout.leaves + lane]!;
  const target = leafOf(fast, s, crossing.to);
  const leaving = states[leaf]!.inward;
  const entering = states[target]!.inward;
  // What contains both stays active, from the outside in, but neither the leaf nor the crossing's target.
  let common = 0;
  while (
    common < leaving.length &&
    leaving[common] === entering[common] &&
    leaving[common] !== leaf &&
    leaving[common] !== crossing.to
  )
    common++;
  for (let i = leaving.length - 1; i >= common; i--)
    run(fast, s, states[leaving[i]!]!.exit, lane, 'exit', leaving[i]!, -1);
  for (let i = leaving.length - 1; i >= common; i--) startRecharging(fast, s, leaving[i]!);
  for (let i = 0; i < leaving.length; i++) s[layout.last + leaving[i]!] = leaf;
  s[layout.leaves + lane] = target;
  fast.leaves[lane] = target;
  run(fast, s, exit.effects, lane, 'do', leaf, target);
  for (let i = common; i < entering.length; i++) {
    s[layout.entered + entering[i]!] = s[at.TICK]!;
    run(fast, s, states[entering[i]!]!.enter, lane, 'enter', entering[i]!, -1);
  }
  const { stance } = fast.machine.states[target]!;
  if (stance < 0 || isYielded(fast, lane, 'stance')) return;
  begin(fast, s, lane, 'stance');
  end(fast, s, lane, 'stance');
  note(fast.log, 'stance', lane, 'stance', target, -1, true, stance);
}

/** Whether a lane leaves a channel to another that has written it. */
const isYielded = (fast: Fast, lane: number, channel: Yieldable): boolean =>
  fast.yields[lane]![channel] && isWrittenByAnother(fast.log, channel, lane);

function forgetYielded({ yielded, anyYields }: Fast): void {
  if (!anyYields) return;
  yielded.vx.lane = -1;
  yielded.vy.lane = -1;
  yielded.facing.lane = -1;
  yielded.stance.lane = -1;
}

/** Before a channel is written: takes back what a yielding lane wrote to it, and keeps what is there for doing so later. */
function begin(fast: Fast, s: Float64Array, lane: number, channel: Yieldable): void {
  if (!fast.anyYields) return;
  const earlier = fast.yielded[channel];
  if (earlier.lane >= 0 && earlier.lane !== lane) takeBack(fast, s, channel);
  if (!fast.yields[lane]![channel] || earlier.lane === lane) return;
  earlier.beforeX = s[at.VX]!;
  earlier.beforeY = s[at.VY]!;
  earlier.facing = s[at.FACING]!;
}

/** After a channel was written: keeps what a yielding lane wrote. */
function end(fast: Fast, s: Float64Array, lane: number, channel: Yieldable): void {
  if (!fast.anyYields || !fast.yields[lane]![channel]) return;
  const own = fast.yielded[channel];
  own.lane = lane;
  own.afterX = s[at.VX]!;
  own.afterY = s[at.VY]!;
}

/** As `takeBack` of the reference. */
export function takeBack(fast: Fast, s: Float64Array, channel: Yieldable): void {
  const own = fast.yielded[channel];
  const { lane } = own;
  own.lane = -1;
  const [x, y] = [s[at.VX]!, s[at.VY]!];
  if (channel === 'facing') s[at.FACING] = own.facing;
  if (channel === 'vx' || (channel === 'vy' && x === own.afterX)) s[at.VX] = own.beforeX;
  // As in the reference, the other part is looked at after this one has been put back.
  if (channel === 'vy' || (channel === 'vx' && y === own.afterY)) s[at.VY] = own.beforeY;
  if (channel !== 'stance') {
    ownLive(fast);
    fast.live[fast.slots.vx] = s[at.VX]!;
    fast.live[fast.slots.vy] = s[at.VY]!;
    fast.live[fast.slots.facing] = s[at.FACING]!;
  }
  withdraw(fast.log, channel, lane);
}

/** Cooldowns with `from: exit` begin to recharge when the state that spent them is left. */
function startRecharging(fast: Fast, s: Float64Array, state: number): void {
  const { cooldowns } = fast.machine;
  const { charges, clocks, spentIn } = fast.layout;
  for (let i = 0; i < cooldowns.length; i++) {
    if (cooldowns[i]!.from !== 'exit' || s[spentIn + i] !== state) continue;
    s[spentIn + i] = -1;
    if (s[clocks + i] === 0 && s[charges + i]! < cooldowns[i]!.charges) s[clocks + i] = cooldowns[i]!.ticks;
  }
}

/** A press that opened a crossing is no longer remembered by any other. */
function forgetPresses(fast: Fast, s: Float64Array): void {
  const { presses, spent, layout } = fast;
  for (let i = 0; i < presses.length; i++) {
    const controls = presses[i]!;
    for (let k = 0; k < controls.length; k++) if (spent[controls[k]!] === 1) s[layout.memories + i] = NEVER;
  }
  spent.fill(0);
}

function run(
  fast: Fast,
  s: Float64Array,
  effects: readonly FastEffect[],
  lane: number,
  kind: AuthorKind,
  who: number,
  to: number,
): void {
  for (let i = 0; i < effects.length; i++) perform(fast, s, effects[i]!, lane, kind, who, to);
}

const hold = { x: 0, y: 0, mover: -1 };
const underfoot = { nx: 0, ny: 0 };

function perform(
  fast: Fast,
  s: Float64Array,
  { effect, value, slot }: FastEffect,
  lane: number,
  kind: AuthorKind,
  who: number,
  to: number,
): void {
  const { layout, machine } = fast;
  if (effect.kind === 'face') {
    face(fast, s, effect.way, effect.slot, lane, kind, who, to);
    return;
  }
  fast.acted = true;
  switch (effect.kind) {
    case 'velocity': {
      const { channel, op } = effect;
      if (isYielded(fast, lane, channel)) return;
      begin(fast, s, lane, channel);
      const { body } = fast;
      body.vx = s[at.VX]!;
      body.vy = s[at.VY]!;
      underfoot.nx = s[at.GROUND_NX]!;
      underfoot.ny = s[at.GROUND_NY]!;
      putWritten(body, channel, op, value!(fast.live), s[at.GROUND] === 0 ? undefined : underfoot);
      s[at.VX] = body.vx;
      s[at.VY] = body.vy;
      ownLive(fast);
      fast.live[fast.slots.vx] = body.vx;
      fast.live[fast.slots.vy] = body.vy;
      end(fast, s, lane, channel);
      note(fast.log, channel, lane, kind, who, to, op === ':=', body[channel]);
      return;
    }
    case 'variable': {
      const variable = machine.variables[effect.variable]!;
      const place = layout.variables + effect.variable;
      const next = combined(effect.op, s[place]!, value!(fast.live));
      s[place] =
        variable.kind === 'count' ? Math.max(0, Math.min(variable.max, Math.floor(next))) : bounded(next);
      ownLive(fast);
      fast.live[slot] = s[place];
      return;
    }
    case 'spend':
    case 'refill':
      if (effect.what === 'count') {
        const place = layout.variables + effect.index;
        s[place] =
          effect.kind === 'refill' ? machine.variables[effect.index]!.max : Math.max(0, s[place]! - 1);
        ownLive(fast);
        fast.live[slot] = s[place];
      } else spendCharge(fast, s, effect.kind, effect.index, s[layout.leaves + lane]!);
      return;
    case 'start': {
      const { ticks, again } = machine.timers[effect.timer]!;
      const place = layout.timers + effect.timer;
      const left = s[place]!;
      s[place] = left <= 0 || again === 'restart' ? ticks : again === 'extend' ? left + ticks : left;
      return;
    }
    case 'stop':
      s[layout.timers + effect.timer] = -1;
      return;
    case 'lock':
    case 'unlock':
      s[layout.unlocked + effect.ability] = effect.kind === 'unlock' ? 1 : 0;
      return;
    case 'raise':
      fast.raised[effect.event] = 1;
      return;
    case 'cast': {
      const tether = machine.tethers[effect.tether]!;
      hold.x = s[at.X]!;
      hold.y = s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
      if (putCatch(machine, fast.world, tether, fast.live, hold))
        addAnchor(s, layout.anchors[effect.tether]!, tether.most);
      return;
    }
    case 'release':
      release(s, layout.anchors[effect.tether]!);
      return;
    case 'drop':
      drop(fast, s);
  }
}

const combined = (op: ':=' | '+=' | '-=', old: number, value: number): number =>
  op === ':=' ? value : op === '+=' ? old + value : old - value;

function face(
  fast: Fast,
  s: Float64Array,
  way: 'left' | 'right' | 'turn' | 'away' | 'axis',
  slot: number,
  lane: number,
  kind: AuthorKind,
  who: number,
  target: number,
): void {
  let to: number;
  if (way === 'axis') to = Math.sign(fast.live[slot]!);
  else if (way === 'turn') to = -s[at.FACING]!;
  else if (way === 'away') to = -s[at.WALL]!;
  else to = way === 'left' ? -1 : 1;
  if (to === 0 || isYielded(fast, lane, 'facing')) return;
  begin(fast, s, lane, 'facing');
  if (to !== s[at.FACING]) {
    s[at.FACING] = to < 0 ? -1 : 1;
    fast.acted = true;
    ownLive(fast);
    fast.live[fast.slots.facing] = s[at.FACING];
  }
  end(fast, s, lane, 'facing');
  note(fast.log, 'facing', lane, kind, who, target, true, s[at.FACING]!);
}

function spendCharge(
  fast: Fast,
  s: Float64Array,
  kind: 'spend' | 'refill',
  index: number,
  state: number,
): void {
  const { charges, clocks, spentIn } = fast.layout;
  const cooldown = fast.machine.cooldowns[index]!;
  if (kind === 'refill') {
    s[charges + index] = cooldown.charges;
    s[clocks + index] = 0;
    return;
  }
  s[charges + index] = Math.max(0, s[charges + index]! - 1);
  if (cooldown.from === 'exit') s[spentIn + index] = state;
  else if (s[clocks + index] === 0) s[clocks + index] = cooldown.ticks;
}

/** Holds on to what was caught; beyond the most, the oldest lets go. The same place again changes nothing. */
function addAnchor(s: Float64Array, first: number, max: number): void {
  const count = s[first]!;
  for (let k = 0; k < count; k++)
    if (s[first + 1 + 3 * k] === hold.x && s[first + 2 + 3 * k] === hold.y) return;
  s[first + 1 + 3 * count] = hold.x;
  s[first + 2 + 3 * count] = hold.y;
  s[first + 3 + 3 * count] = hold.mover;
  if (count < max) s[first] = count + 1;
  else {
    s.copyWithin(first + 1, first + 4, first + 4 + 3 * count);
    s.fill(0, first + 1 + 3 * count, first + 4 + 3 * count);
  }
}

function release(s: Float64Array, first: number): void {
  s.fill(0, first, first + 1 + 3 * s[first]!);
}

/** Begins to drop through the one-way platforms that are touched. */
function drop(fast: Fast, s: Float64Array): void {
  const { world, layout } = fast;
  const { count, solid } = contactsAt(world, s[at.STANCE]!, s[at.X]!, s[at.Y]!);
  let n = 0;
  for (let i = 0; i < count && n < MAX_DROPPED; i++) {
    if (!world.course.solids[solid[i]!]!.oneWay || isDropped(s, layout.dropped, n, solid[i]!)) continue;
    s[layout.dropped + 1 + n++] = solid[i]!;
  }
  if (n < s[layout.dropped]!) s.fill(0, layout.dropped + 1 + n, layout.dropped + 1 + s[layout.dropped]!);
  s[layout.dropped] = n;
}

function isDropped(s: Float64Array, dropped: number, count: number, solid: number): boolean {
  for (let i = 0; i < count; i++) if (s[dropped + 1 + i] === solid) return true;
  return false;
}
