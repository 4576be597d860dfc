import type { Machine } from '../../machine/index.js';
import type { Finding } from '../catalogue.js';
import { canHold } from '../solver.js';
import { base } from './answers.js';
import { type Exit, situationsByLeaf, type Skeleton } from './explore.js';

/** Passing states in one ring at most. */
const LONGEST = 6;

/**
 * AG5: passing states that may lead round within one tick. All of a ring is taken on the facts of one tick, so it may
 * only happen when all of its guards can hold together; when they ask for nothing it happens whenever it is entered.
 */
export function passingRings(machine: Machine, skeleton: Skeleton): Finding[] {
  const { lane } = skeleton.slice;
  const entered = situationsByLeaf(skeleton);
  const isPassing = (leaf: number): boolean =>
    machine.states[leaf]!.passing && (entered.get(leaf)?.length ?? 0) > 0;
  const found = new Map<string, Finding>();
  const follow = (way: readonly { exit: Exit; to: number }[], at: number, start: number): void => {
    for (const exit of skeleton.exits.get(at)!) {
      for (const { leaf: to } of exit.targets) {
        // Each ring once: from its first state in the file.
        if (!isPassing(to) || to < start || (to !== start && way.some((step) => step.to === to))) continue;
        const ring = [...way, { exit, to }];
        if (
          !canHold(
            machine,
            ring.flatMap((step) => step.exit.formulas),
          )
        )
          continue;
        if (to === start) note(ring);
        else if (ring.length < LONGEST) follow(ring, to, start);
      }
    }
  };
  const note = (ring: readonly { exit: Exit; to: number }[]): void => {
    const names = ring.map(({ exit }) => machine.states[exit.leaf]!.name);
    const laneName = machine.lanes[lane]!.name;
    const fingerprint = `AG5/${laneName}/${[...names].sort().join('+')}`;
    const isSure = ring.every(
      ({ exit, to }) =>
        exit.asks.length === 0 &&
        exit.targets.length === 1 &&
        machine.states[to]!.stance < 0 &&
        skeleton.exits.get(exit.leaf)![0] === exit,
    );
    const listed = names.join(' and ');
    found.set(fingerprint, {
      ...base(machine, 'AG5', ring[0]!.exit.leaf),
      certainty: isSure ? 'proved' : 'suspected',
      sentence: isSure
        ? `${listed} lead round within one tick whenever they are entered: the lane ${laneName} only stops because it is stopped.`
        : `${listed} may lead round within one tick: nothing keeps all their guards from holding at once.`,
      reason: [
        `${listed} ${names.length === 1 ? 'is a passing state' : 'are passing states'}: all of their crossings are decided on the facts of one tick.`,
        ...(isSure ? ['The crossings between them ask for nothing.'] : ['No run has come there yet.']),
      ],
      path: ring[0]!.exit.crossing.path,
      fingerprint,
    });
  };
  for (const leaf of entered.keys()) if (isPassing(leaf)) follow([], leaf, leaf);
  return [...found.values()];
}
