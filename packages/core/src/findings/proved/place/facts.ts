import type { Machine } from '../../../machine/index.js';
import { factId } from '../../../notation/index.js';
import { present } from '../../../present.js';
import { truth } from '../../../solver/index.js';
import type { Course } from '../../../world/index.js';
import type { ConstantRef } from '../../catalogue/evidence.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import type { Constant } from '../constants.js';
import { groundOf } from './ground.js';
import { isWalledIn, type Reach, reachFrom } from './reach.js';
import { type Rise, riseOn } from './rise.js';

/** Where a body comes on a course from its spawns. */
export interface Reaches {
  /** However high it may rise: certain. */
  certain: Reach;
  /** By what is known of how high it rises; undefined when nothing bounds that. */
  likely: { reach: Reach; rise: Rise } | undefined;
  /** The spawns that nothing leads out of. */
  walledIn: readonly string[];
}

/** Where a body comes on a course; undefined when that cannot be told. */
export function reachesOn(machine: Machine, course: Course): Reaches | undefined {
  const ground = groundOf(machine, course);
  if (ground === undefined) return undefined;
  const { spawns, zones } = course;
  const from = (height: number): Reach => reachFrom(ground, spawns, height);
  const rise = zones.length === 0 || machine.zoneTags.length === 0 ? undefined : riseOn(machine, course);
  const isAlone = spawns.length + zones.length === 1;
  return {
    certain: from(Infinity),
    likely: rise && { reach: from(rise.height), rise },
    walledIn: isAlone ? [] : spawns.filter((s) => isWalledIn(ground, s)).map((s) => s.name),
  };
}

/** A course with where the body comes on it. */
interface On {
  course: Course;
  reaches: Reaches;
}

/**
 * Facts that are the same in every run from the spawns of some courses, because of where the body comes on them: zones
 * that it is never in, and stances that it never has room for. `likely` are those that rest on how high it rises.
 */
export function reachFacts(
  machine: Machine,
  courses: readonly Course[],
  reaches: readonly (Reaches | undefined)[],
): { certain: Constant[]; likely: Constant[] } {
  const on = paired(courses, reaches);
  if (on.length < courses.length) return { certain: [], likely: [] };
  const certainly = ({ reaches: { certain } }: On): Reach => certain;
  const likely = ({ reaches: { certain, likely } }: On): Reach => likely?.reach ?? certain;
  const zoneFacts = (which: (on: On) => Reach, kind: ConstantRef['kind']): Constant[] =>
    machine.zoneTags.flatMap((tag) => {
      const having = on.filter(({ course }) => course.zones.some((z) => z.tag === tag));
      const isReached = having.some((o) =>
        [...which(o).zones].some((z) => present(o.course.zones[z]).tag === tag),
      );
      if (having.length === 0 || isReached) return [];
      const names = having.map(({ course }) => course.name);
      const rises = having.flatMap(({ reaches: r }) => (r.likely === undefined ? [] : [r.likely.rise]));
      const rise = kind === 'tooHigh' ? { rise: highest(rises) } : {};
      return [
        {
          formula: truth(factId('inside', tag), false),
          because: { kind, name: tag, courses: names, ...rise },
        },
      ];
    });
  const asked = new Set(machine.states.map((s) => s.stance));
  const noRoom = machine.stances.flatMap(({ name }, stance): Constant[] =>
    !asked.has(stance) || on.some((o) => certainly(o).stances.has(stance))
      ? []
      : [
          {
            formula: truth(factId('fits', name), false),
            because: { kind: 'noRoom', name, courses: courses.map((c) => c.name) },
          },
        ],
  );
  const walledOff = zoneFacts(certainly, 'walledOff');
  const known = new Set(walledOff.map((c) => c.because.name));
  return {
    certain: [...walledOff, ...noRoom],
    likely: zoneFacts(likely, 'tooHigh').filter((c) => !known.has(c.because.name)),
  };
}

const paired = (courses: readonly Course[], reaches: readonly (Reaches | undefined)[]): On[] =>
  courses.flatMap((course, i) => {
    const r = reaches[i];
    return r === undefined ? [] : [{ course, reaches: r }];
  });

const centimetres = (n: number): number => Math.round(n * 100) / 100;

const highest = (rises: readonly Rise[]): { height: number; sideways: number } => ({
  height: centimetres(Math.max(...rises.map((r) => r.height))),
  sideways: centimetres(Math.max(...rises.map((r) => r.sideways))),
});

/** RK11: spawns from which the body comes to no other spawn and no zone of the course, nor out of what is solid. */
export const walledInFindings = (
  courses: readonly Course[],
  reaches: readonly (Reaches | undefined)[],
): Finding[] =>
  paired(courses, reaches).flatMap(({ course, reaches: { walledIn } }) =>
    walledIn.map((spawn) => walledInFinding(course, spawn)),
  );

const walledInFinding = (course: Course, spawn: string): Finding =>
  createFinding({
    code: 'RK11',
    certainty: 'proved',
    lane: '',
    state: '',
    crossing: null,
    path: ['body'],
    witness: null,
    evidence: { spawn, course: course.name },
  });
