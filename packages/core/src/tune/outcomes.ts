import type { Machine } from '../machine/index.js';
import type { Measures } from '../run/index.js';

/** What of a run is measured once, for each state, and for each cooldown. */
export const OF_THE_RUN = [
  'apex',
  'timeToApex',
  'firstHop',
  'secondHop',
  'lowest',
  'reach',
  'distance',
  'topSpeed',
  'longestAirtime',
  'stopping',
  'stoppingTime',
  'turning',
  'turningTime',
] as const;
export const OF_STATES = ['timeIn', 'longestIn', 'along', 'leftAt'] as const;
export const OF_COOLDOWNS = ['between'] as const;

export type OutcomeKind =
  (typeof OF_THE_RUN)[number] | (typeof OF_STATES)[number] | (typeof OF_COOLDOWNS)[number];

/** Something that a run comes to: a measure of it, `of` a state or a cooldown where there is one for each. */
export interface Outcome {
  kind: OutcomeKind;
  of: string | undefined;
}

const SECONDS: readonly OutcomeKind[] = [
  'timeToApex',
  'longestAirtime',
  'stoppingTime',
  'turningTime',
  'timeIn',
  'longestIn',
  'between',
];

/** The unit in which an outcome is measured. */
export const outcomeUnit = ({ kind }: Outcome): 'm' | 's' | 'm/s' =>
  kind === 'topSpeed' ? 'm/s' : SECONDS.includes(kind) ? 's' : 'm';

/** An outcome in one word, such as `apex` or `timeIn Slide`. */
export const outcomeId = ({ kind, of }: Outcome): string => (of === undefined ? kind : `${kind} ${of}`);

/** The outcome that an id stands for; undefined for what is none. */
export function outcomeOf(id: string): Outcome | undefined {
  const [word, ...name] = id.split(' ');
  const of = name.length === 0 ? undefined : name.join(' ');
  const isIn = (kinds: readonly OutcomeKind[]): boolean => kinds.includes(word as OutcomeKind);
  const isKnown = of === undefined ? isIn(OF_THE_RUN) : isIn(OF_STATES) || isIn(OF_COOLDOWNS);
  return isKnown ? { kind: word as OutcomeKind, of } : undefined;
}

/** All outcomes that runs of a machine can have, in the order in which they are shown. */
export function outcomesOf(machine: Machine): Outcome[] {
  const leaves = machine.states.filter((state) => state.members.length === 0);
  return [
    ...OF_THE_RUN.map((kind) => ({ kind, of: undefined })),
    ...leaves.flatMap(({ name }) => OF_STATES.map((kind) => ({ kind, of: name }))),
    ...machine.cooldowns.flatMap(({ name }) => OF_COOLDOWNS.map((kind) => ({ kind, of: name }))),
  ];
}

/** What a run came to; NaN where that did not happen, or where there is no such state or cooldown. */
export function outcomeIn(measures: Measures, { kind, of }: Outcome): number {
  const measured = measures[kind];
  return typeof measured === 'number' ? measured : (measured[of ?? ''] ?? NaN);
}

/** Whether there is anything to tell: it happened, and it is not nothing. */
export const hasHappened = (measures: Measures, outcome: Outcome): boolean =>
  Math.abs(outcomeIn(measures, outcome)) > 0;
