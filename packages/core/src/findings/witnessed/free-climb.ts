import { present } from '../../present.js';
import type { Crossing } from '../../machine/index.js';
import { lifts } from './moving.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** RK1: one crossing taken again and again in one flight, higher each time: it could be for ever. */
export const freeClimb: Detector = (machine, records) => {
  const signs: Sign[] = [];
  let rises = new Map<Crossing, { count: number; y: number }>();
  for (const record of records) {
    if (record.grounded) rises = new Map();
    for (const taken of record.taken) {
      if (!lifts(machine, taken)) continue;
      const { crossing } = taken;
      const last = rises.get(crossing);
      const isHigher = last !== undefined && record.body.y > last.y + 0.1;
      const count = isHigher ? last.count + 1 : 1;
      rises.set(crossing, { count, y: record.body.y });
      if (count < machine.limits.climbs) continue;
      signs.push(
        signAt(record.tick, {
          ...placeOfTaken(machine, taken),
          code: 'RK1',
          evidence: { from: present(machine.states[taken.from]).name, times: count },
        }),
      );
    }
  }
  return once(signs);
};
