/// <reference lib="webworker" />
import {
  findAll,
  type Finding,
  readCourse,
  readMoveset,
  readTape,
  runTape,
  type Session,
} from '@glenmark/core';
import { expose } from 'comlink';

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

  /** A tape played on a course, or what is wrong, one sentence each. */
  run(moveset: string, course: string, tape: string): { session?: Session; wrong: string[] } {
    const m = readMoveset(moveset);
    const c = readCourse(course);
    const t = readTape(tape);
    if (m.machine === undefined || c.course === undefined || t.tape === undefined) {
      return { wrong: [...m.diagnostics, ...c.diagnostics, ...t.diagnostics].map((d) => d.message) };
    }
    const { session, diagnostics } = runTape(m.machine, c.course, t.tape);
    return { session, wrong: diagnostics.map((d) => d.message) };
  },
};

export type Analysis = typeof analysis;

expose(analysis);
