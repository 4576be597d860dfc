import type { Machine } from '../../../machine/index.js';
import type { Finding } from '../../sentences/finding.js';
import { finished, type Steps } from '../../../steps.js';
import { deadBranches } from './dead-branches.js';
import { outOfRange } from './out-of-range.js';
import { redundantTerms } from './redundant-terms.js';
import { twinCrossings } from './twin-crossings.js';
import { unbound } from './unbound.js';
import { unread } from './unread.js';
import { unwritten } from './unwritten.js';
import { withoutEffect } from './without-effect.js';

/** TD1 to TD8: what loads and hurts nothing, but somebody meant something by it. All proved. */
export const tidyFindings = (machine: Machine): Finding[] => finished(tidyInSteps(machine));

/** The same in steps, of a lane each. */
export function* tidyInSteps(machine: Machine): Steps<Finding[]> {
  const findings = [...unread(machine), ...unwritten(machine), ...unbound(machine)];
  for (const lane of machine.lanes) {
    yield;
    findings.push(...twinCrossings(machine, lane.crossings));
    for (const c of lane.crossings) findings.push(...redundantTerms(machine, c), ...deadBranches(machine, c));
  }
  return [...findings, ...outOfRange(machine), ...withoutEffect(machine)];
}
