import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { factsIn } from '../../../notation/index.js';
import { stepsWithinBudget } from '../../../solver/index.js';
import { finished, type Steps } from '../../../steps.js';
import type { Finding } from '../../sentences/finding.js';
import { createUndecided, type Undecided } from '../../catalogue/undecided.js';
import type { Trap } from './basis.js';
import { deadCrossings } from './dead-crossings.js';
import { leafDigit, leavesOfLane } from './explore/exits.js';
import { situationsByLeaf, type Skeleton } from './explore/explore.js';
import {
  DEFAULT_LIMITS,
  followedApart,
  largestOf,
  readersOf,
  type SkeletonLimits,
} from './lane-skeletons.js';
import { lockOuts } from './lock-outs.js';
import { passingRings } from './rings.js';
import { usedUp } from './used-up.js';
import { suspectedTies } from './ties.js';
import { trappedStates } from './trapped-states.js';
import { unreachableStates } from './unreachable-states.js';
import { unusedControls } from './unused-controls.js';
import { suspectedWriteConflicts } from './write-conflicts.js';

export interface SkeletonReport {
  findings: Finding[];
  /** The situations of each trap that is suspected, for a scout to look out for. */
  traps: Trap[];
  /** What was too large to decide. */
  undecided: Undecided[];
}

/**
 * What the discrete part of a moveset forces or allows, whatever the course and the inputs: IN2, IN5, OUT2 to OUT5,
 * AG1, AG2 and AG5. `known` are the findings of before; what follows from one of them is not reported again.
 */
export const skeletonFindings = (
  machine: Machine,
  known: readonly Finding[],
  limits?: SkeletonLimits,
): SkeletonReport => finished(skeletonInSteps(machine, known, limits));

/** The same in steps. */
export function* skeletonInSteps(
  machine: Machine,
  known: readonly Finding[],
  limits: SkeletonLimits = DEFAULT_LIMITS,
): Steps<SkeletonReport> {
  const findings: Finding[] = [];
  const undecided: Undecided[] = [];
  const traps: Trap[] = [];
  const add = adder(findings);
  for (const lane of machine.lanes) {
    const states = leavesOfLane(machine, lane.index).map((s) => present(machine.states[s]).name);
    const { result, undecided: questions } = yield* stepsWithinBudget(
      followed(machine, lane.index, [...known, ...findings], limits),
    );
    add(result.findings);
    traps.push(...result.traps);
    undecided.push(...result.undecided);
    if (questions > 0) undecided.push(createUndecided('guards', { lane: lane.name, states, things: [] }));
  }
  return { findings, traps, undecided };
}

/** What following a lane answers, in steps of a skeleton each. */
function* followed(
  machine: Machine,
  lane: number,
  known: readonly Finding[],
  limits: SkeletonLimits,
): Steps<SkeletonReport> {
  const name = present(machine.lanes[lane]).name;
  const skeleton = yield* largestOf(machine, lane, limits);
  if (skeleton === undefined) {
    const states = leavesOfLane(machine, lane).map((s) => present(machine.states[s]).name);
    return {
      findings: [],
      traps: [],
      undecided: [createUndecided('situations', { lane: name, states, things: [] })],
    };
  }
  const traps: Trap[] = [];
  const findings = yield* laneFindings(machine, skeleton, known, traps);
  const add = adder(findings);
  // What is read only by what the lane reads in turn is left free as sensing is.
  const freed = skeleton.slice.freed.filter((f) => readersOf(machine, lane, [f]).length > 0);
  yield* followedApart(machine, lane, { freed, limits }, function* (apart) {
    add(yield* certainFindings(machine, apart, [...known, ...findings]));
  });
  if (freed.length === 0) return { findings, traps, undecided: [] };
  const [states, things] = [readersOf(machine, lane, freed), freed.map((f) => f.name)];
  return { findings, traps, undecided: [createUndecided('apart', { lane: name, states, things })] };
}

/** Makes a function that adds findings to a list, each fault once. */
function adder(list: Finding[]): (more: readonly Finding[]) => void {
  const known = new Set(list.map((f) => f.fingerprint));
  return (more) => {
    for (const f of more) {
      if (known.has(f.fingerprint)) continue;
      known.add(f.fingerprint);
      list.push(f);
    }
  };
}

/** What is certain of a lane: as far as it follows from less than all that the lane reads. */
function* certainFindings(machine: Machine, skeleton: Skeleton, known: readonly Finding[]): Steps<Finding[]> {
  return (yield* laneFindings(machine, skeleton, known, [])).filter((f) => f.certainty === 'proved');
}

function* laneFindings(
  machine: Machine,
  skeleton: Skeleton,
  known: readonly Finding[],
  suspects: Trap[],
): Steps<Finding[]> {
  const { lane } = skeleton.slice;
  const name = present(machine.lanes[lane]).name;
  const leaves = present(machine.lanes[lane]).states.filter(
    (s) => present(machine.states[s]).members.length === 0,
  );
  if (leaves.length < 2) return usedUp(machine, skeleton, new Set());
  const own = leafDigit(skeleton.slice, lane);
  const byLeaf = situationsByLeaf(skeleton);
  const found: Finding[] = [...known];
  const add = adder(found);
  const statesOf = (codes: string): Set<string> =>
    new Set(found.filter((f) => f.lane === name && f.code.startsWith(codes)).map((f) => f.state));
  // In this order: what follows from a finding is not reported beside it.
  yield;
  add(unreachableStates(machine, skeleton, byLeaf, statesOf('IN')));
  yield;
  add(trappedStates(machine, skeleton, { own, byLeaf }, statesOf('OUT'), { suspects, found }));
  yield;
  add(deadCrossings(machine, skeleton, byLeaf, found));
  yield;
  add(lockOuts(machine, skeleton, own, byLeaf, statesOf('OUT')));
  yield;
  add(unusedControls(machine, skeleton, statesOf('OUT'), { suspects, found }));
  yield;
  add(usedUp(machine, skeleton, statesOf('OUT2')));
  add(passingRings(machine, skeleton));
  yield;
  add(suspectedTies(machine, skeleton, found));
  yield;
  add(suspectedWriteConflicts(machine, skeleton));
  return withoutRepeats(machine, found.slice(known.length));
}

/**
 * One fault, once: that a control does nothing any more is told at the variable that closes what asks for it, and that at
 * the home that is lost by it.
 */
function withoutRepeats(machine: Machine, found: readonly Finding[]): Finding[] {
  const homeless = new Set(
    found.flatMap((f) =>
      f.code === 'OUT4' && f.evidence.kind === 'home' ? f.evidence.values.map((v) => v.name) : [],
    ),
  );
  const asked = new Set(
    found.flatMap((f) => (f.code === 'OUT5' && f.evidence.end.kind !== 'timer' ? askedBy(machine, f) : [])),
  );
  const lost = new Set(
    found.flatMap((f) => (f.code === 'OUT4' && f.evidence.kind === 'control' ? [f.evidence.control] : [])),
  );
  return found.filter((f) => {
    if (f.code === 'OUT5' && f.evidence.end.kind === 'timer')
      return !askedBy(machine, f).some((c) => lost.has(c));
    if (f.code === 'OUT5') return !homeless.has(f.evidence.thing);
    return f.code !== 'OUT4' || f.evidence.kind !== 'control' || !asked.has(f.evidence.control);
  });
}

/** The names of what the guard of a finding's crossing asks for. */
function askedBy(machine: Machine, { lane, crossing }: Finding): string[] {
  const crossings = machine.lanes.find((l) => l.name === lane)?.crossings;
  const when = crossing === null ? undefined : crossings?.[crossing.index]?.when;
  return when === undefined ? [] : factsIn(when).flatMap(({ of }) => of ?? []);
}
