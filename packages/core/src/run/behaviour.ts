import { present } from '../present.js';
import type { Trace } from './trace.js';

/** The first state that one run enters and another of the same moveset does not. */
export interface OtherBehaviour {
  lane: string;
  /** When it was entered (s). */
  seconds: number;
  /** What each run enters there; undefined for a run that stays where it was. */
  one: string | undefined;
  other: string | undefined;
}

/** One stay of a lane in a state. */
interface Visit {
  state: string;
  seconds: number;
}

/**
 * The first state that a lane goes to in one run and not in the other, by the order in which each goes through its
 * states; undefined when all lanes go through the same. How long they stay, and where the body is, is left out: that
 * changes with the tick rate alone.
 */
export function otherBehaviour(a: Trace, b: Trace): OtherBehaviour | undefined {
  const found = a.machine.lanes.flatMap(({ name }, lane): OtherBehaviour[] => {
    const [mine, theirs] = [visitsOf(a, lane), visitsOf(b, lane)];
    const at = Array.from({ length: Math.max(mine.length, theirs.length) }, (_, i) => i).find(
      (i) => mine[i]?.state !== theirs[i]?.state,
    );
    if (at === undefined) return [];
    const [one, other] = [mine[at], theirs[at]];
    const seconds = Math.min(one?.seconds ?? Infinity, other?.seconds ?? Infinity);
    return [{ lane: name, seconds, one: one?.state, other: other?.state }];
  });
  return found.sort((x, y) => x.seconds - y.seconds)[0];
}

function visitsOf({ machine, records }: Trace, lane: number): Visit[] {
  const visits: Visit[] = [];
  for (const { leaves, tick } of records) {
    const state = present(machine.states[present(leaves[lane])]).name;
    if (visits[visits.length - 1]?.state !== state) visits.push({ state, seconds: tick * machine.dt });
  }
  return visits;
}
