import { present } from '../../present.js';
import type { Machine } from '../../machine/index.js';
import { type Arena, createScout } from '../../scout/index.js';
import type { Course } from '../../world/index.js';
import type { Finding } from '../sentences/finding.js';
import { groundFor, type KnownBefore } from './ground.js';
import { reportOf, type ScoutingReport, stepsOf } from './report.js';
import { collecting, createCollection } from './collect.js';
import { type Coverage, coverageOf } from '../coverage.js';
import { type TriggeredTrap, watchTraps } from './triggered-traps.js';
import { advance, begun, type Elsewhere } from './rounds.js';
import { notComeFinding, watchUnlockers } from './unlockers.js';

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

/** Prepares the scouting of a moveset on courses. */
export function createScouting(
  machine: Machine,
  courses: readonly Course[],
  before: KnownBefore,
  plan: ScoutingPlan,
): Scouting {
  const ground = groundFor(machine, courses, before, plan.grid !== undefined);
  const { known, dead } = ground;
  const triggered: TriggeredTrap[] = [];
  const scouts = courses.map((course) => {
    const scout = createScout(machine, course, { ...plan, dead });
    watchTraps(scout, before.traps, triggered);
    return scout;
  });
  const unlockers = scouts.map(watchUnlockers);
  const rounds = scouts.map(begun);
  const collection = createCollection(machine, known);
  const collect = collecting(collection, rounds, triggered);
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
            collect();
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
      collect();
      const zones = scouts.flatMap((scout, i) =>
        present(unlockers[i])
          .notComeTo()
          .map((n) => notComeFinding(scout, n)),
      );
      return reportOf(machine, ground, scouts, { found: collection.findings, zones });
    },
  };
}

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
