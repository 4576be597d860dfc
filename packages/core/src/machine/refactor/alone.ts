import { present } from '../../present.js';
import { type CrossingFile, type MovesetFile, stateAt, type StateFile } from '../../model/index.js';
import { exitsOf } from '../reference/decide.js';
import { chainOf, type Machine } from '../definition/machine.js';

/** A state with all that its groups give it, and its ways out with theirs, as it can stand in another lane. */
export interface StateAlone {
  state: string;
  is: StateFile;
  /** In the order in which they are considered, with ranks that keep that order; none from everywhere. */
  ways: Omit<CrossingFile, 'from'>[];
}

/** What a state is by itself, or undefined for a group, which is more than one state. */
export function standAlone(machine: Machine, file: MovesetFile, index: number): StateAlone | undefined {
  const state = present(machine.states[index]);
  if (state.members.length > 0) return undefined;
  const chain = chainOf(machine, index).map((s) => stateAt(file, present(machine.states[s]).path));
  return { state: state.name, is: chain.reduceRight(laidOver), ways: waysOf(machine, file, index) };
}

/** What a group says of itself alone. */
const OF_ITSELF = new Set(['home', 'final', 'passing', 'note', 'initial', 'resume', 'states']);

/** A member's fields laid over its group's, as a run has them: a field of motion whole, effects one after the other. */
function laidOver(group: StateFile, own: StateFile): StateFile {
  const given = Object.fromEntries(
    Object.entries(group).filter(([field]) => !OF_ITSELF.has(field)),
  ) as StateFile;
  const joined = <T>(first: One<T>, then: One<T>): T[] | undefined => {
    const all = [...listOf(first), ...listOf(then)];
    return all.length === 0 ? undefined : all;
  };
  const without = joined(own.stance === undefined ? given.without : undefined, own.without);
  const merged = {
    ...given,
    ...own,
    without: without?.length === 1 ? without[0] : without,
    motion:
      given.motion === undefined && own.motion === undefined ? undefined : { ...given.motion, ...own.motion },
    enter: joined(given.enter, own.enter),
    each: joined(given.each, own.each),
    exit: joined(own.exit, given.exit),
  };
  return Object.fromEntries(Object.entries(merged).filter(([, value]) => value !== undefined)) as StateFile;
}

/** One, several or none, as files write a list of one without brackets. */
type One<T> = T | readonly T[] | undefined;

const listOf = <T>(one: One<T>): T[] => (one === undefined ? [] : ([one].flat() as T[]));

function waysOf(machine: Machine, file: MovesetFile, index: number): StateAlone['ways'] {
  const lane = present(machine.states[index]).lane;
  const list = present(file.lanes[lane]).crossings ?? [];
  const exits = exitsOf(machine, index).filter(({ crossing }) => crossing.from.length > 0);
  // What a group says is considered after all that the state says: by ranks, now that both say it in one place.
  const levels = [...new Set(exits.map((e) => e.level))].reverse();
  const raised = new Map<number, number>();
  let above = -Infinity;
  for (const level of levels) {
    const ranks = exits.filter((e) => e.level === level).map((e) => e.crossing.rank);
    const by = Math.max(0, above - Math.min(...ranks) + 1);
    raised.set(level, by);
    above = Math.max(...ranks) + by;
  }
  return exits.map(({ crossing, level }) => {
    const { from: _, rank: __, ...rest } = present(list[crossing.index]);
    const rank = crossing.rank + present(raised.get(level));
    return rank === 0 ? rest : { ...rest, rank };
  });
}
