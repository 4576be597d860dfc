import { ofState } from '../guard.js';
import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { type Finding, createFinding } from '../../sentences/finding.js';
import { canHold } from '../../../solver/index.js';

import type { Exit } from './explore/exits.js';
import { situationsByLeaf, type Skeleton } from './explore/explore.js';

/** Passing states in one ring at most. */
const LONGEST = 6;

/**
 * AG5: passing states that may lead round within one tick. All of a ring is taken on the facts of one tick, so it may
 * only happen when all of its guards can hold together; when they ask for nothing it happens whenever it is entered.
 */
export function passingRings(machine: Machine, skeleton: Skeleton): Finding[] {
  const entered = situationsByLeaf(skeleton);
  const isPassing = (leaf: number): boolean =>
    present(machine.states[leaf]).passing && (entered.get(leaf)?.length ?? 0) > 0;
  const found = new Map<string, Finding>();
  const follow = (way: readonly { exit: Exit; to: number }[], at: number, start: number): void => {
    for (const exit of present(skeleton.exits.get(at))) {
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
    const names = ring.map(({ exit }) => present(machine.states[exit.leaf]).name);
    const isSure = ring.every(
      ({ exit, to }) =>
        exit.asks.length === 0 &&
        exit.targets.length === 1 &&
        present(machine.states[to]).stance < 0 &&
        present(skeleton.exits.get(exit.leaf))[0] === exit,
    );
    const { leaf, crossing } = present(ring[0]).exit;
    const finding = createFinding({
      ...ofState(machine, leaf),
      code: 'AG5',
      certainty: isSure ? 'proved' : 'suspected',
      path: crossing.path,
      evidence: { states: names, steps: null, asksForNothing: isSure },
    });
    found.set(finding.fingerprint, finding);
  };
  for (const leaf of entered.keys()) if (isPassing(leaf)) follow([], leaf, leaf);
  return [...found.values()];
}
