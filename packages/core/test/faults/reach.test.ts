import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { proveAll, proveOn } from '@glenmark/core/findings';
import { buildWorld, type Course, fits, readCourse } from '@glenmark/core/world';
import { startSituation, tick } from '@glenmark/core/machine';
import { groundOf, reachFrom, riseOn } from '../../src/findings/proved/place/index.js';
import { machineOf, movesetText } from '../helpers.js';

const courseOf = (solids: string, rest = '', spawns = '{ start: { at: [0 m, 0 m] } }'): Course => {
  const { course, diagnostics } = readCourse(
    `glenmark: 1\nkind: course\nname: Quay\nsolids:\n${solids}${rest}spawns: ${spawns}\n`,
  );
  expect(diagnostics).toEqual([]);
  return course!;
};
const box = (x0: number, y0: number, x1: number, y1: number): string =>
  `  - { box: [[${x0} m, ${y0} m], [${x1} m, ${y1} m]] }\n`;
const zone = (y: number, more = '', tag = 'loft'): string =>
  `  - { box: [[6 m, ${y} m], [8 m, ${y + 1} m]], tag: ${tag}${more} }\n`;
const floor = box(-20, -1, 20, 0);
/** Two rooms beside each other, with a gap so high between them. */
const rooms = (gap: number): string =>
  floor + box(-5, 0, -4, 6) + box(4, gap, 5, 6) + box(9, 0, 10, 6) + box(-5, 5, 10, 6);

const told = (text: string, course: Course): string[] => {
  const machine = machineOf(text);
  return proveOn(machine, [course], proveAll(machine).findings).map(
    (f) => `${f.code} ${f.certainty} ${f.sentence}`,
  );
};
const first = (text: string, course: Course): string | undefined => told(text, course)[0];

/** A body that walks upright, and in the stance that is given while a button is held. */
const walker = ({ low = 'tall', hop = '5 m/s', more = '', first = 'A', extra = '' } = {}): string =>
  movesetText({
    states: `      A: { stance: tall, motion: { drive: { to: axis(move) * 4 m/s, gain: 40 m/s2 } } }
      B: {}
      C: { stance: ${low}, motion: { drive: { to: axis(move) * 2 m/s, gain: 40 m/s2 } } }`,
    crossings: `      - { from: A, to: C, when: held(dash) }
      - { from: C, to: A, when: not held(dash) }
      - { from: A, to: A, when: grounded and pressed(hop), do: ["vy := ${hop}"] }
      - { from: [A, C], to: B, when: inside(loft) }
      - { from: B, to: A, when: pressed(hop) }
${more}`,
    initial: first,
    extra,
  });

describe('where the body comes on a course', () => {
  const zones = `zones:\n${zone(0)}`;
  const walledOff =
    'IN2 proved B can never be entered: its only way in, from A, C, asks for `inside(loft)`, but no way to loft on Quay has room for the body.';

  it('not through a gap that is too low for every stance', () => {
    expect(first(walker(), courseOf(rooms(1.6), zones))).toBe(walledOff);
    expect(told(walker(), courseOf(rooms(1.75), zones))).toEqual([]);
    expect(first(walker({ low: 'low' }), courseOf(rooms(0.7), zones))).toBe(walledOff);
    expect(told(walker({ low: 'low' }), courseOf(rooms(0.85), zones))).toEqual([]);
  });

  it('says nothing of a course with a mover, which may push the body through', () => {
    const mover =
      'movers:\n  - { box: [[0 m, 4 m], [1 m, 4.5 m]], path: [[0 m, 0 m], [1 m, 0 m]], period: 2 s }\n';
    expect(told(walker(), courseOf(rooms(1.6), mover + zones))).toEqual([]);
  });

  it('a stance that has room nowhere', () => {
    const cellar = (height: number): string =>
      floor + box(-5, 0, -4, 6) + box(4, 0, 5, 6) + box(-5, height, 5, 6);
    const text = walker({ low: 'low', first: 'C' });
    expect(told(text, courseOf(cellar(1.5), zones))[0]).toBe(
      'IN2 proved A can never be entered: none of its 2 ways in can ever open; the one from C asks for `fits(tall)`, but no place that the body comes to on Quay has room for tall.',
    );
    expect(told(text, courseOf(cellar(1.75), zones)).filter((f) => f.includes('A can never'))).toEqual([]);
  });

  it('a spawn from which nothing leads', () => {
    const spawns = '{ start: { at: [0 m, 0 m] }, attic: { at: [7 m, 0 m] } }';
    const about = (gap: number, more = '', of = spawns): string[] =>
      told(walker(), courseOf(rooms(gap), more, of)).filter((f) => f.startsWith('RK11'));
    expect(about(1.6)).toEqual([
      'RK11 proved From the spawn start of Quay the body comes nowhere: to no other spawn and no zone, nor out.',
      'RK11 proved From the spawn attic of Quay the body comes nowhere: to no other spawn and no zone, nor out.',
    ]);
    expect(about(1.75)).toEqual([]);
    expect(about(1.6, '', '{ start: { at: [0 m, 0 m] } }')).toEqual([]);
  });
});

describe('how high the body comes on a course', () => {
  const shelf = floor + box(5, 0, 20, 3);
  const zones = `zones:\n${zone(3)}`;

  it('not where every launch is too slow', () => {
    expect(told(walker(), courseOf(shelf, zones))).toEqual([
      'IN2 suspected B can never be entered: its only way in, from A, C, asks for `inside(loft)`, but loft on Quay is higher than the body rises: at most 0.58 m above what it stood on, at up to 4 m/s sideways.',
    ]);
    expect(told(walker({ hop: '14 m/s' }), courseOf(shelf, zones))).toEqual([]);
  });

  it('higher by what else there is to stand on', () => {
    const steps = Array.from({ length: 9 }, (_, i) => box(1 + i / 2, 0, 1.5 + i / 2, 0.3 * (i + 1))).join('');
    expect(told(walker(), courseOf(shelf + steps, zones))).toEqual([]);
    const plank = 'oneWays:\n  - { from: [3 m, 0.5 m], to: [4 m, 0.5 m] }\n';
    const ladder = plank + [1, 1.5, 2, 2.5].map((y) => plank.slice(8).replaceAll('0.5 m', `${y} m`)).join('');
    expect(told(walker(), courseOf(shelf, plank + zones)).length).toBe(1);
    expect(told(walker(), courseOf(shelf, ladder + zones))).toEqual([]);
  });

  it('higher by launches in the air, as many as there are', () => {
    const extra = 'variables: { hops: { count: 0, max: 4, refill: grounded } }';
    const aloft = (speed: string, guard = 'hops > 0 and ', spend = 'spend hops, ') =>
      walker({
        extra,
        more: `      - { from: A, to: A, when: ${guard}pressed(hop), do: [${spend}"vy := ${speed}"] }\n`,
      });
    expect(told(aloft('5 m/s'), courseOf(shelf, zones)).length).toBe(1);
    expect(told(aloft('7 m/s'), courseOf(shelf, zones))).toEqual([]);
    // Nothing bounds those that nothing limits.
    expect(told(aloft('1 m/s', '', ''), courseOf(shelf, zones))).toEqual([]);
    expect(told(aloft('1 m/s', 'hops > 0 and ', ''), courseOf(shelf, zones))).toEqual([]);
  });

  it('higher by what lifts the body on the way', () => {
    const other = (more: string): string => `zones:\n${zone(3)}${zone(0, more, 'draught')}`;
    expect(told(walker(), courseOf(shelf, other(''))).length).toBe(1);
    expect(told(walker(), courseOf(shelf, other(', wind: [0 m/s2, 20 m/s2]'))).length).toBe(1);
    expect(told(walker(), courseOf(shelf, other(', wind: [0 m/s2, 29 m/s2]')))).toEqual([]);
    const thrown = `zones:\n${zone(3)}  - { box: [[2 m, 0 m], [3 m, 1 m]], tag: draught, launch: [0 m/s, 15 m/s] }\n`;
    expect(told(walker(), courseOf(shelf, thrown))).toEqual([]);
  });
});

describe('the bounds against runs', () => {
  const coordinate = fc.integer({ min: -12, max: 12 }).map((n) => n / 2);
  const size = fc.integer({ min: 1, max: 8 }).map((n) => n / 2);
  const area = fc.tuple(coordinate, coordinate, size, size);
  const inputs = fc.array(
    fc.record({
      move: fc.constantFrom(-1, 0, 1),
      hop: fc.boolean(),
      dash: fc.boolean(),
      ticks: fc.integer({ min: 1, max: 30 }),
    }),
    { minLength: 5, maxLength: 25 },
  );
  const extra = 'variables: { hops: { count: 0, max: 2, refill: grounded } }';
  const more =
    '      - { from: [A, C], to: A, when: hops > 0 and pressed(hop), do: [spend hops, "vy := 6 m/s"] }\n';
  const machines = [walker(), walker({ low: 'low', hop: '12 m/s' }), walker({ low: 'low', extra, more })].map(
    (t) => machineOf(t),
  );

  it('the body comes to no zone, spawn or stance that is ruled out, and rises no higher', () => {
    let checked = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...machines),
        fc.array(area, { minLength: 1, maxLength: 9 }),
        fc.array(area, { minLength: 1, maxLength: 4 }),
        inputs,
        (machine, solids, areas, holds) => {
          const boxes = solids.map(([x, y, w, h]) => box(x, y, x + w, y + h)).join('');
          const zones = areas
            .map(([x, y, w, h]) => `  - { box: [[${x} m, ${y} m], [${x + w} m, ${y + h} m]], tag: loft }\n`)
            .join('');
          const { course } = readCourse(
            `glenmark: 1\nkind: course\nname: Quay\nsolids:\n${floor.replace('-1', '-8').replace('0 m]]', '-7 m]]')}${boxes}zones:\n${zones}spawns: { start: { at: [0 m, 0 m] } }\n`,
          );
          const ground = course && groundOf(machine, course);
          const spawn = course?.spawns[0];
          if (course === undefined || ground === undefined || spawn === undefined) return;
          const world = buildWorld(course, machine.stances);
          if (!fits(world, 0, spawn.x, spawn.y)) return;
          const reach = reachFrom(ground, [spawn], Infinity);
          const rise = riseOn(machine, course)!;
          const rows = holds.flatMap(({ move, hop, dash, ticks }) =>
            Array.from({ length: ticks }, () => [move, Number(hop), Number(dash)]),
          );
          checked += rows.length;
          const s = startSituation(machine, world, spawn);
          let base = spawn.y;
          for (const input of rows) {
            tick(machine, world, s, input);
            for (const z of s.zones) expect(reach.zones.has(z)).toBe(true);
            expect(reach.stances.has(s.stance)).toBe(true);
            if (s.footing.ground !== undefined) base = s.body.y;
            expect(s.body.y).toBeLessThanOrEqual(base + rise.height);
          }
        },
      ),
      { numRuns: 40, endOnFailure: true },
    );
    expect(checked).toBeGreaterThan(2_000);
  });
});
