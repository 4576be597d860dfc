import type { Machine } from '../../../machine/index.js';
import { present } from '../../../present.js';
import type { Course } from '../../../world/index.js';
import type { Evidence } from '../../catalogue/evidence.js';
import { createFinding, type Finding, type Witness } from '../../sentences/finding.js';
import type { Reaches } from './facts.js';

/** A zone that unlocks an ability which is locked at first: its place among those of its course, and the ability's. */
export interface Unlocker {
  zone: number;
  ability: number;
}

export const unlockersOf = (machine: Machine, course: Course): Unlocker[] =>
  course.zones.flatMap(({ unlocks }, zone) => {
    const ability = machine.abilities.findIndex((a) => a.name === unlocks && a.locked);
    return ability < 0 ? [] : [{ zone, ability }];
  });

/** IN6: that the body does not come to such a zone; `searched` is null when that is proved. */
export function zoneFinding(
  machine: Machine,
  course: Course,
  { zone, ability }: Unlocker,
  searched: Evidence['IN6']['searched'],
  witness: Witness | null = null,
): Finding {
  const { name } = present(course.zones[zone]);
  const { name: unlocked } = present(machine.abilities[ability]);
  return createFinding({
    code: 'IN6',
    certainty: searched === null ? 'proved' : 'suspected',
    lane: '',
    state: '',
    crossing: null,
    path: ['abilities', unlocked],
    witness,
    evidence: { zone: name, ability: unlocked, course: course.name, searched },
  });
}

/** Zones that unlock something and are walled off from all spawns. */
export const walledOffUnlockers = (
  machine: Machine,
  courses: readonly Course[],
  reaches: readonly (Reaches | undefined)[],
): Finding[] =>
  courses.flatMap((course, i) => {
    const certain = reaches[i]?.certain;
    if (certain === undefined) return [];
    return unlockersOf(machine, course)
      .filter(({ zone }) => !certain.zones.has(zone))
      .map((unlocker) => zoneFinding(machine, course, unlocker, null));
  });
