import { present } from '../../../present.js';
import { chainOf, type Machine } from '../../../machine/index.js';
import type { Certainty } from '../../catalogue/catalogue.js';
import type { ClosedWay, CrossingPlace } from '../../catalogue/evidence.js';
import { type Finding, type FindingOf, createFinding } from '../../sentences/finding.js';
import { guardOrNull, placeOf, sourcesOf, targetsOf, waysIn, waysOut } from '../guard.js';
import { type Exit, explore, leafDigit, situationsByLeaf, type Skeleton } from './explore.js';
import { canReach } from './reach.js';
import { type Blocked, blockedBy, tellsApart } from './reasons.js';
import { unusedControls } from './unused-controls.js';
import { suspectedWriteConflicts } from './write-conflicts.js';
import { passingRings } from './rings.js';
import { sliceOf, writersOfThing } from './space.js';
import { suspectedTies } from './ties.js';

/** How large a lane's skeleton may be: the product of its digits' sizes, and the situations that are explored. */
export interface SkeletonLimits {
  product: number;
  situations: number;
}

export const DEFAULT_LIMITS: SkeletonLimits = { product: 40_000, situations: 40_000 };

/** Something suspected that is so in some situations, by place in the skeleton, as soon as a run comes to one. */
export interface Trap {
  finding: Finding;
  skeleton: Skeleton;
  places: ReadonlySet<number>;
}

export interface SkeletonReport {
  findings: Finding[];
  /** The situations of each trap that is suspected, for a scout to look out for. */
  traps: Trap[];
  /** What was left free because it would have been too large, one line a lane. */
  freed: string[];
}

/**
 * What the discrete part of a moveset forces or allows, whatever the course and the inputs: IN2, IN5, OUT2 to OUT5,
 * AG1, AG2 and AG5. `known` are the findings of before; what follows from one of them is not reported again.
 */
export function skeletonFindings(
  machine: Machine,
  known: readonly Finding[],
  limits: SkeletonLimits = DEFAULT_LIMITS,
): SkeletonReport {
  const findings: Finding[] = [];
  const freed: string[] = [];
  const traps: Trap[] = [];
  for (const lane of machine.lanes) {
    const slice = sliceOf(machine, lane.index, limits.product);
    if (slice.freed.length > 0)
      freed.push(`In the lane ${lane.name}, ${slice.freed.join(', ')} could be anything at any time.`);
    const skeleton = explore(machine, slice, limits.situations);
    if (skeleton.isPartial) {
      freed.push(`The lane ${lane.name} has too many situations; nothing was concluded from them.`);
      continue;
    }
    for (const finding of laneFindings(machine, skeleton, [...known, ...findings], traps))
      if (!findings.some((f) => f.fingerprint === finding.fingerprint)) findings.push(finding);
  }
  return { findings, traps, freed };
}

function laneFindings(
  machine: Machine,
  skeleton: Skeleton,
  known: readonly Finding[],
  suspects: Trap[],
): Finding[] {
  const { lane } = skeleton.slice;
  const name = present(machine.lanes[lane]).name;
  const leaves = present(machine.lanes[lane]).states.filter(
    (s) => present(machine.states[s]).members.length === 0,
  );
  if (leaves.length < 2) return dryFindings(machine, skeleton, new Set());
  const own = leafDigit(skeleton.slice, lane);
  const byLeaf = situationsByLeaf(skeleton);
  const found: Finding[] = [...known];
  const add = (more: readonly Finding[]): void => {
    for (const f of more) if (!found.some((t) => t.fingerprint === f.fingerprint)) found.push(f);
  };
  const statesOf = (codes: string): Set<string> =>
    new Set(found.filter((f) => f.lane === name && f.code.startsWith(codes)).map((f) => f.state));
  // In this order: what follows from a finding is not reported beside it.
  add(entrances(machine, skeleton, byLeaf, statesOf('IN')));
  add(trapped(machine, skeleton, { own, byLeaf }, statesOf('OUT'), suspects));
  add(deadCrossings(machine, skeleton, byLeaf, found));
  add(lockOuts(machine, skeleton, own, byLeaf, statesOf('OUT')));
  add(dryFindings(machine, skeleton, statesOf('OUT2')));
  add(unusedControls(machine, skeleton, statesOf('OUT'), suspects));
  add(passingRings(machine, skeleton));
  add(suspectedTies(machine, skeleton));
  add(suspectedWriteConflicts(machine, skeleton));
  return found.slice(known.length);
}

type ByLeaf = ReadonlyMap<number, number[][]>;

const isReached = (byLeaf: ByLeaf, leaf: number): boolean => present(byLeaf.get(leaf)).length > 0;

/** IN1 and IN2: states that nothing leads into; those that only such states lead to are reported with them. */
function entrances(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  shut: ReadonlySet<string>,
): Finding[] {
  const { lane } = skeleton.slice;
  const crossings = present(machine.lanes[lane]).crossings;
  const unreached = [...byLeaf.keys()].filter((leaf) => !isReached(byLeaf, leaf));
  const nameOf = (leaf: number): string => present(machine.states[leaf]).name;
  const roots = unreached.flatMap((leaf): FindingOf<'IN2'>[] => {
    if (shut.has(nameOf(leaf))) return [];
    const ways = waysIn(machine, crossings, leaf).flatMap((crossing) =>
      sourcesOf(machine, crossing)
        .filter((s) => s !== leaf && isReached(byLeaf, s))
        .flatMap((s) => {
          const exit = present(present(skeleton.exits.get(s)).find((e) => e.crossing === crossing));
          return wayThrough(machine, exit, blockedBy(machine, skeleton, exit, present(byLeaf.get(s))));
        }),
    );
    const [first] = ways;
    if (first === undefined) return [];
    return [
      createFinding({
        ...base(machine, leaf),
        code: 'IN2',
        crossing: first.crossing,
        path: present(present(machine.lanes[lane]).crossings[first.crossing.index]).path,
        evidence: { ways, also: [] },
      }) as FindingOf<'IN2'>,
    ];
  });
  const known = new Set([...shut, ...roots.map((f) => f.state)]);
  const others = unreached.filter((leaf) => !known.has(nameOf(leaf)));
  if (others.length === 0) return roots;
  // Those that follow are reported at what they follow from; a ring that leads only round at its first state.
  const follows = (leaf: number, seen: Set<number>): boolean =>
    waysIn(machine, crossings, leaf).some((c) =>
      sourcesOf(machine, c).some(
        (s) =>
          known.has(nameOf(s)) ||
          (!seen.has(s) && !isReached(byLeaf, s) && follows(s, new Set([...seen, s]))),
      ),
    );
  const ring = others.filter((leaf) => !follows(leaf, new Set([leaf])));
  const also = others.filter((l) => !ring.includes(l)).map(nameOf);
  const [root, ...rest] = roots;
  const entered =
    root === undefined || also.length === 0
      ? roots
      : [createFinding({ ...root, evidence: { ...root.evidence, also } }), ...rest];
  const [head] = ring;
  if (head === undefined) return entered;
  return [
    ...entered,
    createFinding({
      ...base(machine, head),
      code: 'IN1',
      crossing: null,
      path: present(machine.states[head]).path,
      evidence: { ring: ring.map(nameOf) },
    }),
  ];
}

/** A way that is blocked, as evidence; nothing where it is open. */
const wayThrough = (machine: Machine, exit: Exit, blocked: Blocked | undefined): ClosedWay[] =>
  blocked === undefined
    ? []
    : [
        {
          crossing: placeOf(machine, exit.crossing),
          rank: exit.crossing.rank,
          state: present(machine.states[exit.leaf]).name,
          hindrance: blocked,
        },
      ];

/** IN5: crossings that are never open though where they come from and lead to is entered. */
function deadCrossings(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  found: readonly Finding[],
): Finding[] {
  const { lane } = skeleton.slice;
  return present(machine.lanes[lane]).crossings.flatMap((crossing): Finding[] => {
    const sources = sourcesOf(machine, crossing).filter((s) => isReached(byLeaf, s));
    if (sources.length === 0 || !targetsOf(machine, crossing).some((t) => isReached(byLeaf, t))) return [];
    const ways = sources.flatMap((s) => {
      const exit = present(present(skeleton.exits.get(s)).find((e) => e.crossing === crossing));
      return wayThrough(machine, exit, blockedBy(machine, skeleton, exit, present(byLeaf.get(s))));
    });
    if (ways.length < sources.length) return [];
    const place = placeOf(machine, crossing);
    const laneName = present(machine.lanes[lane]).name;
    const isReported = found.some(
      (f) =>
        f.lane === laneName &&
        (f.crossing?.index === crossing.index ||
          (f.code === 'OUT2' && sources.every((s) => present(machine.states[s]).name === f.state))),
    );
    if (isReported) return [];
    return [
      createFinding({
        ...base(machine, present(targetsOf(machine, crossing)[0])),
        code: 'IN5',
        state: place.to,
        crossing: place,
        path: crossing.path,
        evidence: { guard: guardOrNull(crossing) ?? 'always', ways },
      }),
    ];
  });
}

/** OUT2: states that are never left; and OUT3: those that cannot be left in some of their situations. */
function trapped(
  machine: Machine,
  skeleton: Skeleton,
  { own, byLeaf }: { own: number; byLeaf: ByLeaf },
  known: ReadonlySet<string>,
  suspects: Trap[],
): Finding[] {
  const { situations } = skeleton;
  const { lane } = skeleton.slice;
  const leaves = present(skeleton.slice.digits[own]).leaves;
  const leaving = new Uint8Array(situations.length);
  skeleton.from.forEach((s, step) => {
    if (present(situations[s])[own] !== present(situations[present(skeleton.to[step])])[own]) leaving[s] = 1;
  });
  const free = canReach(
    skeleton,
    (_, place) => leaving[place] !== 0,
    (a, b) => present(situations[a])[own] === present(situations[b])[own],
  );
  return leaves.flatMap((leaf, value): Finding[] => {
    if (chainOf(machine, leaf).some((s) => present(machine.states[s]).final) || !isReached(byLeaf, leaf))
      return [];
    const stuck = situations.filter((v, i) => v[own] === value && free[i] === 0);
    if (stuck.length === 0 || known.has(present(machine.states[leaf]).name)) return [];
    const others = situations.filter((v, i) => v[own] === value && free[i] !== 0);
    const out = waysOut(machine, present(machine.lanes[lane]).crossings, leaf);
    // That nothing can enter what they lead to is reported there.
    if (out.length > 0 && out.every((c) => targetsOf(machine, c).every((t) => !isReached(byLeaf, t))))
      return [];
    const ways = out.flatMap((crossing) => {
      const exit = present(present(skeleton.exits.get(leaf)).find((e) => e.crossing === crossing));
      return wayThrough(machine, exit, blockedBy(machine, skeleton, exit, stuck));
    });
    const crossing = ways[0]?.crossing ?? null;
    const path =
      crossing === null
        ? present(machine.states[leaf]).path
        : present(present(machine.lanes[lane]).crossings[crossing.index]).path;
    if (others.length === 0)
      return [createFinding({ ...base(machine, leaf), code: 'OUT2', crossing, path, evidence: { ways } })];
    const finding = createFinding({
      ...base(machine, leaf),
      code: 'OUT3',
      certainty: 'suspected',
      crossing,
      path,
      evidence: { kind: 'while', values: tellsApart(machine, skeleton, stuck, others), ways },
    });
    const places = new Set(situations.flatMap((v, i) => (v[own] === value && free[i] === 0 ? [i] : [])));
    suspects.push({ finding, skeleton, places });
    return [finding];
  });
}

/** OUT4: states after which no home of their lane can be reached again. */
function lockOuts(
  machine: Machine,
  skeleton: Skeleton,
  own: number,
  byLeaf: ByLeaf,
  known: ReadonlySet<string>,
): Finding[] {
  const { digits } = skeleton.slice;
  const { situations } = skeleton;
  const isHome = (leaf: number): boolean =>
    chainOf(machine, leaf).some((s) => present(machine.states[s]).home);
  const homes = present(digits[own]).leaves.filter(isHome);
  if (!homes.some((leaf) => isReached(byLeaf, leaf))) return [];
  const safe = canReach(skeleton, (values) =>
    isHome(present(present(digits[own]).leaves[present(values[own])])),
  );
  const lost = present(digits[own]).leaves.filter((leaf, value) => {
    const isFinal = chainOf(machine, leaf).some((s) => present(machine.states[s]).final);
    return (
      !isFinal && isReached(byLeaf, leaf) && situations.every((v, i) => v[own] !== value || safe[i] === 0)
    );
  });
  // Being stuck is reported as such; what is lost without being stuck is reported at the first state of its kind.
  const open = lost.filter((leaf) => !known.has(present(machine.states[leaf]).name));
  if (open.length < 2) return [];
  const names = (list: readonly number[]): string[] => list.map((leaf) => present(machine.states[leaf]).name);
  return [
    createFinding({
      ...base(machine, present(open[0])),
      code: 'OUT4',
      path: present(machine.states[present(open[0])]).path,
      evidence: { kind: 'home', homes: names(homes), lost: names(open) },
    }),
  ];
}

/** OUT5: counts that are spent and never given back once they are used up. */
function dryFindings(machine: Machine, skeleton: Skeleton, sealed: ReadonlySet<string>): Finding[] {
  const { slice, situations } = skeleton;
  return slice.digits.flatMap((digit, p): Finding[] => {
    if (digit.kind !== 'count') return [];
    const dry = situations.filter((v) => v[p] === 0);
    const variable = present(machine.variables[digit.index]);
    if (dry.length === 0 || dry.length === situations.length || variable.initial === 0) return [];
    const back = canReach(skeleton, (values) => present(values[p]) > 0);
    if (situations.some((v, i) => v[p] === 0 && back[i] !== 0)) return [];
    const needs = [...skeleton.exits.values()]
      .flat()
      .filter((exit) => exit.digits.includes(p) && blockedBy(machine, skeleton, exit, dry) !== undefined);
    const first = needs.find((exit) => !sealed.has(present(machine.states[exit.leaf]).name));
    if (first === undefined) return [];
    return [
      createFinding({
        ...base(machine, first.leaf),
        code: 'OUT5',
        crossing: placeOf(machine, first.crossing),
        path: variable.path,
        evidence: {
          count: digit.name,
          initial: variable.initial,
          to: present(machine.states[first.crossing.to]).name,
          writers: writersOfThing(machine, digit),
        },
      }),
    ];
  });
}

/** What findings of the skeleton about a state have in common. */
export const base = (machine: Machine, leaf: number) => {
  const { name, lane } = present(machine.states[leaf]);
  return {
    certainty: 'proved' as Certainty,
    lane: present(machine.lanes[lane]).name,
    state: name,
    crossing: null as CrossingPlace | null,
    witness: null,
  };
};
