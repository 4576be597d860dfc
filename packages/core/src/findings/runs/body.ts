import type { Crossing, Machine } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, factOf, once, type Sign } from './sign.js';

/** The state that a sign about the body is told at: that of the first lane whose state moves it. */
function moving(machine: Machine, { leaves }: TickRecord) {
  const leaf =
    leaves.find((s) => machine.states[s]!.motion.drive ?? machine.states[s]!.motion.hold) ?? leaves[0]!;
  return machine.states[leaf]!;
}

const base = (machine: Machine, code: Sign['code'], record: TickRecord) => {
  const state = moving(machine, record);
  return {
    code,
    lane: machine.lanes[state.lane]!.name,
    state: state.name,
    crossing: null,
    tick: record.tick,
    path: state.path,
    fingerprint: `${code}/${machine.lanes[state.lane]!.name}/${state.name}`,
  };
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
      const name = machine.states[to]!.name;
      signs.push({
        ...base(machine, 'RK1', record),
        crossing: { from: machine.states[from]!.name, to: name, index: crossing.index },
        path: crossing.path,
        sentence: `${name} can be entered again and again in one flight, higher each time: nothing limits the climb.`,
        reason: [
          `the crossing to ${name} was taken ${count} times without touching ground, each time higher.`,
        ],
        fingerprint: `RK1/${machine.lanes[lane]!.name}/${machine.states[from]!.name}>${name}`,
      });
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
      const [from, to] = [before, record].map((r) => machine.stances[r.stance]!);
      const state = moving(machine, record).name;
      return [
        {
          ...base(machine, 'RK6', record),
          sentence: `Changing from ${from!.name} to ${to!.name} in ${state} leaves the ground: ${to!.name} is anchored at the ${to!.anchor}, so the feet are lifted.`,
          reason: [
            `the feet rose by ${((record.body.y - before.body.y) * 100).toFixed(0)} cm with the change, and the body was airborne.`,
          ],
          path: to!.path,
          fingerprint: `RK6/${from!.name}>${to!.name}`,
        },
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
    signs.push({
      ...base(machine, 'RK7', record),
      path: by?.crossing.path ?? state.path,
      sentence: `${name} climbs ground that is steeper than walkable, from touch to touch.`,
      reason: [`it came down ${gain.toFixed(1)} m higher on the slope, and stood on nothing in between.`],
      fingerprint: `RK7/${machine.lanes[state.lane]!.name}/${name}`,
    });
  });
  return once(signs);
};

/** RK9: a state is left while the body is inside a solid. */
export const earlyEnd: Detector = (machine, records) =>
  once(
    records.flatMap((record): Sign[] => {
      if (factOf(machine, record, 'crushed') === 0) return [];
      return record.taken.flatMap(({ crossing, from, to, lane }): Sign[] => {
        const [a, b] = [from, to].map((s) => machine.states[s]!.name);
        return [
          {
            ...base(machine, 'RK9', record),
            crossing: { from: a!, to: b!, index: crossing.index },
            path: crossing.path,
            sentence: `${a} ends while the body is still inside a solid.`,
            reason: [`the crossing to ${b} was taken while the body was caught.`],
            fingerprint: `RK9/${machine.lanes[lane]!.name}/${a}>${b}`,
          },
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
    signs.push({
      ...base(machine, 'RK10', record),
      sentence: `In ${state.name}, pushing against a wall in the air stops the fall, and nothing in the state says so.`,
      reason: [`the body hung at one height for ${since} ticks.`],
    });
  });
  return once(signs);
};
