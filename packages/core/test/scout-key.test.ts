import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Fast, createFast, place, startFast, step } from '@glenmark/core/machine';
import { createLeafCodes, createRandom, keyOf } from '@glenmark/core/scout';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { FLOOR, courseOf, machineOf, sample } from './helpers.js';

const yard = readCourse(sample('mill-yard.yaml')).course!;

function lowered(text: string, course = yard): Fast {
  const machine = machineOf(text);
  return createFast(machine, buildWorld(course, machine.stances, machine.casts));
}

const marram = lowered(sample('marram.yaml'));

/** A situation some way into a run with random inputs. */
function situation(seed: number, ticks: number): Float64Array {
  const random = createRandom(seed);
  const s = startFast(marram, yard.spawns[0]!);
  const input = marram.machine.controls.map(() => 0);
  for (let t = 0; t < ticks; t++) {
    if (t % 8 === 0) input.fill(0).forEach((_, i) => (input[i] = random(3) - 1));
    step(marram, s, input);
  }
  return s;
}
const anywhere = fc.tuple(fc.nat({ max: 1000 }), fc.integer({ min: 1, max: 120 }));

const writeKey = keyOf(marram);
const keyFor = (s: Float64Array): string => {
  const keys = new Uint32Array(4).fill(7);
  writeKey(s, keys, 1);
  expect([keys[0], keys[3]]).toEqual([7, 7]);
  return `${keys[1]} ${keys[2]}`;
};
const changed = (s: Float64Array, at: number, by: (value: number) => number): Float64Array => {
  const other = s.slice();
  other[at] = by(other[at]!);
  return other;
};

describe('the key of a situation', () => {
  const { machine, layout } = marram;
  const discrete = [
    ...machine.lanes.map((_, i) => layout.leaves + i),
    ...machine.cooldowns.map((_, i) => layout.charges + i),
    ...yard.zones.map((_, i) => layout.zones + i),
    ...machine.variables.flatMap((v, i) => (v.kind === 'number' ? [] : [layout.variables + i])),
    place.FACING,
    place.STANCE,
    place.GROUND,
    place.WALL,
  ];

  it('is another one when anything discrete differs', () => {
    fc.assert(
      fc.property(anywhere, fc.constantFrom(...discrete), ([seed, ticks], at) => {
        const s = situation(seed, ticks);
        expect(keyFor(changed(s, at, (v) => v + 1))).not.toBe(keyFor(s));
      }),
    );
  });

  it('is another one when a button is held that was not', () => {
    for (const [i, control] of machine.controls.entries()) {
      if (control.kind !== 'button') continue;
      const s = situation(1, 10);
      expect(keyFor(changed(s, layout.input + i, (v) => (v === 0 ? 1 : 0)))).not.toBe(keyFor(s));
    }
  });

  it('is the same within a cell of a quarter of the body’s width, and another one in the next', () => {
    const width = Math.min(...machine.stances.flatMap((stance) => stance.parts.map((part) => part.width)));
    const cell = width / 4;
    const inCell = fc.double({ min: 0.01, max: 0.99, noNaN: true });
    fc.assert(
      fc.property(anywhere, fc.constantFrom(place.X, place.Y), inCell, inCell, ([seed, ticks], at, a, b) => {
        const s = situation(seed, ticks);
        const first = Math.floor(s[at]! / cell);
        const key = keyFor(changed(s, at, () => (first + a) * cell));
        expect(keyFor(changed(s, at, () => (first + b) * cell))).toBe(key);
        expect(keyFor(changed(s, at, () => (first + 1 + b) * cell))).not.toBe(key);
      }),
    );
  });

  it('tells a velocity from the opposite one and from twice as much, and no others that are close', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 30, noNaN: true }),
        fc.constantFrom(place.VX, place.VY),
        (v, at) => {
          const s = situation(3, 20);
          const key = keyFor(changed(s, at, () => v));
          expect(keyFor(changed(s, at, () => -v))).not.toBe(key);
          expect(keyFor(changed(s, at, () => 2 * v + 1))).not.toBe(key);
          expect(
            new Set([v, v * 1.001, v * 1.002].map((w) => keyFor(changed(s, at, () => w)))).size,
          ).toBeLessThan(3);
        },
      ),
    );
  });

  it('has room for more buttons than a whole number has bits', () => {
    const names = Array.from({ length: 70 }, (_, i) => `b${i}`);
    const many = lowered(
      `glenmark: 1
kind: moveset
name: Many
controls:
${names.map((name) => `  ${name}: { button: [Space] }`).join('\n')}
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
lanes: [{ name: legs, initial: A, states: { A: { home: true } }, crossings: [] }]
`,
      courseOf(FLOOR),
    );
    const write = keyOf(many);
    const keys = new Set<string>();
    for (const [i] of names.entries()) {
      const s = startFast(many, many.world.course.spawns[0]!);
      s[many.layout.input + i] = 1;
      const key = new Uint32Array(2);
      write(s, key, 0);
      keys.add(key.join());
    }
    expect(keys.size).toBe(names.length);
  });
});

describe('the number for what all lanes are in together', () => {
  /** Eight lanes of 32 states: more combinations than a number can count. */
  const states = Array.from({ length: 32 }, (_, i) => `S${i}: {}`).join(', ');
  const eight = lowered(
    `glenmark: 1
kind: moveset
name: Eight
body: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }
lanes:
${Array.from(
  { length: 8 },
  (_, lane) =>
    `  - { name: l${lane}, initial: S0_${lane}, states: { ${states.replace(/(S\d+)/g, `$1_${lane}`)} }, crossings: [] }`,
).join('\n')}
`,
    courseOf(FLOOR),
  );
  const leaves = fc.array(fc.nat({ max: 31 }), { minLength: 8, maxLength: 8 });

  it('is the same for the same states and another one for others, in eight lanes of 32', () => {
    const codeOf = createLeafCodes(eight);
    const seen = new Map<number, string>();
    fc.assert(
      fc.property(leaves, fc.nat({ max: 7 }), (at, lane) => {
        const s = startFast(eight, eight.world.course.spawns[0]!);
        for (const other of [false, true]) {
          at.forEach((leaf, i) => (s[eight.layout.leaves + i] = 32 * i + leaf));
          if (other) s[eight.layout.leaves + lane] = 32 * lane + ((at[lane]! + 1) % 32);
          const label = s.slice(eight.layout.leaves, eight.layout.leaves + 8).join();
          const code = codeOf(s);
          expect(Number.isSafeInteger(code)).toBe(true);
          expect(seen.get(code) ?? label).toBe(label);
          seen.set(code, label);
          expect(codeOf(s)).toBe(code);
        }
      }),
      { numRuns: 2000 },
    );
  });
});
