import { bounded } from '../../tolerances.js';
import { approach } from '../../notation/index.js';
import type { Moving, World } from '../../world/index.js';
import type { Machine, Motion } from '../definition/machine.js';
import { type CALLED, type Layout, layoutOf, lower, type Program } from '../lowered/index.js';
import { decay } from '../trigonometry.js';
import { actsByName } from './acts.js';
import { type Code, codeOf } from './code.js';
import { createLog, type Log, note, withdraw } from './log.js';
import { createSenses, type Senses, sensesByName } from './senses.js';

/**
 * A machine in a world, made ready for many ticks: its program printed as JavaScript, and a situation as one buffer of
 * numbers. It does what the reference (`tick`) does, to the last bit; a differential test holds it to that.
 */
export interface Fast {
  machine: Machine;
  world: World;
  layout: Layout;
  program: Program;
  senses: Senses;
  allFacts: boolean;
  /** The facts that the lanes decided on in the last tick, by slot; only those that something reads are filled. */
  facts: Float64Array;
  /** Steps 2 to 6 of a tick, and what it keeps for the next; `facts` is where it works. */
  run: (s: Float64Array, facts: Float64Array, input: ArrayLike<number>) => void;
  /** The writes of the last tick, where they are kept. */
  log: Log | undefined;
  /** Crossings taken in the last tick: lane, crossing, from and to of each, one after the other. */
  taken: number[];
  takenCount: number;
  /** Ties of the last tick: lane and crossing of each open one, one after the other. */
  tied: number[];
  tiedCount: number;
  /** Places among `facts` that tell which lane wrote a channel in the last tick. */
  writers: Record<'vx' | 'vy' | 'facing' | 'stance', number>;
  /** The body while it is worked on. */
  body: Moving;
  inside: number[];
  /** The rule of the ground that each state has. */
  grounds: Motion['ground'][];
}

export interface FastOptions {
  /** Find every fact in every tick, as the reference does; for recording. */
  allFacts?: boolean;
  /** Keep the writes of every tick; by default only when all facts are found. */
  log?: boolean;
}

interface RunOptions extends FastOptions {
  code?: Code;
}

/**
 * Makes a machine ready in a world, which must have been built for this machine.
 * @throws {EvalError} where a content security policy forbids making code from text
 */
export const createFast = (machine: Machine, world: World, options: FastOptions = {}): Fast =>
  runProgram(lower(machine, options), machine, world, options);

/** The same for a program that a machine was lowered to; its code is printed unless it is given. */
export function runProgram(
  program: Program,
  machine: Machine,
  world: World,
  { allFacts = false, log: keepsLog = allFacts, code = codeOf(program, keepsLog) }: RunOptions = {},
): Fast {
  const layout = layoutOf(machine, world.course.zones.length);
  const senses = createSenses(machine, world, layout, program);
  const log = keepsLog ? createLog() : undefined;
  const body = { x: 0, y: 0, vx: 0, vy: 0 };
  const env: Env = {
    ...operations,
    ...sensesByName(senses),
    ...actsByName(senses, log, body),
    ...teller(() => fast, log),
    ask: senses.ask,
    body,
    k: code.numbers,
  };
  const writer = (channel: string): number =>
    program.facts.length + program.registers.indexOf(`wrote ${channel}`);
  const fast: Fast = {
    machine,
    world,
    layout,
    program,
    senses,
    allFacts,
    facts: senses.facts,
    run: code.bind(env),
    log,
    taken: [],
    takenCount: 0,
    tied: [],
    tiedCount: 0,
    writers: { vx: writer('vx'), vy: writer('vy'), facing: writer('facing'), stance: writer('stance') },
    body,
    inside: [],
    grounds: machine.states.map(({ motion }) => motion.ground),
  };
  return fast;
}

/** What printed code calls and reads. */
export type Env = Record<(typeof CALLED)[number] | 'k', unknown>;

/** The operations that are not JavaScript's own; each gives what `evaluate` gives, to the last bit. */
const operations = {
  approach,
  bounded,
  decay,
  sign: (a: number): number => (a > 0 ? 1 : a < 0 ? -1 : 0),
  root: (a: number): number => (a > 0 ? Math.sqrt(a) : 0),
  mix: (a: number, b: number, c: number): number => a + (b - a) * c,
  over: (a: number, b: number): number => (b === 0 ? 0 : a / b),
};

/** What a tick tells of itself. */
const teller = (fastOf: () => Fast, log: Log | undefined) => ({
  took: (lane: number, crossing: number, from: number, to: number): void => {
    const fast = fastOf();
    const { taken } = fast;
    const i = fast.takenCount++ * 4;
    taken[i] = lane;
    taken[i + 1] = crossing;
    taken[i + 2] = from;
    taken[i + 3] = to;
  },
  /** The first tie of a lane is between two: the chosen one, and the other. */
  tie: (lane: number, chosen: number, crossing: number): void => {
    const fast = fastOf();
    const isFirst = fast.tiedCount === 0 || fast.tied[fast.tiedCount - 2] !== lane;
    for (const open of isFirst ? [chosen, crossing] : [crossing]) {
      fast.tied[fast.tiedCount++] = lane;
      fast.tied[fast.tiedCount++] = open;
    }
  },
  wrote: (...[channel, lane, kind, who, to, replaces, value]: Note): void =>
    note(log!, channel, lane, kind, who, to, replaces, value),
  withdraw: (channel: 'vx' | 'vy' | 'facing' | 'stance', lane: number): void => withdraw(log!, channel, lane),
});

type Note = Parameters<typeof note> extends [Log, ...infer Rest] ? Rest : never;
