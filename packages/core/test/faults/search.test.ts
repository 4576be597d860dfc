import { expect, it } from 'vitest';
import { proveAll, scoutAll } from '@glenmark/core/findings';
import { createScout } from '@glenmark/core/scout';
import { courseOf, FLOOR, machineOf } from '../helpers.js';

/** Ways on that each ask for several controls at once, and for a time. */
const COMBINED = `glenmark: 1
kind: moveset
name: Combined
controls:
  move: { axis: { negative: [KeyA], positive: [KeyD] } }
  a: { button: [Digit1] }
  b: { button: [Digit2] }
  c: { button: [Digit3] }
  d: { button: [Digit4] }
  e: { button: [Digit5] }
body: { stances: { tall: { shape: capsule, width: 0.7 m, height: 1.7 m } } }
lanes:
  - name: legs
    initial: A
    states:
      A: { motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2 } } }
      B: { motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2 } } }
      C: { motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2 } } }
      D: { motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2 } } }
    crossings:
      - { from: A, to: B, when: (held(a) and held(b) and held(c) and held(d) and not held(e)) for 0.5 s }
      - { from: B, to: C, when: released(a) and held(b) and held(e) and not held(d) and axis(move) < 0 }
      - { from: C, to: D, when: elapsed >= 0.9 s and pressed(a) and held(c) and held(d) and axis(move) > 0 for 0.4 s }
      - { from: [B, C, D], to: A, when: pressed(e) and held(a) and not held(b) and not held(c) }
`;

it.each([1, 2, 3])(
  'scouting does what guards ask for: several controls at once, for as long as they say (seed %s)',
  (seed) => {
    const scout = createScout(machineOf(COMBINED), courseOf(FLOOR), { seed });
    for (let n = 0; n < 200; n++) scout.round();
    expect(scout.goals()).toEqual([]);
  },
);

/** A body that kicks off walls: as often as it likes, or as often as a count of kicks allows. */
const kicker = (guard: string, spend: string): string => `glenmark: 1
kind: moveset
name: Kicker
gravity: 30 m/s2
controls:
  move: { axis: { negative: [KeyA], positive: [KeyD] } }
  hop: { button: [Space] }
variables: { kicks: { count: 2, max: 2, refill: grounded } }
body: { stances: { tall: { shape: capsule, width: 0.7 m, height: 1.7 m } } }
lanes:
  - name: legs
    initial: Trot
    states:
      Trot: { home: true, motion: { drive: { to: axis(move) * 5 m/s, gain: 60 m/s2 } } }
      Aloft: { motion: { drive: { to: axis(move) * 5 m/s, gain: 20 m/s2 } } }
      Clasp: { motion: { hold: { vy: -1 m/s } } }
    crossings:
      - { from: Trot, to: Aloft, when: grounded and pressed(hop), do: ["vy := 9 m/s"] }
      - { from: Trot, to: Aloft, when: airborne }
      - { from: Aloft, to: Trot, when: grounded and vy <= 0 m/s }
      - { from: Aloft, to: Clasp, when: falling and pushing }
      - { from: Clasp, to: Aloft, when: pressed(hop)${guard}, do: [face away, "vx := facing * 6 m/s", "vy := 13 m/s"${spend}], rank: 1 }
      - { from: Clasp, to: Aloft, when: not pushing }
      - { from: Clasp, to: Trot, when: grounded, rank: 2 }
`;
const shaft = courseOf(
  [
    '{ box: [[-3 m, -1 m], [3 m, 0 m]] }',
    '{ box: [[-3 m, 0 m], [-2 m, 40 m]] }',
    '{ box: [[2 m, 0 m], [3 m, 40 m]] }',
  ]
    .map((s) => `  - ${s}\n`)
    .join(''),
);

it.each([1, 2, 3])('scouting climbs between two walls where nothing limits it (seed %s)', async (seed) => {
  const climbs = async (text: string): Promise<string[]> => {
    const machine = machineOf(text);
    const { findings } = await scoutAll(machine, [shaft], proveAll(machine), { seed, situations: 4000 });
    return findings.filter((f) => f.code === 'RK1').map((f) => `${f.certainty} ${f.state}`);
  };
  expect(await climbs(kicker('', ''))).toEqual(['witnessed Aloft']);
  expect(await climbs(kicker(' and kicks > 0', ', spend kicks'))).toEqual([]);
});

/** A state that only three uses in one flight lead to. */
const inAFlight = (refill: string): string =>
  kicker('', '')
    .replace(
      'kicks: { count: 2, max: 2, refill: grounded }',
      `kicks: { count: 3, max: 3, refill: ${refill} }`,
    )
    .replace('Clasp: {', 'Flown: {}\n      Clasp: {')
    .replace(
      '      - { from: Clasp, to: Trot',
      `      - { from: Aloft, to: Aloft, when: pressed(hop) and kicks > 0, do: ["vy := 6 m/s", spend kicks] }
      - { from: Aloft, to: Flown, when: airborne and kicks = 0, rank: 1 }
      - { from: Flown, to: Trot, when: grounded }
      - { from: Clasp, to: Trot`,
    );

it.each([1, 2, 3])('scouting uses something three times in a flight (seed %s)', (seed) => {
  const scout = createScout(machineOf(inAFlight('grounded')), courseOf(FLOOR), { seed });
  for (let n = 0; n < 240; n++) scout.round();
  expect(scout.goals().map((g) => g.crossing)).not.toContain(8);
});
