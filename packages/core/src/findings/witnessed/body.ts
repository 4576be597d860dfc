import type { Crossing, Machine, Stance } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import type { CrossingPlace } from '../catalogue/evidence.js';
import { type Detector, factOf, once, type Sign, signAt } from './sign.js';

/** The state that a sign about the body is told at: that of the first lane whose state moves it. */
function moving(machine: Machine, { leaves }: TickRecord) {
  const leaf =
    leaves.find((s) => machine.states[s]!.motion.drive ?? machine.states[s]!.motion.hold) ?? leaves[0]!;
  return machine.states[leaf]!;
}

const base = (machine: Machine, record: TickRecord) => {
  const { name, lane, path } = moving(machine, record);
  return { lane: machine.lanes[lane]!.name, state: name, crossing: null as CrossingPlace | null, path };
};

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
      const [a, b] = [from, to].map((state) => machine.states[state]!.name) as [string, string];
      signs.push(
        signAt(record.tick, {
          code: 'RK1',
          lane: machine.lanes[lane]!.name,
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

/** Whether taking a crossing sets the velocity upward. */
const lifts = (machine: Machine, crossing: Crossing): boolean =>
  [...crossing.do, ...machine.states[crossing.to]!.enter].some(
    (e) => e.kind === 'velocity' && e.channel === 'vy' && e.op !== '-=',
  );

/** RK6: a change of stance that lifts the feet off the ground they stood on. */
export const floatingShrink: Detector = (machine, records) =>
  once(
    records.flatMap((record, t): Sign[] => {
      const before = records[t - 1];
      if (before === undefined || !before.grounded || record.grounded || before.stance === record.stance)
        return [];
      if (record.body.vy > 0.5 || record.body.y - before.body.y < 0.02) return [];
      const [from, to] = [before, record].map((r) => machine.stances[r.stance]!) as [Stance, Stance];
      return [
        signAt(record.tick, {
          ...base(machine, record),
          code: 'RK6',
          path: to.path,
          evidence: { from: from.name, to: to.name, anchor: to.anchor, rise: record.body.y - before.body.y },
        }),
      ];
    }),
  );

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
    by = record.taken.find(({ crossing }) => lifts(machine, crossing)) ?? by;
    // On its way up a body may touch the slope as high as it leaps: what counts is where it comes down.
    if (factOf(machine, record, 'steep') === 0 || before.body.vy > 0) return;
    lowest = Math.min(lowest, before.body.y);
    const gain = before.body.y - lowest;
    if (gain < machine.limits.steepGain) return;
    const state = moving(machine, record);
    const name = by === undefined ? state.name : machine.states[by.to]!.name;
    signs.push(
      signAt(record.tick, {
        ...base(machine, record),
        code: 'RK7',
        path: by?.crossing.path ?? state.path,
        evidence: { by: name, gain },
      }),
    );
  });
  return once(signs);
};

/** RK9: a state is left while the body is inside a solid. */
export const earlyEnd: Detector = (machine, records) =>
  once(
    records.flatMap((record): Sign[] => {
      if (factOf(machine, record, 'crushed') === 0) return [];
      return record.taken.flatMap(({ crossing, from, to, lane }): Sign[] => {
        const [a, b] = [from, to].map((s) => machine.states[s]!.name) as [string, string];
        return [
          signAt(record.tick, {
            ...base(machine, record),
            code: 'RK9',
            lane: machine.lanes[lane]!.name,
            crossing: { from: a, to: b, index: crossing.index },
            path: crossing.path,
            evidence: { from: a, to: b },
          }),
        ];
      });
    }),
  );

/** Ticks without falling that count as sticking. */
const STUCK = 20;

/** RK10: pressed against a wall in the air, the body stops falling in a state that says nothing of it. */
export const wallStick: Detector = (machine, records) => {
  const signs: Sign[] = [];
  let since = 0;
  records.forEach((record, t) => {
    const before = records[t - 1];
    const state = moving(machine, record);
    const saysSo =
      state.kind === 'braced' ||
      state.kind === 'slung' ||
      record.leaves.some((leaf) => machine.states[leaf]!.motion.hold?.vy !== undefined);
    const hangs =
      before !== undefined &&
      machine.plane === 'side' &&
      !record.grounded &&
      factOf(machine, record, 'pushing') !== 0 &&
      Math.abs(record.body.y - before.body.y) < 1e-4 &&
      !record.contacts.some((c) => c.ny > 0.2) &&
      !saysSo;
    since = hangs ? since + 1 : 0;
    if (since < STUCK) return;
    signs.push(signAt(record.tick, { ...base(machine, record), code: 'RK10', evidence: { ticks: since } }));
  });
  return once(signs);
};
