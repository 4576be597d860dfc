import { type Finding, looking, merged, proving, type TapeOnCourse } from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';
import type { Steps } from '@glenmark/core/steps';

/** What is proved of a machine, and what its tapes show, in steps. */
export function* foundIn(machine: Machine, tapes: readonly TapeOnCourse[]): Steps<Finding[]> {
  const shown = yield* looking(machine, tapes);
  const proved = yield* proving(machine);
  return merged(proved.findings, shown.findings);
}
