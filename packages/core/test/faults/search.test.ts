import { expect, it } from 'vitest';
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
