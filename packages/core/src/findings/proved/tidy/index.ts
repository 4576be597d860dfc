import type { Machine } from '../../../machine/index.js';
import type { Finding } from '../../sentences/finding.js';
import { deadBranches } from './dead-branches.js';
import { outOfRange } from './out-of-range.js';
import { redundantTerms } from './redundant-terms.js';
import { twinCrossings } from './twin-crossings.js';
import { unbound } from './unbound.js';
import { unread } from './unread.js';
import { unwritten } from './unwritten.js';
import { withoutEffect } from './without-effect.js';

/** TD1 to TD8: what loads and hurts nothing, but somebody meant something by it. All proved. */
export const tidyFindings = (machine: Machine): Finding[] => [
  ...unread(machine),
  ...unwritten(machine),
  ...unbound(machine),
  ...machine.lanes.flatMap((lane) => [
    ...twinCrossings(machine, lane.crossings),
    ...lane.crossings.flatMap((c) => [...redundantTerms(machine, c), ...deadBranches(machine, c)]),
  ]),
  ...outOfRange(machine),
  ...withoutEffect(machine),
];
