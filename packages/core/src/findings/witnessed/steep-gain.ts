import { present } from '../../present.js';
import type { TickRecord } from '../../run/index.js';
import { lifts, moverOf, moving } from './moving.js';
import { type Detector, factOf, once, type Sign, signAt } from './sign.js';

/** RK7: height won from touch to touch of ground that is too steep to walk, with no walkable ground in between. */
export const steepGain: Detector = (machine, records) => {
  const signs: Sign[] = [];
  let lowest = Infinity;
  let by: TickRecord['taken'][number] | undefined;
  records.forEach((record, t) => {
    const before = records[t - 1];
    if (before === undefined || before.grounded || record.grounded || record.anchors.length > 0) {
      lowest = Infinity;
      return;
    }
    by = record.taken.find((taken) => lifts(machine, taken)) ?? by;
    // On its way up a body may touch the slope as high as it leaps: what counts is where it comes down.
    if (factOf(machine, record, 'steep') === 0 || before.body.vy > 0) return;
    lowest = Math.min(lowest, before.body.y);
    const gain = before.body.y - lowest;
    if (gain < machine.limits.steepGain) return;
    const state = moving(machine, record);
    const name = by === undefined ? state.name : present(machine.states[by.to]).name;
    signs.push(
      signAt(record.tick, {
        ...moverOf(machine, record),
        code: 'RK7',
        path: by?.crossing.path ?? state.path,
        evidence: { by: name, gain },
      }),
    );
  });
  return once(signs);
};
