import { present } from '../../present.js';
import type { Crossing } from '../../machine/index.js';
import { lifts } from './moving.js';
import { type Detector, once, type Sign, signAt } from './sign.js';

/** RK1: one crossing taken again and again in one flight, higher each time: it could be for ever. */
export const freeClimb: Detector = (machine, records) => {
  const signs: Sign[] = [];
  let rises = new Map<Crossing, { count: number; y: number }>();
  for (const record of records) {
    if (record.grounded) rises = new Map();
    for (const { crossing, from, to, lane } of record.taken) {
      if (!lifts(machine, crossing)) continue;
      const last = rises.get(crossing);
      const isHigher = last !== undefined && record.body.y > last.y + 0.1;
      const count = isHigher ? last.count + 1 : 1;
      rises.set(crossing, { count, y: record.body.y });
      if (count < machine.limits.climbs) continue;
      const [a, b] = [from, to].map((state) => present(machine.states[state]).name) as [string, string];
      signs.push(
        signAt(record.tick, {
          code: 'RK1',
          lane: present(machine.lanes[lane]).name,
          state: b,
          crossing: { from: a, to: b, index: crossing.index },
          path: crossing.path,
          evidence: { from: a, times: count },
        }),
      );
    }
  }
  return once(signs);
};
