import type { Machine } from '../../machine/index.js';
import type { Survey } from '../../scout/index.js';
import type { Course } from '../../world/index.js';
import { proveOn } from '../proved/on-courses.js';
import type { Trap } from '../proved/skeleton/index.js';
import type { Finding } from '../sentences/finding.js';

/** What is known before a scouting: the findings, and what the skeleton suspects, to look out for. */
export interface KnownBefore {
  findings: readonly Finding[];
  traps: readonly Trap[];
}

/** What a search need not look for, and what it begins from. */
export interface Ground {
  /** What is proved or suspected of these courses. */
  onCourses: Finding[];
  /** All that is known before; of what rests on the courses, what is proved. */
  known: Finding[];
  /** Crossings that are known never to be taken, as `lane crossing`. */
  dead: ReadonlySet<string>;
}

/** What can be said of a moveset on courses without a search; with `anywhere` a body may begin wherever it fits. */
export function groundFor(
  machine: Machine,
  courses: readonly Course[],
  { findings: before }: KnownBefore,
  anywhere: boolean,
): Ground {
  const onCourses = proveOn(machine, courses, before, anywhere);
  // What rests on how high the body rises is searched for all the same.
  const known = [...before, ...onCourses.filter((f) => f.certainty === 'proved')];
  const dead = new Set(
    known.flatMap((f) =>
      f.code === 'IN5' && f.crossing !== null
        ? [`${machine.lanes.findIndex((l) => l.name === f.lane)} ${f.crossing.index}`]
        : [],
    ),
  );
  return { onCourses, known, dead };
}

/** Whether scouting saw what a suspected finding says never happens: a crossing taken, a state entered or left. */
export function isRefuted(f: Finding, surveys: readonly Survey[]): boolean {
  if (f.certainty === 'proved') return false;
  return surveys.some(({ machine, sightingsFrom }) =>
    sightingsFrom(0).some(({ event }) => {
      if (event.kind !== 'taken' || machine.lanes[event.lane]?.name !== f.lane) return false;
      if (f.code === 'IN5') return event.crossing === f.crossing?.index;
      return machine.states[f.code === 'OUT2' ? event.from : event.to]?.name === f.state;
    }),
  );
}
