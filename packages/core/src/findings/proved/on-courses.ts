import { allEffects, type Machine } from '../../machine/index.js';
import { factId } from '../../notation/index.js';
import { truth } from '../../solver/index.js';
import type { Course } from '../../world/index.js';
import type { ConstantRef } from '../catalogue/evidence.js';
import type { Finding } from '../sentences/finding.js';
import { type Constant, constantFacts } from './constants.js';
import { structure } from './structure.js';

/**
 * What is proved on some courses, and would not be on all: crossings that ask for a zone, a surface or an anchor that none
 * of them has, or for an ability that nothing on them unlocks. Only what `known` does not tell already.
 */
export function proveOn(machine: Machine, courses: readonly Course[], known: readonly Finding[]): Finding[] {
  const facts = courses.length === 0 ? [] : courseFacts(machine, courses);
  if (facts.length === 0) return [];
  const { findings } = structure(machine, [...constantFacts(machine), ...facts]);
  return findings.filter((f) => !known.some((k) => k.fingerprint === f.fingerprint) && restsOn(f));
}

/** Facts that are the same in every run on some courses. */
function courseFacts(machine: Machine, courses: readonly Course[]): Constant[] {
  const names = courses.map((c) => c.name);
  const zones = new Set(courses.flatMap((c) => c.zones.map((z) => z.tag)));
  const solids = new Set(courses.flatMap((c) => c.solids.map((s) => s.tag)));
  const anchors = new Set(courses.flatMap((c) => c.anchors.map((a) => a.tag)));
  const unlocks = new Set(courses.flatMap((c) => c.zones.map((z) => z.unlocks)));
  const never = (key: string, kind: ConstantRef['kind'], name: string): Constant => ({
    formula: truth(key, false),
    because: { kind, name, courses: names },
  });
  const areNone = (
    tags: readonly string[] | undefined,
    among: ReadonlySet<string>,
  ): tags is readonly string[] => tags !== undefined && tags.length > 0 && !tags.some((t) => among.has(t));
  const isUnlocked = (ability: number): boolean =>
    allEffects(machine).some((e) => e.kind === 'unlock' && e.ability === ability);
  return [
    ...machine.zoneTags
      .filter((tag) => !zones.has(tag))
      .map((tag) => never(factId('inside', tag), 'noZone', tag)),
    ...machine.tagHits
      .filter(({ tag }) => !solids.has(tag))
      .map(({ probe, tag }) => never(factId('hits', probe, tag), 'noSolid', tag)),
    ...machine.probes.flatMap(({ name, sees }) =>
      areNone(sees, solids) ? [never(factId('probe', name), 'noSolid', sees.join(' or '))] : [],
    ),
    ...machine.tethers.flatMap(({ name, sees }) =>
      areNone(sees, anchors) ? [never(factId('catches', name), 'noAnchor', sees.join(' or '))] : [],
    ),
    ...machine.abilities.flatMap(({ name, locked }, i) =>
      locked && !isUnlocked(i) && !unlocks.has(name)
        ? [never(factId('unlocked', name), 'neverUnlocked', name)]
        : [],
    ),
  ];
}

/** Whether a finding rests on what courses have, and not only on the moveset. */
const restsOn = ({ evidence }: Finding): boolean =>
  'ways' in evidence &&
  evidence.ways.some(
    ({ hindrance }) => hindrance.kind === 'shut' && hindrance.constants.some((c) => c.courses !== undefined),
  );
