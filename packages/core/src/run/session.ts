import { type Diagnostic, diagnosticAt, didYouMean, isUsable } from '../model/index.js';
import type { Machine } from '../machine/index.js';
import { buildWorld, type Course, fits, type World } from '../world/index.js';
import { digestOf } from './digest.js';
import { compileExpectations, type ExpectationResult, watchExpectations } from './expectations.js';
import { measure, type Measures } from './measures.js';
import { type KeptRun, playOn } from './play.js';
import { checkTape, type Tape, tapeInputs } from './tape.js';
import type { Trace } from './trace.js';

export interface Session {
  world: World;
  trace: Trace;
  expectations: ExpectationResult[];
  measures: Measures;
  /** See `digestOf`: the same wherever the same run is played. */
  digest: string;
}

/**
 * Plays a tape with a machine on a course. What does not fit together is told, at its line of the tape. Given the run
 * that is kept of an earlier call, it goes on from there when that was the same machine on the same course (the very
 * objects) from the same spawn.
 */
export function runTape(
  machine: Machine,
  course: Course,
  tape: Tape,
  before?: KeptRun,
): { session?: Session; kept?: KeptRun; diagnostics: Diagnostic[] } {
  const diagnostics = checkTape(tape, machine);
  const names = course.spawns.map((s) => s.name);
  const spawn = course.spawns.find((s) => s.name === tape.spawn);
  const isSame = before?.trace.machine === machine && before.world.course === course;
  const world = isSame ? before.world : buildWorld(course, machine.stances, machine.casts);
  if (spawn === undefined) {
    diagnostics.push(
      diagnosticAt(
        tape.source,
        ['spawn'],
        `the course '${course.name}' has no spawn '${tape.spawn}'${didYouMean(tape.spawn, names) || `, expected one of ${names.join(', ')}`}`,
      ),
    );
  } else if (!machine.stances.some((_, i) => fits(world, i, spawn.x, spawn.y))) {
    diagnostics.push(
      diagnosticAt(
        tape.source,
        ['spawn'],
        `no stance of '${machine.name}' fits at the spawn '${tape.spawn}' of '${course.name}', it is inside a solid`,
      ),
    );
  }
  const compiled = compileExpectations(tape, machine);
  diagnostics.push(...compiled.diagnostics);
  if (!isUsable(diagnostics) || spawn === undefined) return { diagnostics };
  const watch = watchExpectations(compiled.expectations, machine);
  const kept = playOn(machine, world, spawn, tapeInputs(tape, machine), {
    sees: compiled.expectations.length > 0,
    kept: isSame && before.at === spawn ? before : undefined,
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
