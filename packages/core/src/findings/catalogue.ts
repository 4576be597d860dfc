import type { Path } from '../model/index.js';

export type Certainty = 'proved' | 'witnessed' | 'suspected';

/** The questions that the findings answer, in the order they are asked. */
export type Question = 'in' | 'out' | 'agree';

export const QUESTIONS: Record<Question, string> = {
  in: 'Can\u2019t get in',
  out: 'Can\u2019t get out',
  agree: 'Can\u2019t agree',
};

export interface CatalogueEntry {
  question: Question;
  name: string;
  /** What it is, why it hurts, and the usual repair: the help text and the documents say the same. */
  what: string;
  repair: string;
}

export const CATALOGUE = {
  IN1: {
    question: 'in',
    name: 'no way in',
    what: 'No crossing leads to the state and no lane starts in it, so it never happens.',
    repair: 'Add a crossing that leads to it, or remove the state.',
  },
  IN2: {
    question: 'in',
    name: 'shut entrance',
    what: 'There are crossings into the state, but the guard of every one of them can never hold.',
    repair: 'Drop or negate one of the terms that exclude each other, or write what the guard waits for.',
  },
  IN3: {
    question: 'in',
    name: 'overshadowed',
    what: 'Every crossing into the state always loses: whenever it is open, one that is considered first is open too.',
    repair: 'Raise the rank of the one that should win, or narrow the guard that stands before it.',
  },
  IN5: {
    question: 'in',
    name: 'dead crossing',
    what: 'A crossing can never be taken, though the state it leads to has other ways in.',
    repair: 'Mend its guard or its rank, or remove it.',
  },
  OUT1: {
    question: 'out',
    name: 'no way out',
    what: 'No crossing leads out of the state, and it is not marked final: once in, the character stays for ever.',
    repair: 'Add a crossing out of it, or mark it final.',
  },
  OUT2: {
    question: 'out',
    name: 'sealed',
    what: 'There are crossings out of the state, but the guard of every one of them can never hold: once in, the character stays for ever.',
    repair:
      'Write what a guard waits for (start the timer, set the flag, give the charge back), or mend one of the guards.',
  },
  OUT3: {
    question: 'out',
    name: 'trap',
    what: 'There is a situation of the state from which no input leads out any more.',
    repair:
      'Add a crossing out of it that needs nothing which may be used up, or give back what its ways out wait for.',
  },
  OUT4: {
    question: 'out',
    name: 'lock-out',
    what: 'A state that is declared a home can no longer be reached: the character goes on, but never gets back.',
    repair: 'Add a crossing that leads back, or give back what the way home waits for.',
  },
  OUT5: {
    question: 'out',
    name: 'run dry',
    what: 'A count is spent on the way round and never given back: after a few uses what it allows is gone for good.',
    repair: 'Give the count a `refill` (on the ground, say), or an effect that gives it back.',
  },
  AG1: {
    question: 'agree',
    name: 'tie',
    what: 'Two crossings of a lane were open in the same tick with equal rank, so only the order of the lines decided.',
    repair: 'Give the one that should win a higher rank, or make the guards exclude each other.',
  },
} satisfies Record<string, CatalogueEntry>;

export type Code = keyof typeof CATALOGUE;

/** One fault, once, in plain words, at a place, with evidence. */
export interface Finding {
  code: Code;
  certainty: Certainty;
  lane: string;
  state: string;
  crossing: { from: string; to: string; index: number } | null;
  sentence: string;
  /** The terms, writes or crossings that force it, one plain line each. */
  reason: string[];
  /** Where it was seen, for a witnessed one. */
  witness: { tape: string; tick: number } | null;
  /** The place in the moveset. */
  path: Path;
  /** The same for the same fault whatever is edited elsewhere. */
  fingerprint: string;
}

export const questionOf = (code: Code): Question => CATALOGUE[code].question;
