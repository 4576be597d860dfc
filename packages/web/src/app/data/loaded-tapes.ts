import { readTape, type Tape } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';

/** Of tapes as texts those that load, with the courses that they run on. */
export const loadedTapes = (
  tapes: readonly { tape: string; course: string }[],
): { tape: Tape; course: Course }[] =>
  tapes.flatMap((texts) => {
    const { tape } = readTape(texts.tape);
    const { course } = readCourse(texts.course);
    return tape === undefined || course === undefined ? [] : [{ tape, course }];
  });
