import { present } from '../present.js';
import type { Trace } from './trace.js';

/** Where two runs of the same moveset first do something else, whatever their tick rates. */
export interface OtherBehaviour {
  lane: string;
  /** When the earlier of the two went where the other did not (s). */
  seconds: number;
  /** The states that a lane was in then; undefined for the run whose lane stayed in the state before. */
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
