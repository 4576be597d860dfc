import type { Machine } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { clockFight } from './clock-fight.js';
import { earlyEnd } from './early-end.js';
import { endlessPassing } from './endless-passing.js';
import { flicker } from './flicker.js';
import { floatingShrink } from './floating-shrink.js';
import { freeClimb } from './free-climb.js';
import { heldRepeat } from './held-repeat.js';
import { lostMomentum } from './lost-momentum.js';
import type { Detector, Sign } from './sign.js';
import { steepGain } from './steep-gain.js';
import { ties } from './ties.js';
import { writeConflicts } from './write-conflicts.js';
import { wallStick } from './wall-stick.js';
import { weakLaunch } from './weak-launch.js';

/**
 * What a run shows: each detector looks for one kind of fault in the records of a run, wherever the run comes from.
 * Their thresholds are the moveset's `limits`.
 */
export const DETECTORS: readonly Detector[] = [
  ties,
  writeConflicts,
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
