import * as z from 'zod';

/** Something that a check did not decide, because it would have been too large: what it might show is not reported. */
export const undecidedSchema = z.strictObject({
  lane: z.string(),
  states: z.array(z.string()).describe('the states whose ways out it is about'),
  why: z.enum(['apart', 'situations', 'guards']),
  things: z.array(z.string()).describe('what was not followed together with the rest'),
  sentence: z.string(),
});

export type Undecided = z.infer<typeof undecidedSchema>;

/** Names of states at most in a sentence. */
const MAX_NAMES = 6;

const named = (names: readonly string[]): string =>
  names.length <= MAX_NAMES
    ? names.join(', ')
    : `${names.slice(0, MAX_NAMES).join(', ')} and ${names.length - MAX_NAMES} more`;

const SENTENCES: Record<Undecided['why'], (about: Omit<Undecided, 'sentence' | 'why'>) => string> = {
  apart: ({ lane, states, things }) =>
    `In the lane ${lane}, ${named(things)} could not be followed together with the rest, so what depends on several of them was not decided. This concerns the ways out of ${named(states)}.`,
  situations: ({ lane }) =>
    `The lane ${lane} has too many situations: nothing was concluded from its flags, counts, timers and states.`,
  guards: ({ lane, states }) =>
    `In the lane ${lane}, questions about the guards out of ${named(states)} were too large and were not decided.`,
};

/** What was not decided, in words. */
export const createUndecided = (
  why: Undecided['why'],
  about: Omit<Undecided, 'sentence' | 'why'>,
): Undecided => ({
  why,
  ...about,
  sentence: SENTENCES[why](about),
});
