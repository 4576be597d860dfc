import type { Machine } from '../../machine/index.js';
import { type Arena, createScout, type Outcome, type Round, type Scout } from '../../scout/index.js';
import type { Course } from '../../world/index.js';
import type { Finding } from '../sentences/finding.js';
import type { Trap } from '../proved/skeleton/index.js';
import { proveOn } from '../proved/on-courses.js';
import { createCollection } from './collect.js';
import { type Coverage, coverageOf, type Step } from '../coverage.js';
import { type TriggeredTrap, watchTraps } from './triggered-traps.js';
import { confirmTraps } from './traps.js';
import { createRhythms, type Rhythms } from './rhythms.js';
import { watchUnlockers } from './unlockers.js';
import { unreached } from './unreached.js';

/** Rounds with hardly anything new after which there is nothing left to find, and how much is hardly anything. */
const EXHAUSTED = 60;
const FEW = 4;

/** What a scouting is: the same plan, and as many situations, always give the same report. */
export interface ScoutingPlan {
  seed: number;
  /** Begins at every place of a grid this wide too, where the body fits (metres). */
  grid?: number;
  /** Makes memory that is shared with the threads that expand; by default the expanding is done here. */
  share?: (bytes: number) => ArrayBufferLike;
}

/** How far a scouting is to go. */
export interface Advance {
  /** Situations over all courses together, from the beginning. */
  situations: number;
  /** Asked before each round; `false` ends it there. */
  goesOn?: () => boolean;
  /** Called after every few rounds, and waited for. */
  progress?: (report: ScoutingProgress) => void | Promise<void>;
  /** Expands rounds elsewhere too: in worker threads. By default it is done here alone. */
  expand?: Elsewhere;
}

/**
 * Begins to expand a round on a course with others. `here` expands one slot of it on this thread, which tells the first of
 * each sort of event only, or all.
 */
export type Elsewhere = (
  course: number,
  round: Round,
  here: (slot: number, tellsAll: boolean) => Outcome,
) => Expanding;

/** A round that is under way. */
export interface Expanding {
  /** Takes part in what is left of it, waits for the others, and gives what came of each task. To be called once. */
  finish(): Promise<readonly Outcome[]>;
}

/** A search that can be left and taken up again. */
export interface Scouting {
  /** Where the situations to expand lie, for each course. */
  arenas: readonly Arena[];
  advance(how: Advance): Promise<void>;
  /** What has been found so far, with witnesses; some seconds of work. */
  report(): ScoutingReport;
}

export interface ScoutingProgress {
  course: string;
  situations: number;
  of: number;
  ticks: number;
  taken: number;
  crossings: number;
  /** What was used so far; worked out when it is asked for. */
  coverage: () => Coverage;
  /** What was found so far. */
  findings: readonly Finding[];
}

export interface ScoutingReport {
  findings: Finding[];
  situations: number;
  ticks: number;
  coverage: Coverage;
}

/** What is known before a scouting: the findings, and what the skeleton suspects, to look out for. */
export interface KnownBefore {
  findings: readonly Finding[];
  traps: readonly Trap[];
}

/** Prepares the scouting of a moveset on courses. */
export function createScouting(
  machine: Machine,
  courses: readonly Course[],
  { findings: before, traps }: KnownBefore,
  plan: ScoutingPlan,
): Scouting {
  const onCourses = proveOn(machine, courses, before, plan.grid !== undefined);
  // What rests on how high the body rises is searched for all the same.
  const known = [...before, ...onCourses.filter((f) => f.certainty === 'proved')];
  const dead = new Set(
    known.flatMap((f) =>
      f.code === 'IN5' && f.crossing !== null
        ? [`${machine.lanes.findIndex((l) => l.name === f.lane)} ${f.crossing.index}`]
        : [],
    ),
  );
  const triggered: TriggeredTrap[] = [];
  const scouts = courses.map((course) => {
    const scout = createScout(machine, course, { ...plan, dead });
    watchTraps(scout, traps, triggered);
    return scout;
  });
  const unlockers = scouts.map(watchUnlockers);
  // A course on which the body fits nowhere is exhausted before it is begun.
  const rounds = scouts.map((scout): Advancing => ({
    scout,
    rhythms: createRhythms(scout),
    ahead: undefined,
    idle: scout.starts.length === 0 ? EXHAUSTED : 0,
  }));
  const collection = createCollection(
    machine,
    scouts,
    rounds.map((r) => r.rhythms),
    triggered,
    known,
  );
  const coverage = (): Coverage => coverageOf(machine, scouts.flatMap(stepsOf));
  const total = (): number => scouts.reduce((n, s) => n + s.progress().situations, 0);
  return {
    arenas: scouts.map((s) => s.arena),
    async advance({ situations, goesOn = () => true, progress, expand }) {
      for (const [i, on] of rounds.entries()) {
        const { scout } = on;
        const share = (situations * (i + 1)) / scouts.length;
        await advance(on, {
          goesOn: () => total() < share && goesOn(),
          expand:
            expand === undefined
              ? undefined
              : (round) => expand(i, round, (slot, tellsAll) => scout.expandIn(slot, round.goals, tellsAll)),
          async pause() {
            collection.collect();
            await progress?.({
              course: scout.course.name,
              of: share,
              ...scout.progress(),
              coverage,
              findings: collection.findings,
            });
          },
        });
      }
    },
    report() {
      collection.collect();
      const findings = [...onCourses.filter((f) => !isRefuted(f, scouts)), ...collection.findings];
      for (const scout of scouts) findings.push(...confirmTraps(scout, [...known, ...findings]));
      const told = new Set(known.map((f) => f.fingerprint));
      const zones = unlockers.flatMap((u) => u.findings()).filter((f) => !told.has(f.fingerprint));
      return {
        findings: [...findings, ...zones, ...unreached(machine, scouts, [...known, ...findings])],
        situations: total(),
        ticks: scouts.reduce((n, s) => n + s.progress().ticks, 0),
        coverage: coverage(),
      };
    },
  };
}

/** Whether scouting saw what a suspected finding says never happens: a crossing taken, a state entered or left. */
function isRefuted(f: Finding, scouts: readonly Scout[]): boolean {
  if (f.certainty === 'proved') return false;
  return scouts.some(({ machine, sightingsFrom }) =>
    sightingsFrom(0).some(({ event }) => {
      if (event.kind !== 'taken' || machine.lanes[event.lane]?.name !== f.lane) return false;
      if (f.code === 'IN5') return event.crossing === f.crossing?.index;
      return machine.states[f.code === 'OUT2' ? event.from : event.to]?.name === f.state;
    }),
  );
}

/** The crossings that a scout saw taken, each once. */
const stepsOf = (scout: Scout): Step[] =>
  scout.sightingsFrom(0).flatMap(({ event }) => (event.kind === 'taken' ? [event] : []));

/** A scout with the round that was drawn ahead: what comes of it is merged when the next one is drawn. */
interface Advancing {
  scout: Scout;
  rhythms: Rhythms;
  ahead: { round: Round; outcomes: readonly Outcome[] | Expanding } | undefined;
  /** Rounds in which hardly anything new came about, one after the other. */
  idle: number;
}

/**
 * Rounds on one course while it goes on and something new comes of them. The round ahead is left as it is at the end,
 * so that whoever goes on later comes to the same as without a stop.
 */
async function advance(
  on: Advancing,
  {
    goesOn,
    expand,
    pause,
  }: {
    goesOn: () => boolean;
    expand: ((round: Round) => Expanding) | undefined;
    /** Called every few rounds. */
    pause: () => Promise<void>;
  },
): Promise<void> {
  const { scout } = on;
  // A small moveset on a small course is exhausted before the budget is.
  for (let n = 0; goesOn() && on.idle < EXHAUSTED; n++) {
    const last = on.ahead;
    const round = scout.draw();
    on.ahead = { round, outcomes: expand === undefined ? scout.expand(round) : expand(round) };
    if (last !== undefined) {
      const { situations } = scout.progress();
      scout.merge(last.round, await outcomesOf(last.outcomes));
      on.rhythms.goOn();
      on.idle = scout.progress().situations > situations + FEW ? 0 : on.idle + 1;
    }
    if (n % 8 === 0) await pause();
  }
  // Whoever expands elsewhere may be gone by the time that it goes on.
  if (on.ahead !== undefined) on.ahead.outcomes = await outcomesOf(on.ahead.outcomes);
}

const outcomesOf = async (outcomes: readonly Outcome[] | Expanding): Promise<readonly Outcome[]> =>
  'finish' in outcomes ? await outcomes.finish() : outcomes;

/** A scouting from beginning to end. */
export async function scoutAll(
  machine: Machine,
  courses: readonly Course[],
  known: KnownBefore,
  { seed, ...how }: ScoutingPlan & Advance,
): Promise<ScoutingReport> {
  const scouting = createScouting(machine, courses, known, { seed, ...how });
  await scouting.advance(how);
  return scouting.report();
}
