import type { Outcome, Round, Scout } from '../../scout/index.js';
import { createRhythms, type Rhythms } from './rhythms.js';

/** Rounds with hardly anything new after which there is nothing left to find, and how much is hardly anything. */
const EXHAUSTED = 60;
const FEW = 4;

/**
 * Begins to expand a round on a course with others. `here` expands one slot of it on this thread, which tells the first of
 * each sort of event only, or all.
 */
export type Elsewhere = (
  course: number,
  round: Round,
  here: (slot: number, tellsAll: boolean) => Outcome,
) => Expanding;

/** A round that is under way. */
export interface Expanding {
  /** Takes part in what is left of it, waits for the others, and gives what came of each task. To be called once. */
  finish(): Promise<readonly Outcome[]>;
}

/** A scout with the round that was drawn ahead: what comes of it is merged when the next one is drawn. */
export interface Advancing {
  scout: Scout;
  rhythms: Rhythms;
  ahead: { round: Round; outcomes: readonly Outcome[] | Expanding } | undefined;
  /** Rounds in which hardly anything new came about, one after the other. */
  idle: number;
}

/** The rounds of a scout, not begun. One on a course where the body fits nowhere is exhausted before it is begun. */
export const begun = (scout: Scout): Advancing => ({
  scout,
  rhythms: createRhythms(scout),
  ahead: undefined,
  idle: scout.starts.length === 0 ? EXHAUSTED : 0,
});

/**
 * Rounds on one course while it goes on and something new comes of them. The round ahead is left as it is at the end,
 * so that whoever goes on later comes to the same as without a stop.
 */
export async function advance(
  on: Advancing,
  {
    goesOn,
    expand,
    pause,
  }: {
    goesOn: () => boolean;
    expand: ((round: Round) => Expanding) | undefined;
    /** Called every few rounds. */
    pause: () => Promise<void>;
  },
): Promise<void> {
  const { scout } = on;
  // A small moveset on a small course is exhausted before the budget is.
  for (let n = 0; goesOn() && on.idle < EXHAUSTED; n++) {
    const last = on.ahead;
    const round = scout.draw();
    on.ahead = { round, outcomes: expand === undefined ? scout.expand(round) : expand(round) };
    if (last !== undefined) {
      const { situations } = scout.progress();
      scout.merge(last.round, await outcomesOf(last.outcomes));
      on.rhythms.goOn();
      on.idle = scout.progress().situations > situations + FEW ? 0 : on.idle + 1;
    }
    if (n % 8 === 0) await pause();
  }
  // Whoever expands elsewhere may be gone by the time that it goes on.
  if (on.ahead !== undefined) on.ahead.outcomes = await outcomesOf(on.ahead.outcomes);
}

const outcomesOf = async (outcomes: readonly Outcome[] | Expanding): Promise<readonly Outcome[]> =>
  'finish' in outcomes ? await outcomes.finish() : outcomes;
