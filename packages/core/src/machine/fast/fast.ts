import type { Expression } from '../../notation/index.js';
import type { Moving, World } from '../../world/index.js';
import {
  type Channel,
  chainOf,
  type Crossing,
  type Effect,
  type Machine,
  type Motion,
} from '../definition/machine.js';
import { exitsOf } from '../reference/decide.js';
import { slotOf } from '../definition/facts.js';
import { leafFrom } from '../reference/situation.js';
import { takeBack } from './act.js';
import { leafOf } from './decide.js';
import { generate, type Generated, isResumed } from './generate.js';
import { type Layout, layoutOf } from './layout.js';
import { createLog, type Log } from './log.js';
import { createSenses, type Senses } from './senses.js';

/**
 * A machine and a world lowered for running many ticks: what is asked in every tick is generated as code, what each
 * state considers is sorted beforehand, facts are worked out only where something reads them, and a situation is one
 * buffer of numbers. It does what the reference (`tick`) does, to the last bit; a differential test holds it to that.
 */
export interface Fast {
  machine: Machine;
  world: World;
  layout: Layout;
  senses: Senses;
  allFacts: boolean;
  code: Generated;
  /** The facts that the lanes decide on, by slot; only those that something reads are filled. */
  facts: Float64Array;
  /** What effects and motion rules see: the facts themselves until an effect writes one, then a copy. */
  live: Float64Array;
  /** For each leaf, the crossings that leave it, in the order they are considered. */
  exits: Exit[][];
  states: FastState[];
  /** The active state of each lane in this tick, as the situation has it. */
  leaves: Int32Array;
  /** For each lane the channels that it leaves to others. */
  yields: Record<Channel, boolean>[];
  anyYields: boolean;
  /** For each memory the controls whose press it remembers for a crossing. */
  presses: number[][];
  log: Log;
  /** Crossings taken in the last tick: lane, crossing, from and to of each, one after the other. */
  taken: number[];
  takenCount: number;
  /** Ties of the last tick: lane and crossing of each open one, one after the other. */
  tied: number[];
  tiedCount: number;
  raised: Uint8Array;
  /** Controls whose press was spent in this tick. */
  spent: Uint8Array;
  /** For each lane the exit it takes in this tick, by its place among those of the leaf; −1 none. */
  chosen: Int32Array;
  /** The body while it is worked on. */
  body: Moving;
  inside: number[];
  /** Where the movers were before they moved in this tick. */
  before: Float64Array;
  /** Whether an effect has changed something in this tick. */
  acted: boolean;
  /** The ability that each zone unlocks, −1 none. */
  unlocks: number[];
  /** What a yielding lane has written to a channel in this tick, to be taken back when another lane writes it. */
  yielded: Record<Yieldable, Yielded>;
  slots: { vx: number; vy: number; facing: number; elapsed: number[]; events: number[] };
}

/** Channels that a lane may have to take back. */
export type Yieldable = Exclude<Channel, 'gravity'>;

/** The lane, −1 for none; what was there before it wrote, and what it wrote. */
export interface Yielded {
  lane: number;
  beforeX: number;
  beforeY: number;
  facing: number;
  afterX: number;
  afterY: number;
}

const noneYielded = (): Yielded => ({ lane: -1, beforeX: 0, beforeY: 0, facing: 0, afterX: 0, afterY: 0 });

/** A crossing as one leaf considers it. */
export interface Exit {
  crossing: Crossing;
  level: number;
  guard: (f: Float64Array) => boolean;
  /** The fact of the crossing's ability; −1 none. */
  unlocked: number;
  /** The leaf it leads to, where that is always the same. */
  target: FastState | undefined;
  effects: FastEffect[];
  /** Marks the controls whose press made the guard hold; undefined where it asks for none. */
  spend: ((f: Float64Array, spent: Uint8Array) => void) | undefined;
}

export interface FastState {
  /** Itself and its groups, outermost first. */
  inward: number[];
  /** Facts that must hold for entering it: its ability, room for its stance; −1 none. */
  unlocked: number;
  fits: number;
  enter: FastEffect[];
  exit: FastEffect[];
  each: FastEffect[];
  motion: Motion;
}

export interface FastEffect {
  effect: Effect;
  /** What a write writes. */
  value: ((f: Float64Array) => number) | undefined;
  /** The fact that a write changes; −1 none. */
  slot: number;
}

export interface FastOptions {
  /** Fill every fact in every tick, as the reference does; for recording. */
  allFacts?: boolean;
  /** Keep the writes of every tick; by default only when all facts are filled. */
  log?: boolean;
}

/**
 * Lowers a machine in a world, which must have been built for this machine.
 * @throws {EvalError} where a content security policy forbids making code from text
 */
export function lower(machine: Machine, world: World, options: FastOptions = {}): Fast {
  const layout = layoutOf(machine, world);
  const senses = createSenses(machine, world, layout, options.allFacts === true);
  const values: Expression[] = [];
  const written: FastEffect[] = [];
  const effectsOf = (effects: readonly Effect[]): FastEffect[] =>
    effects.map((effect) => {
      const lowered: FastEffect = { effect, value: undefined, slot: writtenSlot(machine, effect) };
      if (effect.kind === 'velocity' || effect.kind === 'variable') {
        values.push(effect.value);
        written.push(lowered);
      }
      return lowered;
    });
  const unlockedSlot = (ability: number): number =>
    ability < 0 ? -1 : slotOf(machine.facts, 'unlocked', machine.abilities[ability]!.name);
  const states = machine.states.map((state): FastState => {
    const refuses = state.stance >= 0 && state.ifBlocked === 'refuse';
    return {
      inward: chainOf(machine, state.index).reverse(),
      unlocked: unlockedSlot(state.ability),
      fits: refuses ? slotOf(machine.facts, 'fits', machine.stances[state.stance]!.name) : -1,
      enter: effectsOf(state.enter),
      exit: effectsOf(state.exit),
      each: effectsOf(state.each),
      motion: state.motion,
    };
  });
  const crossings = machine.lanes.map((lane) =>
    lane.crossings.map((crossing): Exit => ({
      crossing,
      level: 0,
      guard: () => true,
      unlocked: unlockedSlot(crossing.ability),
      target: isResumed(machine, crossing.to) ? undefined : states[leafFrom(machine, crossing.to)],
      effects: effectsOf(crossing.do),
      spend: undefined,
    })),
  );
  const exits = machine.states.map((state) =>
    state.members.length > 0
      ? []
      : exitsOf(machine, state.index).map(({ crossing, level }): Exit => ({
          ...crossings[state.lane]![crossing.index]!,
          level,
        })),
  );
  const all = exits.flat();
  const log = createLog(options.log ?? options.allFacts === true);
  const body = { x: 0, y: 0, vx: 0, vy: 0 };
  const yielded: Fast['yielded'] = {
    vx: noneYielded(),
    vy: noneYielded(),
    facing: noneYielded(),
    stance: noneYielded(),
  };
  const code = generate(machine, layout, senses, log, body, {
    exits,
    guards: all.map((exit) => exit.crossing.when),
    values,
    isOpen: (s, leaf, i) => isRoomy(fast, s, exits[leaf]![i]!),
    yielded,
    takeBack: (s, channel) => takeBack(fast, s, channel),
  });
  all.forEach((exit, i) => {
    exit.guard = code.guards[i]!;
    exit.spend = code.spends[i];
  });
  written.forEach((effect, i) => (effect.value = code.values[i]!));
  const { facts } = senses;
  const fast: Fast = {
    machine,
    world,
    layout,
    senses,
    allFacts: options.allFacts === true,
    code,
    facts,
    live: facts,
    states,
    exits,
    leaves: new Int32Array(machine.lanes.length),
    anyYields: machine.lanes.some((lane) => lane.yields.length > 0),
    yields: machine.lanes.map(({ yields }) => ({
      vx: yields.includes('vx'),
      vy: yields.includes('vy'),
      gravity: yields.includes('gravity'),
      facing: yields.includes('facing'),
      stance: yields.includes('stance'),
    })),
    presses: machine.memories.map((m) => m.presses.map((name) => controlNamed(machine, name))),
    log,
    taken: [],
    takenCount: 0,
    tied: [],
    tiedCount: 0,
    raised: new Uint8Array(machine.events.length),
    spent: new Uint8Array(machine.controls.length),
    chosen: new Int32Array(machine.lanes.length),
    body,
    inside: [],
    before: new Float64Array(world.offsets.length),
    acted: false,
    unlocks: world.course.zones.map((z) => machine.abilities.findIndex((a) => a.name === z.unlocks)),
    slots: {
      vx: slotOf(machine.facts, 'vx'),
      vy: slotOf(machine.facts, 'vy'),
      facing: slotOf(machine.facts, 'facing'),
      events: machine.events.map((event) => slotOf(machine.facts, 'event', event)),
      elapsed: machine.lanes.map((lane) => slotOf(machine.facts, 'laneElapsed', lane.name)),
    },
    yielded,
  };
  return fast;
}

/** Whether what an exit leads to is unlocked and has room. */
export function isRoomy(fast: Fast, s: Float64Array, exit: Exit): boolean {
  const target = exit.target ?? fast.states[leafOf(fast, s, exit.crossing.to)]!;
  if (target.unlocked >= 0 && fast.facts[target.unlocked] === 0) return false;
  if (target.fits < 0) return true;
  fast.senses.ask(target.fits);
  return fast.facts[target.fits] !== 0;
}

const controlNamed = (machine: Machine, name: string): number =>
  machine.controls.findIndex((c) => c.name === name);

function writtenSlot(machine: Machine, effect: Effect): number {
  if (effect.kind === 'velocity') return slotOf(machine.facts, effect.channel);
  if (effect.kind === 'variable')
    return slotOf(machine.facts, 'variable', machine.variables[effect.variable]!.name);
  if ((effect.kind === 'spend' || effect.kind === 'refill') && effect.what === 'count')
    return slotOf(machine.facts, 'variable', machine.variables[effect.index]!.name);
  return -1;
}
