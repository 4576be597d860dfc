import { type Exit, type Fast, isRoomy } from './fast.js';

/** The state that is entered when a state or group is, as `leafFrom` of the reference. */
export function leafOf(fast: Fast, s: Float64Array, state: number): number {
  const { states } = fast.machine;
  const now = s[fast.layout.leaves + states[state]!.lane]!;
  let leaf = state;
  while (states[leaf]!.members.length > 0) {
    if (states[leaf]!.resumes) {
      if (fast.states[now]!.inward.includes(leaf)) return now;
      const last = s[fast.layout.last + leaf]!;
      if (last >= 0) return last;
    }
    leaf = states[leaf]!.initial;
  }
  return leaf;
}

/** Whether a crossing is open: its abilities unlocked, its guard true, and room for what it leads to. */
const isOpen = (fast: Fast, s: Float64Array, exit: Exit): boolean =>
  (exit.unlocked < 0 || fast.facts[exit.unlocked] !== 0) && exit.guard(fast.facts) && isRoomy(fast, s, exit);

/** Notes the tie that a taken crossing is in: all open ones of its level and rank, if there are others. */
export function noteTie(fast: Fast, s: Float64Array, lane: number, leaf: number, first: number): void {
  const exits = fast.exits[leaf]!;
  const taken = exits[first]!;
  let count = 0;
  for (let i = first + 1; i < exits.length; i++) {
    const exit = exits[i]!;
    if (exit.level !== taken.level || exit.crossing.rank !== taken.crossing.rank) break;
    if (!isOpen(fast, s, exit)) continue;
    if (count++ === 0) tied(fast, lane, taken.crossing.index);
    tied(fast, lane, exit.crossing.index);
  }
}

function tied(fast: Fast, lane: number, crossing: number): void {
  fast.tied[fast.tiedCount++] = lane;
  fast.tied[fast.tiedCount++] = crossing;
}
