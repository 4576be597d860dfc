import { present } from '../../present.js';
import { authorText } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** What touches the body from above, or from the side it moves to, stops it rightly. */
const isStopped = (record: TickRecord, dx: number, dy: number): boolean =>
  record.contacts.some(({ nx, ny }) => nx * dx + ny * dy < -0.3);

/** RK3: a launch upward that something else in the same tick, or the ground, takes back before it moves the body. */
export const weakLaunch: Detector = (machine, records) =>
  once(
    records.flatMap((record, t): Sign[] => {
      const before = records[t - 1]?.body;
      if (before === undefined) return [];
      return record.taken.flatMap((taken): Sign[] => {
        const { lane, to } = taken;
        const launch = record.writes.findLast(
          ({ channel, author }) =>
            channel === 'vy' &&
            author.lane === lane &&
            ((author.kind === 'do' && author.to === to) || (author.kind === 'enter' && author.state === to)),
        );
        if (launch === undefined || launch.value < 1) return [];
        const rise = record.body.y - before.y;
        const meant = launch.value * machine.dt;
        if (
          rise > 0.25 * meant ||
          isStopped(record, 0, 1) ||
          record.stance !== present(records[t - 1]).stance
        )
          return [];
        const later = record.writes
          .slice(record.writes.indexOf(launch) + 1)
          .findLast((w) => w.channel === 'vy' && w.value < 0.5 * launch.value);
        // What the state holds against it is reported as a write conflict.
        if (later?.author.kind === 'hold' || later?.author.kind === 'tether') return [];
        return [
          signAt(record.tick, {
            ...placeOfTaken(machine, taken),
            code: 'RK3',
            evidence: {
              by: authorText(machine, launch.author),
              speed: launch.value,
              rise,
              later: later === undefined ? null : authorText(machine, later.author),
            },
          }),
        ];
      });
    }),
  );
