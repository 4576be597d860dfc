import { present } from '../present.js';
import { chainOf, levelOf } from '../machine/index.js';
import { explain, falseTerms, holds } from '../notation/index.js';
import type { Trace } from './trace.js';

/** When a crossing was open in a run: the nearest tick each way, or else where it came nearest and what was missing. */
export interface Opening {
  before: number | undefined;
  after: number | undefined;
  /** The tick from whose state it leaves at which the most terms of its guard held, when it was never open. */
  nearest: { tick: number; missing: string[] } | undefined;
}

/** Searches a run, back and on from a tick, for when a crossing of a lane was open in a state that it leaves. */
export function whenOpen(trace: Trace, lane: number, index: number, tick: number): Opening {
  const { machine, records } = trace;
  const crossing = present(present(machine.lanes[lane]).crossings[index]);
  const leaves = (leaf: number): boolean => levelOf(machine, crossing, leaf, chainOf(machine, leaf)) >= 0;
  const found: Opening = { before: undefined, after: undefined, nearest: undefined };
  let fewest = Infinity;
  for (const { tick: at, leavesBefore, facts } of records) {
    if (!leaves(present(leavesBefore[lane]))) continue;
    if (crossing.when === undefined || holds(crossing.when, facts)) {
      if (at < tick) found.before = at;
      else if (at > tick) found.after ??= at;
      continue;
    }
    const missing = falseTerms(explain(crossing.when, facts));
    if (missing.length < fewest) {
      fewest = missing.length;
      found.nearest = { tick: at, missing };
    }
  }
  if (found.before !== undefined || found.after !== undefined) found.nearest = undefined;
  return found;
}
