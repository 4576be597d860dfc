import type { Machine } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { earlyEnd, floatingShrink, freeClimb, steepGain, wallStick } from './body.js';
import { clockFight } from './clocks.js';
import { hands } from './hands.js';
import { endlessPassing, flicker, heldRepeat } from './rhythm.js';
import type { Detector, Sign } from './sign.js';
import { ties } from './ties.js';
import { lostMomentum, weakLaunch } from './velocity.js';

/**
 * What a run shows: each detector looks for one kind of fault in the records of a run, wherever the run comes from.
 * Their thresholds are the moveset's `limits`.
 */
export const DETECTORS: readonly Detector[] = [
  ties,
  hands,
  flicker,
  endlessPassing,
  clockFight,
  freeClimb,
  heldRepeat,
  weakLaunch,
  floatingShrink,
  steepGain,
  lostMomentum,
  earlyEnd,
  wallStick,
];

/** All signs of faults in a run. */
export const signsIn = (machine: Machine, records: readonly TickRecord[]): Sign[] =>
  DETECTORS.flatMap((detect) => detect(machine, records));

export { type Sign, witnessedBy } from './sign.js';
