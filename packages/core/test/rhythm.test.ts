import { expect, it } from 'vitest';
import { createFast, startFast } from '@glenmark/core/machine';
import { playRhythm, recipesOf, rhythmsOf } from '@glenmark/core/scout';
import { buildWorld } from '@glenmark/core/world';
import { courseOf, FLOOR, machineOf, movesetText } from './helpers.js';

const machine = machineOf(
  movesetText({
    states: '      Walk: { motion: { drive: { to: axis(move) * 4 m/s, gain: 60 m/s2 } } }\n      Hop: {}',
    crossings: `      - { from: Walk, to: Hop, when: grounded and pressed(hop), do: ["vy := 5 m/s"] }
      - { from: Hop, to: Walk, when: grounded and vy <= 0 m/s }`,
    initial: 'Walk',
  }),
);
const fast = createFast(machine, buildWorld(courseOf(FLOOR), machine.stances));
const [move, hop] = ['move', 'hop'].map((name) => machine.controls.findIndex((c) => c.name === name)) as [
  number,
  number,
];
const again = rhythmsOf(machine, [{ lane: 0, crossing: 0 }]);

const played = (rhythm: (typeof again)[number]) => {
  const s = startFast(fast, { x: 0, y: 0, facing: 1 });
  return { inputs: playRhythm(fast, s, rhythm, { recipes: recipesOf(machine), ticks: 120 }), end: s };
};

it('presses again each time that the crossing leads out of where the body is, and lets go in between', () => {
  const { inputs } = played(again.find((r) => !r.turns && r.steer === 1)!);
  const presses = inputs.flatMap((input, t) => (input[hop] === 1 && inputs[t - 1]?.[hop] !== 1 ? [t] : []));
  expect(presses.length).toBeGreaterThan(3);
  // A hop lasts about 2 · 5 / 30 s.
  for (const [i, t] of presses.slice(1).entries()) expect(t - presses[i]!).toBeGreaterThan(15);
  expect(new Set(inputs.map((input) => input[move]))).toEqual(new Set([1]));
});

it('goes to the other side after each crossing where it turns', () => {
  const { inputs } = played(again.find((r) => r.turns && r.steer === -1)!);
  const sides = inputs.map((input) => input[move]!).filter((side, t, all) => side !== all[t - 1]);
  expect(sides.length).toBeGreaterThan(3);
  sides.forEach((side, i) => expect(side).toBe(i % 2 === 0 ? -1 : 1));
});

it('has one way to go where nothing steers', () => {
  const still = machineOf(movesetText({ states: '      A: {}', initial: 'A' }).replace(/ {2}move: .*\n/, ''));
  expect(rhythmsOf(still, [])).toHaveLength(1);
});
