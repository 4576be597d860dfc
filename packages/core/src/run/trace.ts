import type { Machine, Situation, Taken, TickOutcome, Write } from '../machine/index.js';
import type { Contact, Moving } from '../world/index.js';

/** Step 9 of a tick: everything that a run keeps of it. Positions and velocities are those after the tick. */
export interface TickRecord {
  tick: number;
  body: Moving;
  facing: 1 | -1;
  stance: number;
  wanted: number;
  contacts: Contact[];
  grounded: boolean;
  /** Per lane, before the tick and after it. */
  leavesBefore: number[];
  leaves: number[];
  lastBefore: number[];
  input: number[];
  variables: number[];
  timers: number[];
  charges: number[];
  /** Where the tethers that hold are held. */
  anchors: { x: number; y: number }[];
  /** What the lanes decided on, by slot. */
  facts: Float64Array;
  taken: Taken[];
  writes: Write[];
  /** Lanes in which the taken crossing was one of several open ones of equal rank, with all of them. */
  ties: { lane: number; crossings: number[] }[];
}

export interface Trace {
  machine: Machine;
  start: { x: number; y: number };
  records: TickRecord[];
  /** Why the run ended before its tape did. */
  stopped: string | undefined;
}

/** A record of a situation after a tick, with what was so before it. */
export function recordOf(
  s: Situation,
  before: { leaves: number[]; last: number[] },
  outcome: TickOutcome,
  ties: TickRecord['ties'],
): TickRecord {
  return {
    tick: s.tick - 1,
    body: s.body,
    facing: s.facing,
    stance: s.stance,
    wanted: s.wanted,
    contacts: s.footing.contacts,
    grounded: s.footing.ground !== undefined,
    leavesBefore: before.leaves,
    leaves: [...s.leaves],
    lastBefore: before.last,
    input: s.input,
    variables: [...s.variables],
    timers: [...s.timers],
    charges: s.cooldowns.map((c) => c.charges),
    anchors: s.anchors.flat().map(({ x, y }) => ({ x, y })),
    facts: outcome.facts,
    taken: outcome.taken,
    writes: outcome.writes,
    ties,
  };
}
