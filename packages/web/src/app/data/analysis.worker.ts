/// <reference lib="webworker" />
// Sentences of the page's scouting are marked for translation, in this thread too.
import '@angular/localize/init';
import {
  accepting,
  merged,
  tapeFindings,
  type Coverage,
  looking,
  proving,
  type Finding,
  type Repair,
  triedRepairs,
  type Undecided,
} from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';
import { finished, type Steps } from '@glenmark/core/steps';
import { slugOf } from '@glenmark/core/model';
import {
  fastDigest,
  type KeptRun,
  type LoneState,
  responding,
  type Response,
  runTape,
  type Session,
  startOf,
  type Tape,
  tapeInputs,
} from '@glenmark/core/run';
import { buildWorld, type Course } from '@glenmark/core/world';
import { expose } from 'comlink';
import { between, type Between, type BetweenAsked, type NotLoaded } from './between';
import { type ReadChart, readScxml } from '@glenmark/core/charts';
import { exported } from './exported';
import { type LogAsked, type LogCompared, logged } from './logged';
import { atRates, beside, type Compared, sessionOf } from './compared';
import { counting, type Counts, type CountsAsked } from './counts';
import { loadedTapes } from './loaded-tapes';
import { courseReadings, movesetReadings, tapeReadings } from './readings';
import { createNewest } from './newest';
import { createPageScouting } from './scouting-in-worker';
import { sent, type SentSession } from './sent-session';
import { wall, type WallAsked, type WallTape } from './wall';

/** What the fast machine, by which inputs are searched, says of a run: the same bits, others, or nothing. */
export type Agreement = 'same' | 'other' | 'unasked';

/**
 * Whether the fast machine comes to the same bits, on the geometry that the run was not played on: it cannot be asked
 * where no code may be made from text.
 */
function agreementOn({ trace, digest }: Session, course: Course, tape: Tape): Agreement {
  const { machine, records } = trace;
  const start = startOf(tape, course)!;
  const world = buildWorld(course, machine.stances, machine.casts, { plain: true });
  try {
    const inputs = tapeInputs(tape, machine).slice(0, records.length);
    return fastDigest(machine, world, start, inputs) === digest ? 'same' : 'other';
  } catch (error) {
    if (error instanceof EvalError) return 'unasked';
    throw error;
  }
}

/** What is found of a moveset, and what its tapes used; undefined when it does not load. */
export interface Found {
  findings: Finding[];
  byTapes: Coverage | undefined;
  /** What was too large to decide. */
  undecided: Undecided[];
}

/** What a scouting found: all of it counts while the moveset is the one that was scouted. */
export interface ScoutedFindings {
  findings: Finding[];
  courses: string[];
  isCurrent: boolean;
}

/** What of a scouting still counts: after an edit, what its own tapes still show when they are played again. */
function stillCounts(machine: Machine, { findings, courses, isCurrent }: ScoutedFindings): Finding[] {
  if (isCurrent) return findings;
  const places = courses.flatMap((text) => courseReadings.of(text).course ?? []);
  return findings.filter(({ fingerprint, witness }) => {
    const tape = witness?.text === undefined ? undefined : tapeReadings.of(witness.text).tape;
    const course = tape && places.find((c) => slugOf(c.name) === slugOf(tape.course));
    if (tape === undefined || course === undefined) return false;
    return tapeFindings(machine, [{ tape, course }]).some((f) => f.fingerprint === fingerprint);
  });
}

/** What is compared, as it is sent. */
export type SentCompared = Omit<Compared, 'session'> & { session?: SentSession; machine?: Machine };

/** Findings of a moveset, with what its tapes show, in steps; none when it does not load. */
function* finding(
  moveset: string,
  tapes: readonly { tape: string; course: string }[],
  scouted: ScoutedFindings | undefined,
): Steps<Found> {
  const { machine } = movesetReadings.of(moveset);
  if (machine === undefined) return { findings: [], byTapes: undefined, undecided: [] };
  yield;
  const { findings, coverage } = yield* looking(machine, loadedTapes(tapes));
  const more = scouted === undefined ? [] : stillCounts(machine, scouted);
  yield;
  const proved = yield* proving(machine);
  const all = merged(proved.findings, findings, more);
  return { findings: accepting(machine, all), byTapes: coverage, undecided: proved.undecided };
}

const newestFindings = createNewest();
const newestResponse = createNewest();
const newestBetween = createNewest();
const newestWall = createNewest();
const newestCounts = createNewest();

/** How many of the expectations of all tapes are met. */
export interface Expected {
  met: number;
  of: number;
}

/** The run that is shown, from which the next goes on. */
let last: KeptRun | undefined;

const scouting = createPageScouting();

/** A compared log as it is sent. */
type SentLog = Omit<LogCompared, 'session'> & { session?: SentSession };

/** The heavy work of what is on screen, off the page's thread. Texts in, plain data out. */
const analysis = {
  beginScouting: scouting.begin,
  scout: scouting.advance,
  stopScouting: scouting.stop,

  /** Findings of a moveset, with what its tapes show; none when it does not load. */
  findings: (moveset: string, tapes: readonly { tape: string; course: string }[]): Finding[] =>
    finished(finding(moveset, tapes, undefined)).findings,

  /** The same with what was scouted, in slices; undefined when a newer question came between two of them. */
  newestFindings: async (...question: Parameters<typeof finding>): Promise<Found | undefined> =>
    newestFindings(finding(...question)),

  /** The repairs of a finding that were tried, on its tapes and these courses, and do what they say. */
  repairs(
    moveset: string,
    tapes: readonly { tape: string; course: string }[],
    places: readonly string[],
    finding: Finding,
  ): Repair[] {
    const { machine } = movesetReadings.of(moveset);
    if (machine === undefined) return [];
    const known = places.flatMap((text) => courseReadings.of(text).course ?? []);
    return triedRepairs(finding, { text: moveset, machine, tapes: loadedTapes(tapes), courses: known });
  },

  /** What became other between two revisions; undefined when a newer question came. */
  between: async (asked: BetweenAsked): Promise<Between | NotLoaded | undefined> =>
    newestBetween(between(asked)),

  /** Counts of a moveset; undefined when a newer question came, or it does not load. */
  counts: async (asked: CountsAsked): Promise<Counts | undefined> => newestCounts(counting(asked)),

  /** All expectations of all tapes at several tick rates; undefined when a newer question came. */
  wall: async (asked: WallAsked): Promise<WallTape[] | undefined> => newestWall(wall(asked)),

  /** Whether a moveset meets all that a tape expects of it. */
  meets(moveset: string, tape: string, course: string): boolean {
    const { session } = sessionOf({ moveset, tape, course });
    return session !== undefined && session.expectations.every((e) => e.passed);
  },

  /** How a state answers its controls; undefined when a newer question came, or the moveset does not load. */
  response: async (alone: LoneState): Promise<Response | undefined> => newestResponse(responding(alone)),

  /** How many expectations of some tapes are met; those of a tape that cannot be played are not. */
  expected(moveset: string, tapes: readonly { tape: string; course: string }[]): Expected {
    const results = tapes.flatMap(({ tape, course }) => {
      const { session } = sessionOf({ moveset, tape, course });
      const count = tapeReadings.of(tape).tape?.expect.length ?? 0;
      return session?.expectations.map((e) => e.passed) ?? new Array<boolean>(count).fill(false);
    });
    return { met: results.filter(Boolean).length, of: results.length };
  },

  atRates,
  exported,

  /** A chart as a moveset. */
  chart: (text: string): ReadChart => readScxml(text),

  /** A log of the game beside the model with the same inputs. */
  logged(asked: LogAsked): SentLog {
    const { session, ...rest } = logged(asked);
    return session === undefined ? rest : { ...rest, session: sent(session) };
  },

  /** Two runs beside each other. The machine of another rate is sent along: whoever asks has not read it. */
  beside: (runs: Parameters<typeof beside>[0]): SentCompared[] =>
    beside(runs).map(({ session, ...rest }, i) => {
      if (session === undefined) return rest;
      const hasOwn = runs[i]!.rate !== undefined;
      return { ...rest, session: sent(session), ...(hasOwn ? { machine: session.trace.machine } : {}) };
    }),

  /**
   * A tape played on a course, or what is wrong, one sentence each. `agreed` says whether the fast machine came to the
   * same bits. It goes on from the run before: the trace lacks the first `same` records, which are as they were there.
   */
  run(
    moveset: string,
    course: string,
    tape: string,
  ): { session?: SentSession; same: number; agreed: Agreement; wrong: string[] } {
    const m = movesetReadings.of(moveset);
    const c = courseReadings.of(course);
    const t = tapeReadings.of(tape);
    const nothing = { same: 0, agreed: 'unasked' as const };
    if (m.machine === undefined || c.course === undefined || t.tape === undefined)
      return {
        ...nothing,
        wrong: [...m.diagnostics, ...c.diagnostics, ...t.diagnostics].map((d) => d.message),
      };
    const { session, kept, diagnostics } = runTape(m.machine, c.course, t.tape, last);
    const wrong = diagnostics.map((d) => d.message);
    if (session === undefined || kept === undefined) return { ...nothing, wrong };
    last = kept;
    const { trace } = session;
    const changed = { ...session, trace: { ...trace, records: trace.records.slice(kept.same) } };
    return {
      session: sent(changed),
      same: kept.same,
      agreed: agreementOn(session, c.course, t.tape),
      wrong,
    };
  },
};

export type Analysis = typeof analysis;

expose(analysis);
