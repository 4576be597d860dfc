import { present } from '../../present.js';
import { bounded, LEAVING } from '../../tolerances.js';
import { evaluate, type FactName } from '../../notation/index.js';
import type { World } from '../../world/index.js';
import type { Author, Write } from '../definition/author.js';
import { type Choice, decide } from './decide.js';
import { type Channel, chainOf, type Crossing, type Effect, type Machine } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import { NEVER } from './memories.js';
import { pressesUsed } from '../definition/presses.js';
import { senseOwn } from './sense.js';
import { leafFrom, MAX_DROPPED, type Situation, wantedStance } from './situation.js';
import { addAnchor, catchOf } from './tether.js';

export interface Taken {
  lane: number;
  crossing: Crossing;
  from: number;
  to: number;
}

export const MAX_PASSING = 8;

/** What the effects of one tick work on. */
export interface Acting {
  machine: Machine;
  world: World;
  s: Situation;
  /** Begins as a copy of the tick's facts and ends as what the motion rules see. */
  live: Float64Array;
  writes: Write[];
  /** What a yielding lane has written to a channel and must take back when another lane writes it, too. */
  yielded: Partial<Record<Channel, Yielded | undefined>>;
}

interface Yielded {
  lane: number;
  /** What was there before; and what was written, to see whether it is still there. */
  before: Held;
  after: Held;
}

type Held = Pick<Situation, 'facing'> & { vx: number; vy: number };

const heldBy = (s: Situation): Held => ({ vx: s.body.vx, vy: s.body.vy, facing: s.facing });

/**
 * Step 5 of a tick: lane by lane exits (inner to outer), the crossing's `do`, entries (outer to inner); then `each` of
 * all active states. Effects see the tick's senses, and variables and velocity as written so far.
 */
export function act(acting: Acting, facts: Float64Array, choices: readonly Choice[][]): Taken[] {
  const { machine, s, live } = acting;
  const taken: Taken[] = [];
  const spent = new Set<string>();
  choices.forEach((list, lane) => {
    let chosen = list.find((c) => c.verdict === 'taken');
    let seen = facts;
    for (let i = 0; chosen !== undefined && i < MAX_PASSING; i++) {
      const from = present(s.leaves[lane]);
      const { crossing } = chosen;
      cross(acting, crossing);
      taken.push({ lane, crossing, from, to: present(s.leaves[lane]) });
      if (crossing.when !== undefined) for (const c of pressesUsed(crossing.when, seen)) spent.add(c);
      seen = justEntered(machine, lane, facts);
      const passing = present(machine.states[present(s.leaves[lane])]).passing;
      chosen = passing
        ? decide(machine, present(s.leaves[lane]), seen, s.last).find((c) => c.verdict === 'taken')
        : undefined;
    }
  });
  s.leaves.forEach((leaf, lane) => {
    for (const state of chainOf(machine, leaf).reverse())
      run(acting, present(machine.states[state]).each, { kind: 'each', lane, state, to: -1 });
  });
  const wanted = wantedStance(machine, s.leaves);
  if (wanted >= 0) s.wanted = wanted;
  // All lanes and passing states of this tick saw the press; from the next tick on nothing remembers it.
  machine.memories.forEach((memory, i) => {
    if (memory.presses.some((control) => spent.has(control))) s.memories[i] = NEVER;
  });
  senseOwn(machine, s, live);
  return taken;
}

/** The facts of a tick for a passing state that was entered in it: the lane has been there for no time. */
function justEntered(machine: Machine, lane: number, facts: Float64Array): Float64Array {
  const seen = facts.slice();
  seen[slotOf(machine.facts, 'laneElapsed', present(machine.lanes[lane]).name)] = 0;
  return seen;
}

/** Before the first tick decides, the initial states and their groups are entered, outer to inner. */
export function enterInitial(machine: Machine, world: World, s: Situation, facts: Float64Array): void {
  const acting: Acting = { machine, world, s, live: facts, writes: [], yielded: {} };
  s.leaves.forEach((leaf, lane) => {
    for (const state of chainOf(machine, leaf).reverse())
      run(acting, present(machine.states[state]).enter, { kind: 'enter', lane, state, to: -1 });
  });
  s.elapsed.fill(0);
  // There is no tick before in which they could have been raised: the first tick sees them.
  s.events = s.raised;
  s.raised = machine.events.map(() => false);
  machine.events.forEach((event, i) => (facts[slotOf(machine.facts, 'event', event)] = Number(s.events[i])));
  senseOwn(machine, s, facts);
}

/**
 * What a crossing leaves (inner to outer) and enters (outer to inner) between two leaves. What contains both stays
 * active, from the outside in, but neither the leaf nor the crossing's target: a crossing to where it comes from
 * leaves and enters again.
 */
export function wayBetween(
  machine: Machine,
  leaf: number,
  crossing: Crossing,
  target: number,
): { left: number[]; entered: number[] } {
  const leaving = chainOf(machine, leaf);
  const entering = chainOf(machine, target);
  let common = 0;
  const stays = (state: number | undefined): boolean =>
    state !== undefined &&
    state === entering[entering.length - 1 - common] &&
    state !== leaf &&
    state !== crossing.to;
  while (stays(leaving[leaving.length - 1 - common])) common++;
  return {
    left: leaving.slice(0, leaving.length - common),
    entered: entering.slice(0, entering.length - common).reverse(),
  };
}

/** The effects of a crossing between two leaves, in order, each with who performs it. */
export function effectsBetween(
  machine: Machine,
  leaf: number,
  crossing: Crossing,
  target: number,
): { effect: Effect; author: Author }[] {
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  const { lane } = crossing;
  const by = (effects: readonly Effect[], author: Omit<Author, 'lane'>) =>
    effects.map((effect) => ({ effect, author: { lane, ...author } }));
  return [
    ...left.flatMap((state) => by(present(machine.states[state]).exit, { kind: 'exit', state, to: -1 })),
    ...by(crossing.do, { kind: 'do', state: leaf, to: target }),
    ...entered.flatMap((state) => by(present(machine.states[state]).enter, { kind: 'enter', state, to: -1 })),
  ];
}

function cross(acting: Acting, crossing: Crossing): void {
  const { machine, s } = acting;
  const { lane } = crossing;
  const leaf = present(s.leaves[lane]);
  const target = leafFrom(machine, crossing.to, { last: s.last, leaf });
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  for (const state of left)
    run(acting, present(machine.states[state]).exit, { kind: 'exit', lane, state, to: -1 });
  // What is spent on the way out is still the left state's: its recharging begins when all of it is over.
  for (const state of left) startRecharging(machine, s, state);
  for (const state of chainOf(machine, leaf)) s.last[state] = leaf;
  // What the crossing does counts as done by the state it leads to: a charge spent here is that state's.
  s.leaves[lane] = target;
  run(acting, crossing.do, { kind: 'do', lane, state: leaf, to: target });
  for (const state of entered) {
    s.elapsed[state] = 0;
    run(acting, present(machine.states[state]).enter, { kind: 'enter', lane, state, to: -1 });
  }
  const { stance } = present(machine.states[target]);
  if (stance >= 0)
    write(acting, 'stance', { kind: 'stance', lane, state: target, to: -1 }, true, () => stance);
}

const run = (acting: Acting, effects: readonly Effect[], author: Author): void => {
  for (const effect of effects) perform(acting, effect, author);
};

/**
 * Writes a channel and records who did. A lane that yields the channel does not write it once another lane has, and
 * takes back what it wrote when another lane writes it later in the tick; else a later write simply goes over it.
 */
function write(
  acting: Acting,
  channel: Channel,
  author: Author,
  replaces: boolean,
  change: () => number,
): void {
  const { machine, s, writes, yielded } = acting;
  const yields = present(machine.lanes[author.lane]).yields.includes(channel);
  const isAnothers = writes.some(
    (w) => w.channel === channel && w.author.lane !== author.lane && w.author.lane >= 0,
  );
  if (isAnothers && yields) return;
  const earlier = yielded[channel];
  if (earlier !== undefined && earlier.lane !== author.lane) takeBack(acting, channel);
  const before = yielded[channel]?.before ?? heldBy(s);
  const value = change();
  if (yields) yielded[channel] = { lane: author.lane, before, after: heldBy(s) };
  writes.push({ channel, author, replaces, value });
}

/** Undoes what a yielding lane wrote to a channel, as far as nothing else has written over it since. */
export function takeBack(acting: Acting, channel: Channel): void {
  const { machine, s, live, yielded } = acting;
  const { lane, before, after } = present(yielded[channel]);
  yielded[channel] = undefined;
  if (channel === 'facing') s.facing = before.facing;
  // On a slope a speed along the ground has a part upward.
  if (channel === 'vx' || (channel === 'vy' && s.body.vx === after.vx)) s.body = { ...s.body, vx: before.vx };
  if (channel === 'vy' || (channel === 'vx' && s.body.vy === after.vy)) s.body = { ...s.body, vy: before.vy };
  live[slotOf(machine.facts, 'vx')] = s.body.vx;
  live[slotOf(machine.facts, 'vy')] = s.body.vy;
  live[slotOf(machine.facts, 'facing')] = s.facing;
  const kept = acting.writes.filter((w) => w.channel !== channel || w.author.lane !== lane);
  acting.writes.splice(0, acting.writes.length, ...kept);
}

/** Cooldowns with `from: exit` begin to recharge when the state that spent them is left. */
function startRecharging(machine: Machine, s: Situation, state: number): void {
  machine.cooldowns.forEach((cooldown, i) => {
    const c = present(s.cooldowns[i]);
    if (cooldown.from !== 'exit' || c.spentIn !== state) return;
    c.spentIn = -1;
    if (c.clock === 0 && c.charges < cooldown.charges) c.clock = cooldown.ticks;
  });
}

/**
 * A velocity after an effect has written one part of it. A body that stands on walkable ground keeps to it: what is
 * written to vx is a speed along the ground, and only a vy that is upward, and more than the ground rises, leaves it.
 */
export function putWritten(
  body: { vx: number; vy: number },
  channel: 'vx' | 'vy',
  op: ':=' | '+=' | '-=',
  value: number,
  ground: { nx: number; ny: number } | undefined,
): void {
  const stands = ground !== undefined && body.vx * ground.nx + body.vy * ground.ny <= LEAVING;
  if (!stands) {
    body[channel] = bounded(combined(op, body[channel], value));
    return;
  }
  const { nx, ny } = ground;
  let along = body.vx * ny - body.vy * nx;
  if (channel === 'vx') along = bounded(combined(op, along, value));
  else {
    const vy = bounded(combined(op, body.vy, value));
    if (vy > Math.max(body.vy, 0) + LEAVING) {
      body.vy = vy;
      return;
    }
    along = body.vx * ny - vy * nx;
  }
  body.vx = along * ny;
  body.vy = 0 - along * nx;
}

function perform(acting: Acting, effect: Effect, author: Author): void {
  const { machine, world, s, live } = acting;
  const set = (fact: FactName, value: number, of?: string): void => {
    live[slotOf(machine.facts, fact, of)] = value;
  };
  switch (effect.kind) {
    case 'velocity': {
      const { channel, op } = effect;
      write(acting, channel, author, op === ':=', () => {
        s.body = { ...s.body };
        putWritten(s.body, channel, op, evaluate(effect.value, live), s.footing.ground);
        set('vx', s.body.vx);
        set('vy', s.body.vy);
        return s.body[channel];
      });
      return;
    }
    case 'variable': {
      const { name, kind, max } = present(machine.variables[effect.variable]);
      const value = combined(effect.op, present(s.variables[effect.variable]), evaluate(effect.value, live));
      s.variables[effect.variable] =
        kind === 'count' ? Math.max(0, Math.min(max, Math.floor(value))) : bounded(value);
      set('variable', present(s.variables[effect.variable]), name);
      return;
    }
    case 'spend':
    case 'refill':
      if (effect.what === 'count') {
        const { name, max } = present(machine.variables[effect.index]);
        s.variables[effect.index] =
          effect.kind === 'refill' ? max : Math.max(0, present(s.variables[effect.index]) - 1);
        set('variable', present(s.variables[effect.index]), name);
      } else spendCharge(acting, effect.kind, effect.index, present(s.leaves[author.lane]));
      return;
    case 'start': {
      const { ticks, again } = present(machine.timers[effect.timer]);
      const left = present(s.timers[effect.timer]);
      s.timers[effect.timer] =
        left <= 0 || again === 'restart' ? ticks : again === 'extend' ? left + ticks : left;
      return;
    }
    case 'stop':
      s.timers[effect.timer] = -1;
      return;
    case 'face': {
      const to = {
        left: -1,
        right: 1,
        turn: -s.facing,
        away: -s.footing.wall,
        axis: Math.sign(live[effect.slot] ?? 0),
      }[effect.way];
      if (to === 0) return;
      write(acting, 'facing', author, true, () => {
        s.facing = to < 0 ? -1 : 1;
        set('facing', s.facing);
        return s.facing;
      });
      return;
    }
    case 'lock':
    case 'unlock':
      s.unlocked[effect.ability] = effect.kind === 'unlock';
      return;
    case 'raise':
      s.raised[effect.event] = true;
      return;
    case 'cast': {
      const anchor = catchOf(machine, world, s, present(machine.tethers[effect.tether]), live);
      if (anchor !== undefined) addAnchor(machine, s, effect.tether, anchor);
      return;
    }
    case 'release':
      s.anchors[effect.tether] = [];
      return;
    case 'drop':
      s.dropped = [...new Set(s.footing.contacts.map((c) => c.solid))]
        .filter((solid) => present(world.course.solids[solid]).oneWay)
        .slice(0, MAX_DROPPED);
  }
}

function spendCharge({ machine, s }: Acting, kind: 'spend' | 'refill', index: number, state: number): void {
  const cooldown = present(machine.cooldowns[index]);
  const c = present(s.cooldowns[index]);
  if (kind === 'refill') {
    c.charges = cooldown.charges;
    c.clock = 0;
    return;
  }
  c.charges = Math.max(0, c.charges - 1);
  if (cooldown.from === 'exit') c.spentIn = state;
  else if (c.clock === 0) c.clock = cooldown.ticks;
}

const combined = (op: ':=' | '+=' | '-=', old: number, value: number): number =>
  op === ':=' ? value : op === '+=' ? old + value : old - value;
