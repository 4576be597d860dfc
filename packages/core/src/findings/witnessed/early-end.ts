import { present } from '../../present.js';
import { moverOf } from './moving.js';
import { type Detector, factOf, once, type Sign, signAt } from './sign.js';

/** RK9: a state is left while the body is inside a solid. */
export const earlyEnd: Detector = (machine, records) =>
  once(
    records.flatMap((record): Sign[] => {
      if (factOf(machine, record, 'crushed') === 0) return [];
      return record.taken.flatMap(({ crossing, from, to, lane }): Sign[] => {
        const [a, b] = [from, to].map((s) => present(machine.states[s]).name) as [string, string];
        return [
          signAt(record.tick, {
            ...moverOf(machine, record),
            code: 'RK9',
            lane: present(machine.lanes[lane]).name,
            crossing: { from: a, to: b, index: crossing.index },
            path: crossing.path,
            evidence: { from: a, to: b },
          }),
        ];
      });
    }),
  );
