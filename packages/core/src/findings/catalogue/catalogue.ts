export type Certainty = 'proved' | 'witnessed' | 'suspected';

/** The questions that the findings answer, in the order they are asked. */
export type Question = 'in' | 'out' | 'agree' | 'risky' | 'tidy';

export const QUESTIONS: Record<Question, string> = {
  in: 'Can\u2019t get in',
  out: 'Can\u2019t get out',
  agree: 'Can\u2019t agree',
  risky: 'Looks risky',
  tidy: 'Tidy up',
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
  IN4: {
    question: 'in',
    name: 'not reached',
    what: 'Nothing rules the state or crossing out, but the scouting never got there.',
    repair:
      'Look at what blocked the nearest approach; scout longer, or on a course that has what the guard asks for.',
  },
  IN5: {
    question: 'in',
    name: 'dead crossing',
    what: 'A crossing can never be taken, though the state it leads to has other ways in.',
    repair: 'Mend its guard or its rank, or remove it.',
  },
  IN6: {
    question: 'in',
    name: 'zone not reached',
    what: 'A zone of a course unlocks an ability that is locked at first, and the body never came to the zone: there the ability stays locked.',
    repair:
      'Make a way to the zone that needs nothing which it unlocks, or put it where the body comes; scout longer when it is only suspected.',
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
    what: 'A state that is declared a home can no longer be reached, or a control no longer does anything: the character goes on, but never gets back.',
    repair:
      'Add a crossing that leads back, or give back what the way home waits for; let a state that can follow listen to the control.',
  },
  OUT5: {
    question: 'out',
    name: 'run dry',
    what: 'A count is spent and never given back, a number only grows, a flag is set and never cleared, a timer is started once: after a few uses a crossing that asks for it is closed for good.',
    repair: 'Give it a `refill` or a `reset` (on the ground, say), or an effect that gives it back.',
  },
  OUT6: {
    question: 'out',
    name: 'cramped',
    what: 'The body is where it can never grow back into the stance that the ways out ask for, and nothing else leads out.',
    repair: 'Add a way out into a stance that fits, or let the state move on to where there is room.',
  },
  AG1: {
    question: 'agree',
    name: 'tie',
    what: 'Two crossings of a lane were open in the same tick with equal rank, so only the order of the lines decided.',
    repair: 'Give the one that should win a higher rank, or make the guards exclude each other.',
  },
  AG2: {
    question: 'agree',
    name: 'write conflict',
    what: 'Two lanes, or an effect and what the entered state holds, write one channel in the same tick, and one write is lost before it moved anything.',
    repair: 'Let one lane yield the channel (`yields`), or write it in one place only.',
  },
  AG3: {
    question: 'agree',
    name: 'shared key',
    what: 'One key or pad button drives two controls that are both listened to in one state: nobody can press one without the other.',
    repair: 'Bind one of the controls to another key, or listen to one of them only.',
  },
  AG4: {
    question: 'agree',
    name: 'flicker',
    what: 'The lane goes back and forth between two states within a few ticks, or enters one again every tick, while no control changes.',
    repair: 'Ask for more on the way back (`for`), so that the two guards do not open each other.',
  },
  AG5: {
    question: 'agree',
    name: 'endless passing',
    what: 'Passing states form a loop within one tick; the machine stops them after eight steps.',
    repair: 'Give the ring a way out whose guard holds, or make one of its states a state that lasts.',
  },
  AG6: {
    question: 'agree',
    name: 'clock fight',
    what: 'A timer is started again by one lane while a state of another still waits for it to run out.',
    repair: 'Give each of them a timer of its own, or say `again: ignore`.',
  },
  RK1: {
    question: 'risky',
    name: 'free climb',
    what: 'One crossing can be taken again and again in one flight, higher each time.',
    repair: 'Spend a count on it that only the ground gives back.',
  },
  RK2: {
    question: 'risky',
    name: 'held repeat',
    what: 'A button that is only held takes a crossing that launches, again and again.',
    repair: 'Ask for `pressed` instead of `held`, or spend a cooldown.',
  },
  RK3: {
    question: 'risky',
    name: 'weak launch',
    what: 'A launch is taken back by something else in the same tick, or by the ground, before it moves the body; or by another lane one tick later.',
    repair: 'Write the velocity after what cancels it, or let the state not hold it.',
  },
  RK4: {
    question: 'risky',
    name: 'short probe',
    what: 'A probe ends inside the body in every stance that it is used in: it sees only what the body itself is in.',
    repair: 'Lengthen the probe, or begin it nearer to the edge of the body.',
  },
  RK5: {
    question: 'risky',
    name: 'rate-dependent',
    what: 'The same tape, played at another tick rate, no longer meets what it expects.',
    repair:
      'Say lengths of time in seconds that fall on ticks at the rates you ship, and avoid steps per tick.',
  },
  RK6: {
    question: 'risky',
    name: 'floating shrink',
    what: 'A change of stance lifts the feet off the ground they stood on.',
    repair: 'Anchor the stance at the feet.',
  },
  RK7: {
    question: 'risky',
    name: 'steep gain',
    what: 'The body wins height on ground that is steeper than walkable, without a launch.',
    repair: 'Let the state slip there, or drive less steeply.',
  },
  RK8: {
    question: 'risky',
    name: 'lost momentum',
    what: 'A change of state cuts the speed by much in one tick, with nothing in the way.',
    repair: 'Let the state carry the speed (`carry`), or brake it down.',
  },
  RK9: {
    question: 'risky',
    name: 'early end',
    what: 'A state ends while the body is inside a solid.',
    repair: 'Ask for room (`fits`) before the state is left.',
  },
  RK10: {
    question: 'risky',
    name: 'sticks to wall',
    what: 'Pushing against a wall in the air stops the fall, in a state that says nothing of it.',
    repair: 'Let the drive not push into a touched wall, or give the state a rule for the wall.',
  },
  RK11: {
    question: 'risky',
    name: 'walled in',
    what: 'From a spawn of a course the body comes to no other spawn and no zone, nor out of what is solid around it.',
    repair: 'Widen the way, or move the spawn.',
  },
  TD1: {
    question: 'tidy',
    name: 'never read',
    what: 'Something is declared, and perhaps written, but no guard, motion or effect ever asks for it.',
    repair: 'Remove it, or ask for it where it was meant.',
  },
  TD2: {
    question: 'tidy',
    name: 'never written',
    what: 'A variable that nothing writes, a timer that nothing starts, a cooldown that nothing spends: it never changes.',
    repair: 'Write, start or spend it where it was meant, or make it a dial.',
  },
  TD3: {
    question: 'tidy',
    name: 'never bound',
    what: 'A control has neither key nor pad button, so nobody can use it.',
    repair: 'Bind a key or a pad button to it.',
  },
  TD4: {
    question: 'tidy',
    name: 'duplicate',
    what: 'Two crossings leave the same states for the same state under guards that hold at the same times.',
    repair: 'Remove one of them.',
  },
  TD5: {
    question: 'tidy',
    name: 'said twice',
    what: 'A guard asks for something that another of its terms holds already.',
    repair: 'Leave the term out, or ask for what was meant in its place.',
  },
  TD6: {
    question: 'tidy',
    name: 'unreachable branch',
    what: 'A part of an `or`, or a branch of an `if`, can never be the one that counts.',
    repair: 'Remove the part, or mend the condition before it.',
  },
  TD7: {
    question: 'tidy',
    name: 'out of range',
    what: 'A dial stands outside the range that the file itself gives it.',
    repair: 'Turn the dial back, or widen its range.',
  },
  TD8: {
    question: 'tidy',
    name: 'no effect',
    what: 'A field is written where it cannot do anything: another field beside it decides alone.',
    repair: 'Remove the field, or the one that overrules it.',
  },
} satisfies Record<string, CatalogueEntry>;

export type Code = keyof typeof CATALOGUE;

export const questionOf = (code: Code): Question => CATALOGUE[code].question;
