import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { factsIn } from '../../../notation/index.js';
import type { Finding } from '../../sentences/finding.js';
import type { Trap } from './basis.js';
import { deadCrossings } from './dead-crossings.js';
import { leafDigit } from './explore/exits.js';
import { explore, situationsByLeaf, type Skeleton } from './explore/explore.js';
import { lockOuts } from './lock-outs.js';
import { passingRings } from './rings.js';
import { sliceOf } from './space.js';
import { usedUp } from './used-up.js';
import { suspectedTies } from './ties.js';
import { trappedStates } from './trapped-states.js';
import { unreachableStates } from './unreachable-states.js';
import { unusedControls } from './unused-controls.js';
import { suspectedWriteConflicts } from './write-conflicts.js';

/** How large a lane's skeleton may be: the product of its digits' sizes, and the situations that are explored. */
export interface SkeletonLimits {
  product: number;
  situations: number;
}

export const DEFAULT_LIMITS: SkeletonLimits = { product: 40_000, situations: 40_000 };

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
  if (leaves.length < 2) return usedUp(machine, skeleton, new Set());
  const own = leafDigit(skeleton.slice, lane);
  const byLeaf = situationsByLeaf(skeleton);
  const found: Finding[] = [...known];
  const add = (more: readonly Finding[]): void => {
    for (const f of more) if (!found.some((t) => t.fingerprint === f.fingerprint)) found.push(f);
  };
  const statesOf = (codes: string): Set<string> =>
    new Set(found.filter((f) => f.lane === name && f.code.startsWith(codes)).map((f) => f.state));
  // In this order: what follows from a finding is not reported beside it.
  add(unreachableStates(machine, skeleton, byLeaf, statesOf('IN')));
  add(trappedStates(machine, skeleton, { own, byLeaf }, statesOf('OUT'), suspects));
  add(deadCrossings(machine, skeleton, byLeaf, found));
  add(lockOuts(machine, skeleton, own, byLeaf, statesOf('OUT')));
  add(unusedControls(machine, skeleton, statesOf('OUT'), suspects));
  add(usedUp(machine, skeleton, statesOf('OUT2')));
  add(passingRings(machine, skeleton));
  add(suspectedTies(machine, skeleton));
  add(suspectedWriteConflicts(machine, skeleton));
  return withoutRepeats(machine, found.slice(known.length));
}

/** One fault, once: that a control does nothing any more is told at the variable that closes what asks for it. */
function withoutRepeats(machine: Machine, found: readonly Finding[]): Finding[] {
  const asked = new Set(
    found.flatMap((f) => {
      if (f.code !== 'OUT5' || f.crossing === null) return [];
      const lane = machine.lanes.find((l) => l.name === f.lane);
      const when = lane?.crossings[f.crossing.index]?.when;
      return when === undefined ? [] : factsIn(when).map(({ of }) => of);
    }),
  );
  return found.filter(
    (f) => f.code !== 'OUT4' || f.evidence.kind !== 'control' || !asked.has(f.evidence.control),
  );
}
