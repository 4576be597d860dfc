import { present } from '../present.js';
import {
  anchorShift,
  authorText,
  decide,
  type Machine,
  slotOf,
  type Verdict,
  type Write,
} from '../machine/index.js';
import { evaluate, explain, type Expression, type Term } from '../notation/index.js';
import { missingRoom, placeMovers, type World } from '../world/index.js';
import type { TickRecord, Trace } from './trace.js';

/** A term of a guard, with how long it has had its truth value. */
export interface DatedTerm extends Omit<Term, 'parts' | 'expression'> {
  /** The first tick of the unbroken stretch, up to the asked one, in which the term had this truth value. */
  since: number;
  parts: DatedTerm[];
}

export interface CrossingAccount {
  index: number;
  from: string;
  to: string;
  verdict: Verdict;
  guard: DatedTerm | undefined;
  /** One sentence for what the guard does not say: no room, locked, lost to another. */
  remark: string | undefined;
  /** What is missing of the headroom (m), with verdict `noRoom`. */
  missing: number | undefined;
}

export interface LaneAccount {
  lane: string;
  before: string;
  after: string;
  /** Ticks that the state had lasted when the lane decided. */
  ticks: number;
  crossings: CrossingAccount[];
}

export interface WriteAccount extends Write {
  /** The author for people: `Trot → Rise do`. */
  by: string;
  /** True when a later write of the same tick replaced it before it moved anything. */
  lost: boolean;
}

/** The account of one tick: what each lane weighed, and who wrote what. */
export interface Account {
  tick: number;
  lanes: LaneAccount[];
  writes: WriteAccount[];
}

/** Why a tick of a run went as it did. The tick must be one of the trace's. */
export function why(trace: Trace, world: World, tick: number): Account {
  const { machine, records } = trace;
  const record = present(records[tick]);
  // Where a mover was then decides what room there was.
  placeMovers(world, tick * machine.dt);
  const name = (state: number): string => present(machine.states[state]).name;
  const lanes = machine.lanes.map((lane, i): LaneAccount => {
    const before = present(record.leavesBefore[i]);
    const choices = decide(machine, before, record.facts, record.lastBefore);
    const taken = choices.find((c) => c.verdict === 'taken');
    return {
      lane: lane.name,
      before: name(before),
      after: name(present(record.leaves[i])),
      ticks: Math.round(present(record.facts[slotOf(machine.facts, 'elapsed', name(before))]) * machine.rate),
      crossings: choices.map((choice): CrossingAccount => {
        const { crossing, verdict, stance } = choice;
        const missing =
          verdict === 'noRoom' ? headroomMissing(machine, world, records, record, stance) : undefined;
        return {
          index: crossing.index,
          from: name(before),
          to: name(crossing.to),
          verdict,
          guard: crossing.when === undefined ? undefined : dated(records, tick, crossing.when),
          remark: remarkOn(machine, choice, taken?.crossing.to, missing),
          missing,
        };
      }),
    };
  });
  return { tick, lanes, writes: accountWrites(machine, record.writes) };
}

function remarkOn(
  machine: Machine,
  choice: { verdict: Verdict; stance: number; crossing: { ability: number } },
  takenTo: number | undefined,
  missing: number | undefined,
): string | undefined {
  switch (choice.verdict) {
    case 'noRoom':
      return `Open, but ${present(machine.stances[choice.stance]).name} does not fit: ${((missing ?? 0) * 100).toFixed(0)} cm short.`;
    case 'locked':
      return 'Its ability is locked.';
    case 'lost':
      return takenTo === undefined
        ? undefined
        : `Open, but ${present(machine.states[takenTo]).name} came first.`;
    default:
      return undefined;
  }
}

/** The headroom that a stance lacked when the tick decided: the body was then where the tick before had left it. */
function headroomMissing(
  machine: Machine,
  world: World,
  records: readonly TickRecord[],
  record: TickRecord,
  stance: number,
): number {
  const fact = (name: 'x' | 'y'): number => present(record.facts[slotOf(machine.facts, name)]);
  const old = records[record.tick - 1]?.stance ?? record.stance;
  return missingRoom(world, stance, fact('x'), fact('y') + anchorShift(machine, old, stance));
}

function dated(records: readonly TickRecord[], tick: number, guard: Expression): DatedTerm {
  const date = ({ parts, expression, ...term }: Term): DatedTerm => ({
    ...term,
    since: sinceWhen(records, tick, expression, term.value),
    parts: parts.map(date),
  });
  return date(explain(guard, present(records[tick]).facts));
}

/** The first tick of the stretch up to `tick` in which a truth value stayed what it is. */
export function sinceWhen(
  records: readonly TickRecord[],
  tick: number,
  e: Expression,
  value: number,
): number {
  let since = tick;
  while (since > 0 && evaluate(e, present(records[since - 1]).facts) === value) since--;
  return since;
}

function accountWrites(machine: Machine, writes: readonly Write[]): WriteAccount[] {
  return writes.map((write, i) => ({
    ...write,
    by: authorText(machine, write.author),
    lost: writes.slice(i + 1).some((later) => later.channel === write.channel && later.replaces),
  }));
}
