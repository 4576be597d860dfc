import { chainOf, type Machine } from '../../machine/index.js';
import { print } from '../../notation/index.js';
import type { Finding } from '../catalogue.js';
import { fromOf, placeOf, sourcesOf, targetsOf, waysIn, waysOut } from '../guard.js';
import { type Exit, explore, leafDigit, situationsByLeaf, type Skeleton } from './explore.js';
import { canReach } from './reach.js';
import { type Blocked, blockedBy, tellsApart } from './reasons.js';
import { deafFindings } from './deaf.js';
import { suspectedHands } from './hands.js';
import { passingRings } from './rings.js';
import { sliceOf, writersInWords } from './space.js';
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
  /** The sentence when a run has come there, and what is so from then on. */
  sentence: string;
  after: string;
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
 * AG1, AG2 and AG5. `told` are the findings that are known already; what follows from one of them is not told again.
 */
export function skeletonFindings(
  machine: Machine,
  told: readonly Finding[],
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
    for (const finding of laneFindings(machine, skeleton, [...told, ...findings], traps))
      if (!findings.some((f) => f.fingerprint === finding.fingerprint)) findings.push(finding);
  }
  return { findings, traps, freed };
}

function laneFindings(
  machine: Machine,
  skeleton: Skeleton,
  told: readonly Finding[],
  suspects: Trap[],
): Finding[] {
  const { lane } = skeleton.slice;
  const name = machine.lanes[lane]!.name;
  const leaves = machine.lanes[lane]!.states.filter((s) => machine.states[s]!.members.length === 0);
  if (leaves.length < 2) return dryFindings(machine, skeleton, new Set());
  const own = leafDigit(skeleton.slice, lane);
  const byLeaf = situationsByLeaf(skeleton);
  const found: Finding[] = [...told];
  const tell = (more: readonly Finding[]): void => {
    for (const f of more) if (!found.some((t) => t.fingerprint === f.fingerprint)) found.push(f);
  };
  const statesTold = (codes: string): Set<string> =>
    new Set(found.filter((f) => f.lane === name && f.code.startsWith(codes)).map((f) => f.state));
  // In this order: what follows from a finding is not told beside it.
  tell(entrances(machine, skeleton, byLeaf, statesTold('IN')));
  tell(trapped(machine, skeleton, own, byLeaf, statesTold('OUT'), suspects));
  tell(deadCrossings(machine, skeleton, byLeaf, found));
  tell(lockOuts(machine, skeleton, own, byLeaf, statesTold('OUT')));
  tell(dryFindings(machine, skeleton, statesTold('OUT2')));
  tell(deafFindings(machine, skeleton, statesTold('OUT'), suspects));
  tell(passingRings(machine, skeleton));
  tell(suspectedTies(machine, skeleton));
  tell(suspectedHands(machine, skeleton));
  return found.slice(told.length);
}

type ByLeaf = ReadonlyMap<number, number[][]>;

const isReached = (byLeaf: ByLeaf, leaf: number): boolean => byLeaf.get(leaf)!.length > 0;

/** IN1 and IN2: states that nothing leads into; those that only such states lead to are told with them. */
function entrances(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  shut: ReadonlySet<string>,
): Finding[] {
  const { lane } = skeleton.slice;
  const crossings = machine.lanes[lane]!.crossings;
  const unreached = [...byLeaf.keys()].filter((leaf) => !isReached(byLeaf, leaf));
  const nameOf = (leaf: number): string => machine.states[leaf]!.name;
  const roots = unreached.flatMap((leaf): Finding[] => {
    if (shut.has(nameOf(leaf))) return [];
    const blocks = waysIn(machine, crossings, leaf).flatMap((crossing) =>
      sourcesOf(machine, crossing)
        .filter((s) => s !== leaf && isReached(byLeaf, s))
        .flatMap((s) => {
          const exit = skeleton.exits.get(s)!.find((e) => e.crossing === crossing)!;
          const blocked = blockedBy(machine, skeleton, exit, byLeaf.get(s)!);
          return blocked === undefined ? [] : [{ exit, blocked }];
        }),
    );
    const first = blocks[0];
    if (first === undefined) return [];
    const from = nameOf(first.exit.leaf);
    const which =
      blocks.length === 1
        ? `its only way in, from ${from},`
        : `none of its ${blocks.length} ways in can ever open; the one from ${from}`;
    return [
      {
        ...base(machine, 'IN2', leaf),
        crossing: placeOf(machine, first.exit.crossing),
        sentence: `${nameOf(leaf)} can never be entered: ${which} ${blockedSentence(first.blocked)}.`,
        reason: blocks.flatMap(({ exit, blocked }) => reasonLines(machine, exit, blocked)),
        path: first.exit.crossing.path,
      },
    ];
  });
  const told = new Set([...shut, ...roots.map((f) => f.state)]);
  const others = unreached.filter((leaf) => !told.has(nameOf(leaf)));
  if (others.length === 0) return roots;
  // Those that follow are told at what they follow from; a ring that leads only round is told at its first state.
  const follows = (leaf: number, seen: Set<number>): boolean =>
    waysIn(machine, crossings, leaf).some((c) =>
      sourcesOf(machine, c).some(
        (s) =>
          told.has(nameOf(s)) || (!seen.has(s) && !isReached(byLeaf, s) && follows(s, new Set([...seen, s]))),
      ),
    );
  const ring = others.filter((leaf) => !follows(leaf, new Set([leaf])));
  const root = roots[0];
  if (root !== undefined && ring.length < others.length)
    root.reason.push(
      `With it: ${others
        .filter((l) => !ring.includes(l))
        .map(nameOf)
        .join(', ')}.`,
    );
  if (ring.length === 0) return roots;
  const names = ring.map(nameOf).join(', ');
  return [
    ...roots,
    {
      ...base(machine, 'IN1', ring[0]!),
      sentence:
        ring.length === 1
          ? `${names} can never be entered: what leads to it can never be taken.`
          : `${names} can never be entered: they lead only to each other.`,
      reason: ['No crossing that can be taken leads in from a state that can be entered.'],
      path: machine.states[ring[0]!]!.path,
    },
  ];
}

/** IN5: crossings that are never open though where they come from and lead to is entered. */
function deadCrossings(
  machine: Machine,
  skeleton: Skeleton,
  byLeaf: ByLeaf,
  told: readonly Finding[],
): Finding[] {
  const { lane } = skeleton.slice;
  return machine.lanes[lane]!.crossings.flatMap((crossing): Finding[] => {
    const sources = sourcesOf(machine, crossing).filter((s) => isReached(byLeaf, s));
    if (sources.length === 0 || !targetsOf(machine, crossing).some((t) => isReached(byLeaf, t))) return [];
    const blocks = sources.map((s) => {
      const exit = skeleton.exits.get(s)!.find((e) => e.crossing === crossing)!;
      return { exit, blocked: blockedBy(machine, skeleton, exit, byLeaf.get(s)!) };
    });
    const first = blocks[0]!;
    if (blocks.some((b) => b.blocked === undefined) || first.blocked === undefined) return [];
    const place = placeOf(machine, crossing);
    const guard = crossing.when === undefined ? 'always' : print(crossing.when.syntax);
    const laneName = machine.lanes[lane]!.name;
    const isTold = told.some(
      (f) =>
        f.lane === laneName &&
        (f.crossing?.index === crossing.index ||
          (f.code === 'OUT2' && sources.every((s) => machine.states[s]!.name === f.state))),
    );
    if (isTold) return [];
    return [
      {
        ...base(machine, 'IN5', targetsOf(machine, crossing)[0]!),
        state: place.to,
        crossing: place,
        sentence: `The crossing from ${place.from} to ${place.to} can never be taken: it ${blockedSentence(first.blocked)}.`,
        reason: blocks.flatMap(({ exit, blocked }) => reasonLines(machine, exit, blocked!)),
        path: crossing.path,
        fingerprint: `IN5/${laneName}/${place.from}>${place.to}/${guard}`,
      },
    ];
  });
}

/** OUT2: states that are never left; and OUT3: those that cannot be left in some of their situations. */
function trapped(
  machine: Machine,
  skeleton: Skeleton,
  own: number,
  byLeaf: ByLeaf,
  told: ReadonlySet<string>,
  suspects: Trap[],
): Finding[] {
  const { situations } = skeleton;
  const { lane } = skeleton.slice;
  const leaves = skeleton.slice.digits[own]!.leaves;
  const leaving = new Uint8Array(situations.length);
  skeleton.from.forEach((s, step) => {
    if (situations[s]![own] !== situations[skeleton.to[step]!]![own]) leaving[s] = 1;
  });
  const free = canReach(
    skeleton,
    (_, place) => leaving[place] !== 0,
    (a, b) => situations[a]![own] === situations[b]![own],
  );
  return leaves.flatMap((leaf, value): Finding[] => {
    if (chainOf(machine, leaf).some((s) => machine.states[s]!.final) || !isReached(byLeaf, leaf)) return [];
    const stuck = situations.filter((v, i) => v[own] === value && free[i] === 0);
    if (stuck.length === 0 || told.has(machine.states[leaf]!.name)) return [];
    const others = situations.filter((v, i) => v[own] === value && free[i] !== 0);
    const ways = waysOut(machine, machine.lanes[lane]!.crossings, leaf);
    // That nothing can enter what they lead to is told there.
    if (ways.length > 0 && ways.every((c) => targetsOf(machine, c).every((t) => !isReached(byLeaf, t))))
      return [];
    const lines = ways.flatMap((crossing) => {
      const exit = skeleton.exits.get(leaf)!.find((e) => e.crossing === crossing)!;
      const blocked = blockedBy(machine, skeleton, exit, stuck);
      return blocked === undefined ? [] : [{ exit, blocked }];
    });
    const state = machine.states[leaf]!.name;
    const reason = lines.flatMap(({ exit, blocked }) => reasonLines(machine, exit, blocked));
    const first = lines[0];
    const crossing = first === undefined ? null : placeOf(machine, first.exit.crossing);
    const path = first?.exit.crossing.path ?? machine.states[leaf]!.path;
    const why =
      first === undefined
        ? 'nothing leads out'
        : `its way out to ${crossing!.to} ${blockedSentence(first.blocked)}`;
    if (others.length === 0)
      return [
        {
          ...base(machine, 'OUT2', leaf),
          crossing,
          sentence: `${state} can never be left: ${why}.`,
          reason,
          path,
        },
      ];
    const when = tellsApart(machine, skeleton, stuck, others);
    const finding: Finding = {
      ...base(machine, 'OUT3', leaf),
      certainty: 'suspected',
      crossing,
      sentence: `${state} may become a trap${when === '' ? '' : `: while ${when}, nothing leads out`}; ${why.replace(' always ', ' ')}.`,
      reason: [...reason, 'No run has come there yet.'],
      path,
    };
    const places = new Set(situations.flatMap((v, i) => (v[own] === value && free[i] === 0 ? [i] : [])));
    const sentence = finding.sentence.replace(' may become a trap', ' is a trap');
    const after = 'nothing that is pressed, on any course, leads out';
    suspects.push({ finding, sentence, after, skeleton, places });
    return [finding];
  });
}

/** OUT4: states after which no home of their lane can be reached again. */
function lockOuts(
  machine: Machine,
  skeleton: Skeleton,
  own: number,
  byLeaf: ByLeaf,
  told: ReadonlySet<string>,
): Finding[] {
  const { digits } = skeleton.slice;
  const { situations } = skeleton;
  const isHome = (leaf: number): boolean => chainOf(machine, leaf).some((s) => machine.states[s]!.home);
  const homes = digits[own]!.leaves.filter(isHome);
  if (!homes.some((leaf) => isReached(byLeaf, leaf))) return [];
  const safe = canReach(skeleton, (values) => isHome(digits[own]!.leaves[values[own]!]!));
  const home = homes.map((s) => machine.states[s]!.name).join(' or ');
  const lost = digits[own]!.leaves.filter((leaf, value) => {
    const isFinal = chainOf(machine, leaf).some((s) => machine.states[s]!.final);
    return (
      !isFinal && isReached(byLeaf, leaf) && situations.every((v, i) => v[own] !== value || safe[i] === 0)
    );
  });
  // Being stuck is told as such; what is lost without being stuck is told at the first state of its kind.
  const open = lost.filter((leaf) => !told.has(machine.states[leaf]!.name));
  if (open.length < 2) return [];
  const names = open.map((leaf) => machine.states[leaf]!.name);
  return [
    {
      ...base(machine, 'OUT4', open[0]!),
      sentence: `After ${names[0]} there is no way back to ${home}: from there only ${names.slice(1).join(', ')} can be reached.`,
      reason: [
        `${home} is declared a home; no crossing out of ${names.join(', ')} that can be taken leads back to it.`,
      ],
      path: machine.states[open[0]!]!.path,
    },
  ];
}

/** OUT5: counts that are spent and never given back once they are used up. */
function dryFindings(machine: Machine, skeleton: Skeleton, sealed: ReadonlySet<string>): Finding[] {
  const { slice, situations } = skeleton;
  return slice.digits.flatMap((digit, p): Finding[] => {
    if (digit.kind !== 'count') return [];
    const dry = situations.filter((v) => v[p] === 0);
    const variable = machine.variables[digit.index]!;
    if (dry.length === 0 || dry.length === situations.length || variable.initial === 0) return [];
    const back = canReach(skeleton, (values) => values[p]! > 0);
    if (situations.some((v, i) => v[p] === 0 && back[i] !== 0)) return [];
    const needs = [...skeleton.exits.values()]
      .flat()
      .filter((exit) => exit.digits.includes(p) && blockedBy(machine, skeleton, exit, dry) !== undefined);
    const first = needs.find((exit) => !sealed.has(machine.states[exit.leaf]!.name));
    if (first === undefined) return [];
    const writers = writersInWords(machine, digit);
    return [
      {
        ...base(machine, 'OUT5', first.leaf),
        crossing: placeOf(machine, first.crossing),
        sentence: `${digit.name} runs dry: after ${variable.initial === 1 ? 'one use' : `${variable.initial} uses`} nothing gives it back, and ${machine.states[first.crossing.to]!.name} can never be entered that way again.`,
        reason: [
          `${digit.name} starts at ${variable.initial}, has no refill, and is written only by ${writers.join(', ')}.`,
        ],
        path: variable.path,
        fingerprint: `OUT5/${digit.name}`,
      },
    ];
  });
}

/** What findings of the skeleton about a state have in common. */
export const base = (machine: Machine, code: Finding['code'], leaf: number) => {
  const state = machine.states[leaf]!;
  const lane = machine.lanes[state.lane]!.name;
  return {
    code,
    certainty: 'proved' as Finding['certainty'],
    lane,
    state: state.name,
    crossing: null as Finding['crossing'],
    witness: null,
    fingerprint: `${code}/${lane}/${state.name}`,
  };
};

function blockedSentence({ terms, because }: Blocked): string {
  const why = because.length === 0 ? 'which never holds there' : `but ${because.join(' and ')}`;
  return `asks for ${terms.join(' and ')}, ${why}`;
}

function reasonLines(machine: Machine, exit: Exit, blocked: Blocked): string[] {
  const { to } = placeOf(machine, exit.crossing);
  const from = machine.states[exit.leaf]!.name;
  const head = `${from} → ${to} ${blockedSentence(blocked)}.`;
  const whole =
    fromOf(machine, exit.crossing) === from
      ? head
      : `${head.slice(0, -1)} (listed from ${fromOf(machine, exit.crossing)}).`;
  return [whole, ...blocked.writers];
}
