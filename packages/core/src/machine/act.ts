import { evaluate, type FactName, visit } from '../notation/index.js';
import type { Choice } from './decide.js';
import { decide } from './decide.js';
import { type Channel, chainOf, type Crossing, type Effect, type Machine } from './definition.js';
import { slotOf } from './facts.js';
import { senseOwn } from './sense.js';
import { addAnchor, catchOf } from './tether.js';
import type { World } from '../world/index.js';
import { leafFrom, MOST_DROPPED, NEVER, type Situation } from './situation.js';

/** One write to a channel, in the order they happened. `value` is what the channel held afterwards. */
export interface Write {
  channel: Channel;
  lane: number;
  /** Who wrote, for people: `Trot → Rise do`, `Slide drive`. */
  author: string;
  /** True when the write replaces what was there, false when it builds on it. */
  replaces: boolean;
  value: number;
}

export interface Taken {
  lane: number;
  crossing: Crossing;
  from: number;
  to: number;
}

export const MAX_PASSING = 8;

/**
 * Step 5 of a tick: lane by lane exits (inner to outer), the crossing's `do`, entries (outer to inner); then `each` of
 * all active states. Effects see the tick's senses, and variables and velocity as written so far. `live` begins as
 * a copy of the tick's facts and ends as what the motion rules see.
 */
export function act(
  machine: Machine,
  world: World,
  s: Situation,
  facts: Float64Array,
  live: Float64Array,
  choices: readonly Choice[][],
): { taken: Taken[]; writes: Write[] } {
  const taken: Taken[] = [];
  const writes: Write[] = [];
  const spentPresses = new Set<string>();
  choices.forEach((list, lane) => {
    let chosen = list.find((c) => c.verdict === 'taken');
    for (let i = 0; chosen !== undefined && i < MAX_PASSING; i++) {
      const from = s.leaves[lane]!;
      cross(machine, world, s, live, chosen.crossing, writes);
      taken.push({ lane, crossing: chosen.crossing, from, to: s.leaves[lane]! });
      pressesOf(chosen.crossing, live, machine).forEach((control) => spentPresses.add(control));
      const passing = machine.states[s.leaves[lane]!]!.passing;
      chosen = passing
        ? decide(machine, s.leaves[lane]!, facts, s.last).find((c) => c.verdict === 'taken')
        : undefined;
    }
  });
  for (const leaf of s.leaves) {
    for (const index of chainOf(machine, leaf).reverse()) {
      const state = machine.states[index]!;
      for (const effect of state.each)
        perform(machine, world, s, live, effect, state.lane, `${state.name} each`, writes);
    }
  }
  machine.memories.forEach((memory, i) => {
    if (memory.presses.some((control) => spentPresses.has(control)))
      s.memories[i] = memory.mode === 'within' ? NEVER : 0;
  });
  senseOwn(machine, s, live);
  return { taken, writes };
}

/** Before the first tick decides, the initial states and their groups are entered, outer to inner. */
export function enterInitial(machine: Machine, world: World, s: Situation, facts: Float64Array): void {
  for (const leaf of s.leaves) {
    for (const index of chainOf(machine, leaf).reverse()) {
      const state = machine.states[index]!;
      for (const effect of state.enter)
        perform(machine, world, s, facts, effect, state.lane, `${state.name} enter`, []);
    }
  }
  s.elapsed.fill(-1);
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

function cross(
  machine: Machine,
  world: World,
  s: Situation,
  live: Float64Array,
  crossing: Crossing,
  writes: Write[],
): void {
  const leaf = s.leaves[crossing.lane]!;
  const target = leafFrom(machine, crossing.to, s.last);
  const leaving = chainOf(machine, leaf);
  const { left, entered } = wayBetween(machine, leaf, crossing, target);
  const name = (index: number): string => machine.states[index]!.name;
  const run = (effects: readonly Effect[], author: string): void => {
    for (const effect of effects) perform(machine, world, s, live, effect, crossing.lane, author, writes);
  };
  for (const state of left) {
    run(machine.states[state]!.exit, `${name(state)} exit`);
    startRecharging(machine, s, state);
  }
  for (const state of leaving) s.last[state] = leaf;
  // What the crossing does counts as done by the state it leads to: a charge spent here is that state's.
  s.leaves[crossing.lane] = target;
  run(crossing.do, `${name(leaf)} → ${name(target)} do`);
  for (const state of entered) {
    s.elapsed[state] = 0;
    run(machine.states[state]!.enter, `${name(state)} enter`);
  }
  const { stance } = machine.states[target]!;
  if (stance >= 0 && stance !== s.wanted && !isYielded(machine, writes, crossing.lane, 'stance')) {
    s.wanted = stance;
    writes.push({
      channel: 'stance',
      lane: crossing.lane,
      author: `${name(target)} stance`,
      replaces: true,
      value: stance,
    });
  }
}

/** A lane that yields a channel does not write it once another lane has; a later one simply writes over it. */
const isYielded = (machine: Machine, writes: readonly Write[], lane: number, channel: Channel): boolean =>
  machine.lanes[lane]!.yields.includes(channel) &&
  writes.some((w) => w.channel === channel && w.lane !== lane);

/** Cooldowns with `from: exit` begin to recharge when the state that spent them is left. */
function startRecharging(machine: Machine, s: Situation, state: number): void {
  machine.cooldowns.forEach((cooldown, i) => {
    const c = s.cooldowns[i]!;
    if (cooldown.from !== 'exit' || c.spentIn !== state) return;
    c.spentIn = -1;
    if (c.clock === 0 && c.charges < cooldown.charges) c.clock = cooldown.ticks;
  });
}

function perform(
  machine: Machine,
  world: World,
  s: Situation,
  live: Float64Array,
  effect: Effect,
  lane: number,
  author: string,
  writes: Write[],
): void {
  const set = (fact: FactName, value: number, of?: string): void => {
    live[slotOf(machine.facts, fact, of)] = value;
  };
  switch (effect.kind) {
    case 'velocity': {
      if (isYielded(machine, writes, lane, effect.channel)) return;
      const value = combine(effect.op, s.body[effect.channel], evaluate(effect.value, live));
      s.body = { ...s.body, [effect.channel]: value };
      set(effect.channel, value);
      writes.push({ channel: effect.channel, lane, author, replaces: effect.op === ':=', value });
      return;
    }
    case 'variable': {
      const variable = machine.variables[effect.variable]!;
      const value = combine(effect.op, s.variables[effect.variable]!, evaluate(effect.value, live));
      s.variables[effect.variable] =
        variable.kind === 'count' ? Math.max(0, Math.min(variable.max, Math.floor(value))) : value;
      set('variable', s.variables[effect.variable]!, variable.name);
      return;
    }
    case 'spend':
    case 'refill':
      if (effect.what === 'count') {
        const { name, max } = machine.variables[effect.index]!;
        s.variables[effect.index] =
          effect.kind === 'refill' ? max : Math.max(0, s.variables[effect.index]! - 1);
        set('variable', s.variables[effect.index]!, name);
      } else spendCharge(machine, s, effect.kind, effect.index, s.leaves[lane]!);
      return;
    case 'start': {
      const { ticks, again } = machine.timers[effect.timer]!;
      const left = s.timers[effect.timer]!;
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
      if (to === 0 || to === s.facing || isYielded(machine, writes, lane, 'facing')) return;
      s.facing = to < 0 ? -1 : 1;
      set('facing', s.facing);
      writes.push({ channel: 'facing', lane, author, replaces: true, value: s.facing });
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
      const anchor = catchOf(machine, world, s, machine.tethers[effect.tether]!, live);
      if (anchor !== undefined) addAnchor(machine, s, effect.tether, anchor);
      return;
    }
    case 'release':
      s.anchors[effect.tether] = [];
      return;
    case 'drop':
      s.dropped = [...new Set(s.footing.contacts.map((c) => c.solid))]
        .filter((solid) => world.course.solids[solid]!.oneWay)
        .slice(0, MOST_DROPPED);
  }
}

function spendCharge(
  machine: Machine,
  s: Situation,
  kind: 'spend' | 'refill',
  index: number,
  state: number,
): void {
  const cooldown = machine.cooldowns[index]!;
  const c = s.cooldowns[index]!;
  if (kind === 'refill') {
    c.charges = cooldown.charges;
    c.clock = 0;
    return;
  }
  c.charges = Math.max(0, c.charges - 1);
  if (cooldown.from === 'exit') c.spentIn = state;
  else if (c.clock === 0) c.clock = cooldown.ticks;
}

const combine = (op: ':=' | '+=' | '-=', old: number, value: number): number =>
  op === ':=' ? value : op === '+=' ? old + value : old - value;

/** The controls whose press, now or remembered, helped to open a crossing. */
function pressesOf(crossing: Crossing, facts: Float64Array, machine: Machine): string[] {
  const presses: string[] = [];
  if (crossing.when === undefined) return presses;
  visit(crossing.when, (e) => {
    if (e.kind === 'memory' && facts[e.slot] !== 0)
      presses.push(...(machine.memories.find((m) => m.slot === e.slot)?.presses ?? []));
    if (e.kind === 'fact' && e.ref.fact === 'pressed' && facts[e.slot] !== 0) presses.push(e.ref.of!);
  });
  return presses;
}
