import type { Path } from '../../model/index.js';
import type { Comparison, FactRef } from '../../notation/index.js';
import type { AuthorKind } from '../definition/author.js';
import type { Channel } from '../definition/machine.js';
import type { Layout } from './layout.js';

/**
 * A machine's decisions, clocks, effects and velocities as data: what steps 2 to 6 of a tick do, in terms of numbers
 * alone. It knows no course. Whoever prints it in a language has a tick of this machine in that language.
 */
export interface Program {
  /** Where a situation keeps what. */
  layout: Layout;
  /** The facts by slot, each a number that is kept for a tick: its id, or `memory` for what a `within` or `for` tells. */
  facts: readonly string[];
  /** What else is kept for a tick, by name. */
  registers: readonly string[];
  /** Facts that are asked of the world, each not before an expression comes to it. */
  asked: readonly Asked[];
  /** The steps of a tick in their order. */
  steps: readonly Step[];
  /** Statements that several places have in common, or that are rare. */
  procedures: readonly Procedure[];
}

export interface Asked {
  slot: number;
  ref: FactRef;
}

export interface Step {
  name: 'sense' | 'begin' | 'clocks' | 'decide' | 'act' | 'motion' | 'keep';
  statements: readonly Statement[];
}

export interface Procedure {
  name: string;
  statements: readonly Statement[];
}

/** A number, or a truth where a condition is asked for. Only what IEEE 754 rounds in one way is in it. */
export type Term =
  | { kind: 'number'; value: number }
  /** What a situation keeps at a place, or at a place counted from `first`. */
  | { kind: 'field'; place: number }
  | { kind: 'element'; first: number; index: Term }
  /** What a control is held at in this tick. */
  | { kind: 'input'; control: number }
  /** A fact as it was found in this tick; one that is `asked` is found when it is first read. */
  | { kind: 'fact'; slot: number; asked: boolean }
  | { kind: 'register'; index: number }
  | { kind: 'local'; name: string; isTruth: boolean }
  /** What the world, or the shape of the body, has to say. */
  | { kind: 'sense'; sense: Sense; args: readonly Term[] }
  | { kind: 'operation'; op: Operation; args: readonly Term[] }
  | { kind: 'compare'; op: Comparison; left: Term; right: Term }
  | { kind: 'not'; of: Term }
  | { kind: 'all' | 'any'; of: readonly Term[] }
  | { kind: 'choice'; when: Term; then: Term; otherwise: Term };

/**
 * `/` is a plain division, `over` one that gives 0 when it divides by 0; `root` gives 0 for a negative number; `sign` −1,
 * 0 or 1; `bounded` a number as a run can hold it; `decay` e^−x; `mix` and `approach` are `lerp` and `approach` of the
 * notation.
 */
export type Operation =
  | '+'
  | '-'
  | '*'
  | '/'
  | 'over'
  | 'min'
  | 'max'
  | 'abs'
  | 'sign'
  | 'floor'
  | 'ceil'
  | 'sqrt'
  | 'root'
  | 'bounded'
  | 'decay'
  | 'mix'
  | 'approach';

/**
 * `downward` is how fast the body goes down a slope; `aimX` and `aimY` are the parts of a direction in degrees;
 * `windUp` is what the winds add up to upward; `hangs` tells whether a tether holds, `centreX` and `centreY` where its
 * anchors pull to; `middle` is how high the middle of the body is.
 */
export type Sense =
  'downward' | 'aimX' | 'aimY' | 'tetherLength' | 'windUp' | 'hangs' | 'centreX' | 'centreY' | 'middle';

export type Statement =
  /** A number, or a truth, with a name of its own from here to the end of the block. */
  | { kind: 'let'; name: string; value: Term }
  | { kind: 'set'; to: Place; value: Term }
  | { kind: 'block'; body: readonly Statement[] }
  | { kind: 'if'; when: Term; then: readonly Statement[]; otherwise: readonly Statement[] }
  | { kind: 'switch'; on: Term; cases: readonly Case[]; otherwise: readonly Statement[] }
  /** While a condition holds, but no more than so many times. */
  | { kind: 'repeat'; times: number; while: Term; body: readonly Statement[] }
  | { kind: 'call'; procedure: string }
  /** What is done in the world, or by it. */
  | { kind: 'world'; act: WorldAct; index: number }
  /** What a tick has to tell of itself; nothing follows from it within the tick. */
  | { kind: 'tell'; what: Told };

export interface Case {
  of: number;
  body: readonly Statement[];
}

export type Place = Extract<Term, { kind: 'field' | 'element' | 'fact' | 'register' | 'local' }>;

/**
 * `pickUp`: zones that the body is in unlock abilities; `launch`: they throw it; `blow`: their wind and drag change the
 * velocity in the locals `vx` and `vy`. `cast` and `release` are of the tether with the index; `drop` is through the
 * one-way platforms that are touched.
 */
export type WorldAct = 'pickUp' | 'launch' | 'blow' | 'cast' | 'release' | 'drop';

/** The channels that a lane may have to take back. */
export type Writable = Exclude<Channel, 'gravity'>;

export type Told =
  | {
      kind: 'write';
      channel: Writable;
      lane: number;
      by: AuthorKind;
      /** The state that writes; for `do` the state that was left, and in `to` the entered one. */
      who: Term;
      to: Term;
      replaces: boolean;
      value: Term;
    }
  /** A lane's writes to a channel in this tick count no longer. */
  | { kind: 'withdrawn'; channel: Writable; lane: Term }
  | { kind: 'taken'; lane: number; crossing: number; from: number; to: number }
  /** A crossing that was open, too, when another of its rank was chosen. */
  | { kind: 'tie'; lane: number; chosen: Term; crossing: number }
  /** How strongly gravity works in this tick, as a factor. */
  | { kind: 'gravity'; scale: Term }
  /** The piece of the moveset, and where it stands, that the next statement is made from; only with `origins`. */
  | { kind: 'origin'; path: Path; text: string };
