import { present } from '../../present.js';
import { authorText, type Machine, type Taken, type Write } from '../../machine/index.js';
import { writeEvidence } from '../proved/conflicts.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** What touches the body from above, or from the side it moves to, stops it rightly. */
const isStopped = (record: TickRecord, dx: number, dy: number): boolean =>
  record.contacts.some(({ nx, ny }) => nx * dx + ny * dy < -0.3);

/** A launch slower than this is no launch (m/s). */
const SLOWEST = 1;

/**
 * RK3: a launch that another lane, which left the tick of it to the launch, undoes in the next one by what it holds. It
 * was in the state that holds before: one that is entered after the launch ends it on purpose.
 */
function undoneLater(machine: Machine, records: readonly TickRecord[]): Sign[] {
  return records.flatMap((record, t): Sign[] => {
    const next = records[t + 1];
    if (next === undefined) return [];
    return record.taken.flatMap((taken) =>
      (['vx', 'vy'] as const).flatMap((channel): Sign[] => {
        const launch = record.writes.findLast(
          (w) => w.channel === channel && w.author.lane === taken.lane && isLaunch(w, taken),
        );
        const last = record.writes.findLast((w) => w.channel === channel && w.replaces);
        if (launch === undefined || launch !== last || Math.abs(launch.value) < SLOWEST) return [];
        const hold = next.writes.find(
          ({ channel: c, author }) =>
            c === channel &&
            author.kind === 'hold' &&
            author.lane !== taken.lane &&
            record.leaves[author.lane] === author.state &&
            next.leaves[author.lane] === author.state,
        );
        const isUndone = hold !== undefined && hold.value / launch.value < 0.5;
        if (!isUndone || next.leaves[taken.lane] !== taken.to) return [];
        return [
          signAt(next.tick, {
            ...placeOfTaken(machine, taken),
            code: 'RK3',
            evidence: {
              kind: 'nextTick',
              by: authorText(machine, launch.author),
              channel,
              value: String(Math.round(launch.value * 100) / 100),
              hold: writeEvidence(machine, hold.author, String(Math.round(hold.value * 100) / 100)),
            },
          }),
        ];
      }),
    );
  });
}

const isLaunch = ({ author }: Write, { to }: Taken): boolean =>
  (author.kind === 'do' && author.to === to) || (author.kind === 'enter' && author.state === to);

/** RK3: a launch upward that something else in the same tick, or the ground, takes back before it moves the body. */
export const weakLaunch: Detector = (machine, records) =>
  once([
    ...undoneLater(machine, records),
    ...records.flatMap((record, t): Sign[] => {
      const before = records[t - 1]?.body;
      if (before === undefined) return [];
      return record.taken.flatMap((taken): Sign[] => {
        const launch = record.writes.findLast(
          (w) => w.channel === 'vy' && w.author.lane === taken.lane && isLaunch(w, taken),
        );
        if (launch === undefined || launch.value < SLOWEST) return [];
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
              kind: 'sameTick',
              by: authorText(machine, launch.author),
              speed: launch.value,
              rise,
              later: later === undefined ? null : authorText(machine, later.author),
            },
          }),
        ];
      });
    }),
  ]);
