import { allEffects, type Machine } from '../../machine/index.js';
import { factId } from '../../notation/index.js';
import { truth } from '../../solver/index.js';
import type { Course } from '../../world/index.js';
import type { ConstantRef } from '../catalogue/evidence.js';
import { type Finding, restated } from '../sentences/finding.js';
import { type Constant, constantFacts } from './constants.js';
import { reachesOn, reachFacts, walledInFindings, walledOffUnlockers } from './place/index.js';
import { structure } from './structure.js';

/**
 * What is proved on some courses for runs from their spawns, and would not be on all: crossings that ask for a zone, a
 * surface or an anchor that none of them has, for an ability that nothing on them unlocks, for a zone that no way leads
 * to, or for a stance that has room nowhere; spawns from which nothing leads; and zones that no way leads to and that
 * would unlock something. What rests on how high the body rises
 * is suspected. Only what `known` does not tell already. With `anywhere` runs begin at other places, too.
 */
export function proveOn(
  machine: Machine,
  courses: readonly Course[],
  known: readonly Finding[],
  anywhere = false,
): Finding[] {
  if (courses.length === 0) return [];
  const reaches = anywhere ? [] : courses.map((course) => reachesOn(machine, course));
  const { certain, likely } = reachFacts(machine, courses, reaches);
  const reported = new Set(known.map((f) => f.fingerprint));
  const more = (facts: readonly Constant[]): Finding[] => {
    if (facts.length === 0) return [];
    const { findings } = structure(machine, [...constantFacts(machine), ...facts]);
    const news = findings.filter((f) => !reported.has(f.fingerprint) && restsOn(f));
    for (const f of news) reported.add(f.fingerprint);
    return news;
  };
  const facts = [...courseFacts(machine, courses), ...certain];
  const proved = more(facts);
  const suspected = likely.length === 0 ? [] : more([...facts, ...likely]);
  return [
    ...proved,
    ...suspected.map((f) => restated(f, { certainty: 'suspected' })),
    ...walledInFindings(courses, reaches),
    ...walledOffUnlockers(machine, courses, reaches),
  ];
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
