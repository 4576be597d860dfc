/// <reference lib="webworker" />
import {
  buildWorld,
  type Course,
  fastDigest,
  findAll,
  type Finding,
  readCourse,
  readMoveset,
  readTape,
  runTape,
  type Session,
  type Tape,
  tapeInputs,
} from '@glenmark/core';
import { expose } from 'comlink';

/** What the fast machine, by which inputs are searched, says of a run: the same bits, others, or nothing. */
export type Agreement = 'same' | 'other' | 'unasked';

/** Whether the fast machine comes to the same bits: it cannot be asked where no code may be made from text. */
function agreementOn({ trace, digest }: Session, course: Course, tape: Tape): Agreement {
  const { machine, records } = trace;
  const spawn = course.spawns.find((s) => s.name === tape.spawn)!;
  const world = buildWorld(course, machine.stances, machine.casts);
  try {
    const inputs = tapeInputs(tape, machine).slice(0, records.length);
    return fastDigest(machine, world, spawn, inputs) === digest ? 'same' : 'other';
  } catch (error) {
    if (error instanceof EvalError) return 'unasked';
    throw error;
  }
}

/** The heavy work of what is on screen, off the page's thread. Texts in, plain data out. */
const analysis = {
  /** Findings of a moveset, with what its tapes show; none when it does not load. */
  findings(moveset: string, tapes: readonly { tape: string; course: string }[]): Finding[] {
    const { machine } = readMoveset(moveset);
    if (machine === undefined) return [];
    const usable = tapes.flatMap((texts) => {
      const { tape } = readTape(texts.tape);
      const { course } = readCourse(texts.course);
      return tape === undefined || course === undefined ? [] : [{ tape, course }];
    });
    return findAll(machine, usable);
  },

  /**
   * A tape played on a course, or what is wrong, one sentence each. `agreed` says whether the fast machine came to the same bits.
   */
  run(
    moveset: string,
    course: string,
    tape: string,
  ): { session?: Session; agreed: Agreement; wrong: string[] } {
    const m = readMoveset(moveset);
    const c = readCourse(course);
    const t = readTape(tape);
    if (m.machine === undefined || c.course === undefined || t.tape === undefined) {
      return {
        agreed: 'unasked',
        wrong: [...m.diagnostics, ...c.diagnostics, ...t.diagnostics].map((d) => d.message),
      };
    }
    const { session, diagnostics } = runTape(m.machine, c.course, t.tape);
    const wrong = diagnostics.map((d) => d.message);
    if (session === undefined) return { agreed: 'unasked', wrong };
    return { session, agreed: agreementOn(session, c.course, t.tape), wrong };
  },
};

export type Analysis = typeof analysis;

expose(analysis);
