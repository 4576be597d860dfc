import { present } from '../../present.js';
import type { Stance } from '../../machine/index.js';
import { moverOf } from './moving.js';
import { type Detector, once, type Sign, signAt } from './sign.js';

/** RK6: a change of stance that lifts the feet off the ground they stood on. */
export const floatingShrink: Detector = (machine, records) =>
  once(
    records.flatMap((record, t): Sign[] => {
      const before = records[t - 1];
      if (before === undefined || !before.grounded || record.grounded || before.stance === record.stance)
        return [];
      if (record.body.vy > 0.5 || record.body.y - before.body.y < 0.02) return [];
      const [from, to] = [before, record].map((r) => present(machine.stances[r.stance])) as [Stance, Stance];
      return [
        signAt(record.tick, {
          ...moverOf(machine, record),
          code: 'RK6',
          path: to.path,
          evidence: { from: from.name, to: to.name, anchor: to.anchor, rise: record.body.y - before.body.y },
        }),
      ];
    }),
  );
