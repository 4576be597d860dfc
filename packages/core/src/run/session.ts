import { type Diagnostic, isUsable } from '../model/index.js';
import type { Machine } from '../machine/index.js';
import { buildWorld, type Course, type World } from '../world/index.js';
import { digestOf } from './digest.js';
import { compileExpectations, type ExpectationResult, watchExpectations } from './expectations.js';
import { measure, type Measures } from './measures.js';
import { type KeptRun, type Place, playOn } from './play.js';
import { checkStart, startOf } from './start.js';
import { checkTape, type Tape, tapeInputs, tooLowFor } from './tape.js';
import type { Trace } from './trace.js';

export interface Session {
  world: World;
  trace: Trace;
  expectations: ExpectationResult[];
  measures: Measures;
  /** See `digestOf`: the same wherever the same run is played. */
  digest: string;
}

/** What of a tape does not fit a machine or the world it is to be played in: its controls, its start, what it expects. */
export const checkRun = (machine: Machine, world: World, tape: Tape): Diagnostic[] => [
  ...checkTape(tape, machine),
  ...tooLowFor(tape, machine),
  ...checkStart(tape, machine, world),
  ...compileExpectations(tape, machine).diagnostics,
];

/**
 * Plays a tape with a machine on a course. What does not fit together is reported, at its line of the tape. Given the run
 * that is kept of an earlier call, it goes on from there when that was the same machine on the same course (the very
 * objects) from the same place.
 */
export function runTape(
  machine: Machine,
  course: Course,
  tape: Tape,
  before?: KeptRun,
): { session?: Session; kept?: KeptRun; diagnostics: Diagnostic[] } {
  const at = startOf(tape, course);
  const isSame = before?.trace.machine === machine && before.world.course === course;
  const world = isSame ? before.world : buildWorld(course, machine.stances, machine.casts);
  const diagnostics = checkRun(machine, world, tape);
  if (!isUsable(diagnostics) || at === undefined) return { diagnostics };
  const { expectations } = compileExpectations(tape, machine);
  const watch = watchExpectations(expectations, machine);
  const kept = playOn(machine, world, at, tapeInputs(tape, machine), {
    sees: expectations.list.length > 0,
    kept: isSame && isSamePlace(before.at, at) ? before : undefined,
  });
  const { trace } = kept;
  kept.seen?.forEach((facts, tick) => watch.see(tick, facts));
  return {
    kept,
    session: {
      world,
      trace,
      expectations: watch.results(),
      measures: measure(trace),
      digest: digestOf(trace),
    },
    diagnostics,
  };
}

const isSamePlace = (a: Place, b: Place): boolean => a.x === b.x && a.y === b.y && a.facing === b.facing;
