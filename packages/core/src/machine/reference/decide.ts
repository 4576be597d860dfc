import { present } from '../../present.js';
import { holds } from '../../notation/index.js';
import { chainOf, type Crossing, type Machine, isWithin } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import { leafFrom } from './situation.js';

/**
 * What became of a crossing in a tick: `taken`; `lost`, open but another came first; `closed`, its guard is false;
 * `locked`, its ability is; `noRoom`, open but the target's stance does not fit.
 */
export type Verdict = 'taken' | 'lost' | 'closed' | 'locked' | 'noRoom';

export interface Choice {
  crossing: Crossing;
  /** How far out it is listed: 0 at the active state itself, more at its groups, most for everywhere. */
  level: number;
  verdict: Verdict;
  /** The stance that had no room, with verdict `noRoom`. */
  stance: number;
}

/**
 * Step 4 of a tick for one lane, whose active state is `leaf`: all crossings that leave the active state, in the order they are considered
 * (inner before outer, higher rank first, file order), each with its verdict. A pure function of the tick's facts,
 * so that *why* can ask again later. `last` is what groups with `resume` go back to.
 */
export function decide(
  machine: Machine,
  leaf: number,
  facts: ArrayLike<number>,
  last: readonly number[],
): Choice[] {
  const choices = exitsOf(machine, leaf).map(({ crossing, level }): Choice => ({
    crossing,
    level,
    ...judge(machine, crossing, facts, { last, leaf }),
  }));
  const first = choices.find((c) => c.verdict === 'lost');
  if (first !== undefined) first.verdict = 'taken';
  return choices;
}

/** The crossings that leave a state, in the order in which `decide` considers them. */
export function exitsOf(machine: Machine, leaf: number): { crossing: Crossing; level: number }[] {
  const chain = chainOf(machine, leaf);
  return present(machine.lanes[present(machine.states[leaf]).lane])
    .crossings.map((crossing) => ({
      crossing,
      level: levelOf(machine, crossing, leaf, chain),
    }))
    .filter(({ level }) => level >= 0)
    .sort(
      (a, b) => a.level - b.level || b.crossing.rank - a.crossing.rank || a.crossing.index - b.crossing.index,
    );
}

/** The tie that the taken crossing is in: itself and all open ones of its level and rank; empty when there is none. */
export function tieOf(choices: readonly Choice[]): Choice[] {
  const taken = choices.find((c) => c.verdict === 'taken');
  if (taken === undefined) return [];
  const tied = choices.filter(
    (c) =>
      (c === taken || c.verdict === 'lost') &&
      c.level === taken.level &&
      c.crossing.rank === taken.crossing.rank,
  );
  return tied.length > 1 ? tied : [];
}

/**
 * Where a crossing is listed for an active state, or −1 when it does not leave it. One from a group or from
 * everywhere does not lead back to where the lane already is, unless it says `reenter`.
 */
export function levelOf(
  machine: Machine,
  crossing: Crossing,
  leaf: number,
  chain: readonly number[],
): number {
  const everywhere = crossing.from.length === 0;
  const level = everywhere ? chain.length : chain.findIndex((s) => crossing.from.includes(s));
  if (level <= 0) return level;
  return !crossing.reenter && isWithin(machine, leaf, crossing.to) ? -1 : level;
}

/** `lost` stands for open until the first open one has been found. */
function judge(
  machine: Machine,
  crossing: Crossing,
  facts: ArrayLike<number>,
  now: { last: readonly number[]; leaf: number },
): { verdict: Verdict; stance: number } {
  const target = present(machine.states[leafFrom(machine, crossing.to, now)]);
  for (const ability of [crossing.ability, target.ability]) {
    if (
      ability >= 0 &&
      facts[slotOf(machine.facts, 'unlocked', present(machine.abilities[ability]).name)] === 0
    )
      return { verdict: 'locked', stance: -1 };
  }
  if (!holds(crossing.when, facts)) return { verdict: 'closed', stance: -1 };
  if (target.stance >= 0 && target.ifBlocked === 'refuse') {
    const room = facts[slotOf(machine.facts, 'fits', present(machine.stances[target.stance]).name)];
    if (room === 0) return { verdict: 'noRoom', stance: target.stance };
  }
  return { verdict: 'lost', stance: -1 };
}
