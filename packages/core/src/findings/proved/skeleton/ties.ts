import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import type { Finding } from '../../sentences/finding.js';
import { tieFinding } from '../conflicts.js';
import { digitsIn, type Exit } from './explore/exits.js';
import { situationsByLeaf, type Skeleton } from './explore/explore.js';

/**
 * AG1, suspected: two crossings of one level and rank that may be open in one tick of some situation, while nothing
 * that is considered before them is. A run that shows it makes it witnessed.
 */
export function suspectedTies(machine: Machine, skeleton: Skeleton, found: readonly Finding[]): Finding[] {
  const dead = deadIn(found, present(machine.lanes[skeleton.slice.lane]).name);
  const { lane } = skeleton.slice;
  return [...situationsByLeaf(skeleton)].flatMap(([leaf, situations]) => {
    const state = present(machine.states[leaf]);
    // A passing state is left on the facts of another; what is known of its situations says nothing about them.
    if (state.passing) return [];
    return pairsOf(present(skeleton.exits.get(leaf))).flatMap(([first, second]): Finding[] => {
      // What is never taken is reported already.
      if (dead.has(first.crossing.index) || dead.has(second.crossing.index)) return [];
      const formulas = [...first.formulas, ...second.asks];
      const both = { formulas, digits: digitsIn(machine, skeleton.slice.digits, formulas) };
      if (!situations.some((values) => skeleton.isOpen(both, values))) return [];
      const indexes = [first.crossing.index, second.crossing.index];
      return [tieFinding(machine, lane, state.name, indexes, 'suspected')];
    });
  });
}

/** The crossings of a lane that findings tell already to be never taken. */
const deadIn = (found: readonly Finding[], lane: string): Set<number> =>
  new Set(
    found
      .filter((f) => f.lane === lane && f.certainty === 'proved')
      .flatMap((f) => ('ways' in f.evidence ? f.evidence.ways.map((way) => way.crossing.index) : [])),
  );

/** Pairs of one level and rank, each once, in the order in which they are considered. */
const pairsOf = (exits: readonly Exit[]): [Exit, Exit][] =>
  exits.flatMap((first, i) =>
    exits
      .slice(i + 1)
      .filter((second) => second.level === first.level && second.crossing.rank === first.crossing.rank)
      .map((second): [Exit, Exit] => [first, second]),
  );
