import { present } from '../../present.js';
import { type Crossing, slotOf } from '../../machine/index.js';
import { lifts } from './moving.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/**
 * RK1: one crossing taken again and again in one flight, higher each time: it could be for ever. What is taken inside a
 * zone that some guard asks for does not count: who swims up comes to the surface.
 */
export const freeClimb: Detector = (machine, records) => {
  const signs: Sign[] = [];
  const zones = machine.zoneTags.map((tag) => slotOf(machine.facts, 'inside', tag));
  let rises = new Map<Crossing, { count: number; y: number }>();
  for (const record of records) {
    if (record.grounded) rises = new Map();
    if (zones.some((slot) => record.facts[slot] !== 0)) continue;
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
