import { present } from '../../present.js';
import { chainOf, type Crossing, leafFrom, type Machine } from '../../machine/index.js';
import { type Constant, constantFacts } from './constants.js';
import { withinBudget } from '../../solver/index.js';
import { finished, type Steps } from '../../steps.js';
import { createUndecided, type Undecided } from '../catalogue/undecided.js';
import type { ClosedWay, Hindrance } from '../catalogue/evidence.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import {
  closedWay,
  fromOf,
  guardOrNull,
  guardText,
  ofState,
  placeOf,
  shutGuard,
  sourcesOf,
  targetsOf,
  waysIn,
  waysOut,
} from './guard.js';
import { shadowOf } from './overshadow.js';

/** Steps that the questions about one crossing may take: the others need some, too. */
const STEPS = 300_000;

/** What is found so, and what was too large to decide. */
export interface Structure {
  findings: Finding[];
  undecided: Undecided[];
}

export const structuralFindings = (machine: Machine): Finding[] => structure(machine).findings;

/**
 * What can be said without running anything, given what never changes: IN1, IN2, IN3, IN5, OUT1 and OUT2. Every answer is
 * proved.
 */
export const structure = (machine: Machine, constants?: readonly Constant[]): Structure =>
  finished(structureInSteps(machine, constants));

/** The same in steps, of a lane each. */
export function* structureInSteps(
  machine: Machine,
  constants: readonly Constant[] = constantFacts(machine),
): Steps<Structure> {
  const undecided: Undecided[] = [];
  const findings: Finding[] = [];
  for (const lane of machine.lanes) {
    const open = new Set<string>();
    const leaves = lane.states.filter((s) => present(machine.states[s]).members.length === 0);
    const dead = new Map<Crossing, Hindrance>();
    for (const crossing of lane.crossings) {
      const { result, undecided: questions } = withinBudget(
        () => hindranceTo(machine, crossing, constants),
        STEPS,
      );
      if (result !== undefined) dead.set(crossing, result);
      else if (questions > 0)
        for (const s of sourcesOf(machine, crossing)) open.add(present(machine.states[s]).name);
    }
    if (open.size > 0)
      undecided.push(createUndecided('guards', { lane: lane.name, states: [...open], things: [] }));
    const start = leafFrom(machine, lane.initial);
    const entrances =
      leaves.length === 1
        ? []
        : leaves
            .filter((leaf) => leaf !== start)
            .flatMap((leaf) => entranceFindings(machine, leaf, waysIn(machine, lane.crossings, leaf), dead));
    const exits =
      leaves.length === 1 ? [] : leaves.flatMap((leaf) => exitFindings(machine, leaf, lane.crossings, dead));
    // What leads to a state that nobody can enter, or out of one that nobody can leave, is reported there.
    const closed = new Set(entrances.map((f) => f.state));
    const sealed = new Set(exits.map((f) => f.state));
    const areAll = (names: ReadonlySet<string>, states: readonly number[]): boolean =>
      states.every((s) => names.has(present(machine.states[s]).name));
    const crossings = [...dead].filter(
      ([c]) => !areAll(closed, targetsOf(machine, c)) && !areAll(sealed, sourcesOf(machine, c)),
    );
    findings.push(
      ...entrances,
      ...exits,
      ...onePerFault(crossings.map(([crossing, why]) => deadFinding(machine, crossing, why))),
    );
    yield;
  }
  return { findings, undecided };
}

/** Why a crossing can never be taken: its guard, or those it always loses to. Undefined when it may be. */
function hindranceTo(
  machine: Machine,
  crossing: Crossing,
  constants: readonly Constant[],
): Hindrance | undefined {
  const shut = shutGuard(machine, crossing, constants);
  if (shut !== undefined) return { kind: 'shut', ...shut };
  const winners = shadowOf(machine, crossing, constants)?.map((w) => ({
    from: fromOf(machine, w),
    to: present(machine.states[w.to]).name,
    rank: w.rank,
    when: guardOrNull(w),
  }));
  return winners && { kind: 'overshadowed', winners };
}

/** Crossings that are word for word the same are one fault. */
const onePerFault = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f, i) => findings.findIndex((g) => g.fingerprint === f.fingerprint) === i);

function entranceFindings(
  machine: Machine,
  leaf: number,
  crossings: readonly Crossing[],
  dead: ReadonlyMap<Crossing, Hindrance>,
): Finding[] {
  const of = ofState(machine, leaf);
  const [first] = crossings;
  if (first === undefined) {
    const { path } = present(machine.states[leaf]);
    return [createFinding({ ...of, code: 'IN1', crossing: null, path, evidence: { ring: [] } })];
  }
  const ways = waysAmong(machine, crossings, dead);
  if (ways.length < crossings.length) return [];
  const at = { ...of, crossing: placeOf(machine, first), path: first.path };
  return [
    ways.some((way) => way.hindrance.kind === 'overshadowed')
      ? createFinding({ ...at, code: 'IN3', evidence: { ways } })
      : createFinding({ ...at, code: 'IN2', evidence: { ways, also: [], waits: [] } }),
  ];
}

/** Those of some crossings that can never be taken. */
const waysAmong = (
  machine: Machine,
  crossings: readonly Crossing[],
  dead: ReadonlyMap<Crossing, Hindrance>,
): ClosedWay[] =>
  crossings.flatMap((c) => {
    const hindrance = dead.get(c);
    return hindrance === undefined ? [] : [closedWay(machine, c, hindrance)];
  });

function deadFinding(machine: Machine, crossing: Crossing, why: Hindrance): Finding {
  const place = placeOf(machine, crossing);
  return createFinding({
    code: 'IN5',
    certainty: 'proved',
    lane: present(machine.lanes[crossing.lane]).name,
    state: place.to,
    crossing: place,
    path: crossing.path,
    witness: null,
    evidence: {
      guard: guardText(crossing.when),
      ways: [closedWay(machine, crossing, why)],
    },
  });
}

function exitFindings(
  machine: Machine,
  leaf: number,
  crossings: readonly Crossing[],
  dead: ReadonlyMap<Crossing, Hindrance>,
): Finding[] {
  if (chainOf(machine, leaf).some((s) => present(machine.states[s]).final)) return [];
  const of = ofState(machine, leaf);
  const out = waysOut(machine, crossings, leaf);
  const [first] = out;
  if (first === undefined) {
    const { path } = present(machine.states[leaf]);
    return [createFinding({ ...of, code: 'OUT1', crossing: null, path, evidence: {} })];
  }
  // One that loses to another still lets the lane leave, by that other one, unless that only leads back in.
  const ways = waysAmong(machine, out, dead).filter(
    ({ hindrance }) =>
      hindrance.kind === 'shut' ||
      (hindrance.kind === 'overshadowed' && hindrance.winners.every((w) => w.to === of.state)),
  );
  if (ways.length < out.length) return [];
  return [
    createFinding({
      ...of,
      code: 'OUT2',
      crossing: placeOf(machine, first),
      path: first.path,
      evidence: { ways },
    }),
  ];
}
