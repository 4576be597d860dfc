import { readMoveset } from '../machine/index.js';
import { readCourse } from '../world/index.js';
import { proveAll } from './check.js';
import { createScouting, type Scouting, type ScoutingPlan } from './searched/index.js';

/** A moveset to scout and the courses to do it on, as texts: what a thread or a worker is given. */
export interface SearchTexts extends Pick<ScoutingPlan, 'seed' | 'grid'> {
  moveset: string;
  courses: readonly string[];
}

/**
 * Proves what can be proved of a moveset and prepares the scouting for the rest. Fails when a text does not load, which
 * whoever sends it has made sure of.
 */
export function scoutingOf(
  { moveset, courses, ...plan }: SearchTexts,
  share?: ScoutingPlan['share'],
): Scouting {
  const { machine } = readMoveset(moveset);
  if (machine === undefined) throw new Error('The moveset does not load.');
  const places = courses.map((text, i) => {
    const { course } = readCourse(text);
    if (course === undefined) throw new Error(`Course ${i + 1} does not load.`);
    return course;
  });
  return createScouting(machine, places, proveAll(machine), {
    ...plan,
    ...(share === undefined ? {} : { share }),
  });
}
