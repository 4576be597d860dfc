import { present } from '../../../present.js';
import { createFast } from '../../../machine/index.js';
import { type Spot, startsOf, type Survey, takenLabel } from '../../../scout/index.js';
import { buildWorld } from '../../../world/index.js';
import { createCollection } from '../collect.js';
import { reportOf, type ScoutingReport } from '../report.js';
import { notComeFinding } from '../unlockers.js';
import type { CourseSoFar, Gathered } from './gathered.js';
import type { ShardGround } from './ground.js';

/** The report of all shards together: the same for the same plan, whoever searched which of them. */
export function mergedReport(ground: ShardGround, { courses, findings }: Gathered): ScoutingReport {
  const surveys = courses.map((course, i) => surveyOf(ground, course, i));
  const zones = courses.flatMap((course, i) =>
    [...course.zones.values()].map((zone) => notComeFinding(present(surveys[i]), zone)),
  );
  const collection = createCollection(ground.machine, [...ground.known, ...findings]);
  courses.forEach(({ news }, i) => {
    for (const sighting of news) collection.look(present(surveys[i]), sighting);
  });
  const found = [...findings, ...collection.findings];
  return reportOf(ground.machine, ground, surveys, { found, zones });
}

/** What all shards of a course saw of it. */
function surveyOf({ machine, courses, dead, grid }: ShardGround, so: CourseSoFar, index: number): Survey {
  const course = present(courses[index]);
  const world = buildWorld(course, machine.stances, machine.casts);
  const { situations, ticks } = so;
  const goals = machine.lanes.flatMap((lane) =>
    lane.crossings
      .filter(
        (c) => !dead.has(`${lane.index} ${c.index}`) && !so.sightings.has(takenLabel(lane.index, c.index)),
      )
      .map((c) => ({ lane: lane.index, crossing: c.index })),
  );
  const labels = [...so.spots.keys()];
  const places = new Map(labels.map((label, i) => [label, i]));
  const spots = new Map(
    [...so.spots.values()].map(({ leaves, next }, i): [number, Spot] => [
      i,
      { leaves, first: i, next: new Set([...next].map((label) => present(places.get(label)))) },
    ]),
  );
  return {
    machine,
    course,
    fast: createFast(machine, world),
    recording: createFast(machine, world, { allFacts: true, log: true }),
    starts: startsOf(machine, world, grid),
    goals: () => goals,
    progress: () => ({ situations, ticks }),
    sightingsFrom: (from) => [...so.sightings.values()].slice(from),
    approaches: () => [...so.approaches.values()],
    spots: () => spots,
    wayTo: (node) => present(so.spots.get(present(labels[node]))).way(),
  };
}
