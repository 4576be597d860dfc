import type { Tape } from '@glenmark/core/run';
import type { Course } from '@glenmark/core/world';
import { courseReadings, tapeReadings } from './readings';

/** Of tapes as texts those that load, with the courses that they run on. */
export const loadedTapes = (
  tapes: readonly { tape: string; course: string }[],
): { tape: Tape; course: Course }[] =>
  tapes.flatMap((texts) => {
    const { tape } = tapeReadings.of(texts.tape);
    const { course } = courseReadings.of(texts.course);
    return tape === undefined || course === undefined ? [] : [{ tape, course }];
  });
