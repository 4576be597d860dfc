import { present } from '../../../present.js';
import type { Crossing, Machine } from '../../../machine/index.js';
import { placeOf } from '../guard.js';

/** What is declared beside the lanes stands in no lane and no state. */
export const BESIDE = { certainty: 'proved' as const, lane: '', state: '', crossing: null, witness: null };

/** What findings at a crossing have in common. */
export function ofCrossing(machine: Machine, crossing: Crossing) {
  const place = placeOf(machine, crossing);
  const lane = present(machine.lanes[crossing.lane]).name;
  return { certainty: 'proved' as const, lane, state: place.to, crossing: place, witness: null };
}
