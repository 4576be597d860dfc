import { present } from '../../present.js';
import type { FactName, FactRef } from '../../notation/index.js';
import { slotOf } from '../definition/facts.js';
import type { Channel, Machine } from '../definition/machine.js';
import { type FactSource, sourcesOf } from './facts.js';
import { type Layout, layoutOf, TICK } from './layout.js';
import type { Place, Procedure, Statement, Term, Writable } from './program.js';
import { fact, field } from './terms.js';

/** What is collected while a machine is lowered. */
export interface Lowering {
  machine: Machine;
  layout: Layout;
  /** Where each fact comes from, by slot; the machine's own count time up to the register `age`. */
  sources: readonly (FactSource | undefined)[];
  /** The same with time counted up to this tick, for what is read after the lanes have acted. */
  after: readonly (FactSource | undefined)[];
  /** The slots that some expression reads as they were when the lanes decided. */
  used: Set<number>;
  registers: string[];
  procedures: Map<string, Procedure>;
  /** Whether to tell which piece of the moveset a statement is made from, and how strongly gravity works. */
  origins: boolean;
}

export function createLowering(machine: Machine, origins: boolean): Lowering {
  const layout = layoutOf(machine, 0);
  const lowering: Lowering = {
    machine,
    layout,
    sources: [],
    after: sourcesOf(machine, layout, field(TICK)),
    used: new Set(),
    registers: [],
    procedures: new Map(),
    origins,
  };
  lowering.sources = sourcesOf(machine, layout, register(lowering, 'age'));
  return lowering;
}

/** A number with a name that is kept for a tick. */
export function register({ registers }: Lowering, name: string): Place {
  const known = registers.indexOf(name);
  return { kind: 'register', index: known < 0 ? registers.push(name) - 1 : known };
}

/** Does what a procedure of this name does, which is made once; nothing when there is nothing in it. */
export function procedure(
  { procedures }: Lowering,
  name: string,
  make: () => readonly Statement[],
): Statement[] {
  let known = procedures.get(name);
  if (known === undefined) procedures.set(name, (known = { name, statements: make() }));
  return known.statements.length === 0 ? [] : [{ kind: 'call', procedure: name }];
}

/** When in a tick an expression is read: facts change while lanes act. */
export type Moment = 'decide' | 'act' | 'move';

/**
 * A fact as an expression reads it. While lanes decide, all facts are as they were found. Effects see velocity, facing
 * and variables as they are written, and all else as it was found. The rules of motion see everything of the machine as
 * the lanes have left it; `speed` as it was before zones launched the body and yielding lanes took back what they wrote.
 */
export function factAt(lowering: Lowering, moment: Moment, slot: number): Term {
  const { machine, after, used } = lowering;
  const source = after[slot];
  const ref = machine.facts.refs[slot];
  if (source?.when === 'own' && ref !== undefined) {
    if (moment === 'move') return ref.fact === 'speed' ? register(lowering, 'speed') : source.value;
    if (moment === 'act' && isWritten(ref)) return source.value;
  }
  used.add(slot);
  return fact(slot, source?.when === 'asked');
}

const isWritten = ({ fact: name }: FactRef): boolean =>
  name === 'vx' || name === 'vy' || name === 'facing' || name === 'variable';

/** A fact that the machine itself reads, as it was found. */
export const found = (lowering: Lowering, name: FactName, of: string): Term =>
  factAt(lowering, 'decide', slotOf(lowering.machine.facts, name, of));

/** Who has written a channel in this tick: a lane, `NOBODY` or `SEVERAL`. */
export const writer = (lowering: Lowering, channel: Writable): Place =>
  register(lowering, `wrote ${channel}`);
export const NOBODY = -1;
export const SEVERAL = -2;

export const WRITABLE: readonly Writable[] = ['vx', 'vy', 'facing', 'stance'];

/** Whether a lane leaves a channel to others. */
export const yields = ({ machine }: Lowering, lane: number, channel: Channel): boolean =>
  present(machine.lanes[lane]).yields.includes(channel);

export const nameOf = ({ machine }: Lowering, state: number): string => present(machine.states[state]).name;
