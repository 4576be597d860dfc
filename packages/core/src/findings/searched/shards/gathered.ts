import { present } from '../../../present.js';
import {
  addDigest,
  createFilter,
  createTree,
  eachDigest,
  type KeyFilter,
  labelOf,
  type Sighting,
  takenLabel,
  type Way,
  wayIn,
  type WayTree,
} from '../../../scout/index.js';
import type { Finding } from '../../sentences/finding.js';
import type { LegResult } from './leg.js';
import type { Shard } from './plan.js';

/** What is known of a course after some legs. */
export interface CourseSoFar {
  situations: number;
  ticks: number;
  /** What was seen, by its label, in the order of the legs and shards. */
  sightings: Map<string, Sighting>;
  /** What of it was seen in the last leg. Whether it shows faults has not been looked at yet. */
  news: Sighting[];
  /** The nearest that a crossing came to being taken, as `lane crossing`. */
  approaches: Map<string, { lane: number; crossing: number; distance: number; way: Way }>;
  /** Zones that no leg came to, with the nearest; the others are not here any more. */
  zones: Map<number, { zone: number; ability: number; nearest: number; way: Way }>;
  cameTo: Set<number>;
  /** Spots by the leaves and the square, and the way to each. */
  spots: Map<string, { leaves: number[]; way: () => Way; next: Set<string> }>;
  /** The keys of all situations that any shard came to. */
  known: KeyFilter;
}

/** What all shards know of each other when they have come to the end of a leg. It is built up leg by leg. */
export interface Gathered {
  /** Legs that are done. */
  legs: number;
  courses: CourseSoFar[];
  findings: Finding[];
  /** Suspected traps that a way led into, by their place in what is known before. */
  triggered: Set<number>;
  /** Where each shard goes on from. */
  frontiers: { tree: WayTree; ends: number[] }[];
}

/** Room for keys, for each situation that is asked for: legs go a little further than they were asked to. */
const ROOM = 1.2;

/** What is known before the first leg of a scouting of so many situations over all courses. */
export const startOfShards = (courses: number, shards: number, situations: number): Gathered => ({
  legs: 0,
  courses: Array.from({ length: courses }, () => ({
    situations: 0,
    ticks: 0,
    sightings: new Map(),
    news: [],
    approaches: new Map(),
    zones: new Map(),
    cameTo: new Set(),
    spots: new Map(),
    known: createFilter(ROOM * (situations / courses)),
  })),
  findings: [],
  triggered: new Set(),
  frontiers: Array.from({ length: shards }, () => ({ tree: createTree(), ends: [] })),
});

/** Adds what all shards found in a leg, in the order of the shards, to what was known before it. */
export function gather(so: Gathered, shards: readonly Shard[], results: readonly LegResult[]): Gathered {
  const next: Gathered = { ...so, legs: so.legs + 1, frontiers: [], findings: [...so.findings] };
  for (const course of next.courses) course.news = [];
  for (const [i, result] of results.entries()) {
    take(present(next.courses[present(shards[i]).course]), result);
    for (const finding of result.findings)
      if (!next.findings.some((f) => f.fingerprint === finding.fingerprint)) next.findings.push(finding);
    for (const trap of result.triggered) next.triggered.add(trap);
    next.frontiers.push({ tree: result.tree, ends: result.frontier });
  }
  return next;
}

/** Whether hardly anything new came of a leg in which so many situations were asked of each shard. */
export const isExhausted = (results: readonly Pick<LegResult, 'situations'>[], asked: number): boolean =>
  results.reduce((sum, { situations }) => sum + situations, 0) < (results.length * asked) / HARDLY;
const HARDLY = 200;

function take(course: CourseSoFar, result: LegResult): void {
  const { tree } = result;
  course.situations += result.situations;
  course.ticks += result.ticks;
  eachDigest(result.keys, (digest) => addDigest(course.known, digest));
  for (const { event, end } of result.sightings) {
    const label = labelOf(event);
    if (course.sightings.has(label)) continue;
    const sighting = { event, way: wayIn(tree, end) };
    course.sightings.set(label, sighting);
    course.news.push(sighting);
    if (event.kind === 'taken') course.approaches.delete(`${event.lane} ${event.crossing}`);
  }
  for (const { end, ...approach } of result.approaches) {
    const { lane, crossing, distance } = approach;
    const known = course.approaches.get(`${lane} ${crossing}`);
    const isTaken = course.sightings.has(takenLabel(lane, crossing));
    if (!isTaken && (known === undefined || distance < known.distance))
      course.approaches.set(`${lane} ${crossing}`, { ...approach, way: wayIn(tree, end) });
  }
  for (const zone of result.cameTo) {
    course.cameTo.add(zone);
    course.zones.delete(zone);
  }
  for (const { end, ...zone } of result.zones) {
    const known = course.zones.get(zone.zone);
    if (!course.cameTo.has(zone.zone) && (known === undefined || zone.nearest < known.nearest))
      course.zones.set(zone.zone, { ...zone, way: wayIn(tree, end) });
  }
  const labels = result.spots.map(({ leaves, square }) => `${leaves.join()} ${square}`);
  for (const [i, { leaves, end, next }] of result.spots.entries()) {
    const label = present(labels[i]);
    let spot = course.spots.get(label);
    if (spot === undefined)
      course.spots.set(label, (spot = { leaves, way: () => wayIn(tree, end), next: new Set() }));
    for (const target of next) spot.next.add(present(labels[target]));
  }
}
