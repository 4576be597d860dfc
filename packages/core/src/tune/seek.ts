import { present } from '../present.js';
import type { Steps } from '../steps.js';
import { settingsByFormula } from './closed-forms.js';
import { costOf, type Goal, isMet } from './goals.js';
import { minimising } from './minimise.js';
import { outcomeIn } from './outcomes.js';
import { playedOn } from './played.js';
import type { Setting } from './turnables.js';
import type { Trials } from './trials.js';

/** A dial that may move, and from where to where. */
export interface FreeDial {
  dial: string;
  from: number;
  to: number;
}

export interface SeekAsked {
  goals: readonly Goal[];
  free: readonly FreeDial[];
  /** All tapes whose expectations are to be kept, by place. */
  expecting: readonly number[];
  /** Where the other dials stand, and where the search begins, if not where the moveset has them. */
  at: Setting;
}

/** What came of a setting. */
export interface Reached {
  setting: Setting;
  /** Of each goal: what it came to, and whether that will do. */
  goals: { value: number; isMet: boolean }[];
  /** The expectations that are not met, as `tape: text`. */
  missed: string[];
  cost: number;
}

export interface Sought extends Reached {
  /** How many settings were tried. */
  tried: number;
  /** Of each goal that was not met: what comes of it when it is sought alone, whatever else becomes of that. */
  alone: { goal: number; reached: Reached }[];
}

/** What an expectation that is not met costs: more than a goal that is missed by all of it. */
const BOUND = 10;

/** A setting that does not load, or a run that cannot be played. */
const NOTHING = 1000;

/** So many settings are tried from each start, and so many for a goal alone. */
const FROM_A_START = 150;
const ALONE = 80;

/** What is wrong with a question, in a sentence; undefined when it can be answered. */
export function faultOfSeek({ goals, free }: SeekAsked): string | undefined {
  if (goals.length === 0) return 'Say at least one goal';
  if (free.length === 0) return 'Choose at least one dial that may move';
  for (const { dial, from, to } of free) {
    if (!Number.isFinite(from) || !Number.isFinite(to))
      return `Say from where to where ${dial} may move: the moveset gives it no range`;
    if (from >= to) return `${dial} may move from ${from} to ${to}, expected the smaller value first`;
  }
  return goals.some(({ value }) => !Number.isFinite(value)) ? 'A goal has no number' : undefined;
}

/**
 * Looks for values of some dials that meet all goals and keep all expectations, or come as near as may be: by the formula
 * of a hop where that answers, then downhill from there, from where the dials stand, and from a few places between. `hear`
 * is told of each setting that is better than all before. In steps of a setting each.
 */
export function* seeking(
  trials: Trials,
  asked: SeekAsked,
  hear: (best: Reached) => void = () => undefined,
): Steps<Sought> {
  const { free, goals } = asked;
  let best: Reached | undefined;
  let tried = 0;
  const see = (reached: Reached): Reached => {
    tried++;
    if (best === undefined || reached.cost < best.cost) {
      best = reached;
      hear(best);
    }
    return reached;
  };
  const byFormula = settingsByFormula(trials, asked)
    .map((setting) => fractionsOf(free, setting, trials))
    .filter((at) => at.every((v) => v >= 0 && v <= 1));
  for (const at of byFormula) {
    see(reachedAt(trials, asked, settingAt(free, at)));
    yield;
    if (best?.cost === 0) break;
  }
  for (const start of [...byFormula, ...startsOf(asked, trials)]) {
    if (best?.cost === 0) break;
    yield* minimising((at) => see(reachedAt(trials, asked, settingAt(free, at))).cost, start, FROM_A_START);
  }
  const found = present(best);
  const alone: Sought['alone'] = [];
  for (const [goal, { isMet: ok }] of found.goals.entries()) {
    if (ok || (goals.length === 1 && asked.expecting.length === 0)) continue;
    alone.push({ goal, reached: yield* soughtAlone(trials, asked, goal, found.setting) });
  }
  return { ...found, tried, alone };
}

/** One goal without the others and without what tapes expect; all goals are told of. */
function* soughtAlone(trials: Trials, asked: SeekAsked, goal: number, from: Setting): Steps<Reached> {
  let best: Reached | undefined;
  const one = present(asked.goals[goal]);
  yield* minimising(
    (at) => {
      const reached = reachedAt(trials, asked, settingAt(asked.free, at));
      const cost = costOf(one, present(reached.goals[goal]).value, tickOf(trials));
      if (best === undefined || cost < best.cost) best = { ...reached, cost };
      return cost;
    },
    fractionsOf(asked.free, from, trials),
    ALONE,
  );
  return present(best);
}

const tickOf = (trials: Trials): number => trials.turned({}).machine?.dt ?? 0;

/** Plays all that a question asks about at a setting. */
function reachedAt(trials: Trials, { goals, expecting, at }: SeekAsked, free: Setting): Reached {
  const setting = { ...at, ...free };
  const { machine } = trials.turned(setting);
  if (machine === undefined) {
    const none = goals.map(() => ({ value: NaN, isMet: false }));
    return { setting, goals: none, missed: [], cost: NOTHING };
  }
  const tapes = goals.map(({ tape }) => tape);
  const { measures, missed } = playedOn(trials, machine, tapes, expecting);
  const valued = goals.map((goal) => ({
    goal,
    value: outcomeIn(present(measures.get(goal.tape)), goal.outcome),
  }));
  return {
    setting,
    goals: valued.map(({ goal, value }) => ({ value, isMet: isMet(goal, value, machine.dt) })),
    missed,
    cost: valued.reduce(
      (sum, { goal, value }) => sum + costOf(goal, value, machine.dt),
      BOUND * missed.length,
    ),
  };
}

/** The setting at a point of the unit cube that the ranges of the free dials span. */
const settingAt = (free: readonly FreeDial[], at: readonly number[]): Setting =>
  Object.fromEntries(free.map(({ dial, from, to }, i) => [dial, from + (to - from) * present(at[i])]));

/** The point of a setting; a dial that it does not name stands where the moveset has it. */
const fractionsOf = (free: readonly FreeDial[], setting: Setting, { turnables }: Trials): number[] =>
  free.map(({ dial, from, to }) => {
    const value = setting[dial] ?? turnables.find(({ name }) => name === dial)?.value ?? from;
    return (value - from) / (to - from);
  });

/** Where the search begins: where the dials stand, in the middle of all ranges, and a quarter from either end. */
const startsOf = ({ free, at }: SeekAsked, trials: Trials): number[][] => [
  fractionsOf(free, at, trials).map((v) => Math.min(1, Math.max(0, v))),
  ...[0.5, 0.25, 0.75].map((share) => free.map((_, i) => (i % 2 === 0 ? share : 1 - share))),
];
