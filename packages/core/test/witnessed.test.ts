import { describe, expect, it } from 'vitest';
import { signsIn } from '@glenmark/core/findings';
import { courseOf, FLOOR, machineOf, movesetText, playInputs } from './helpers.js';

const floor = courseOf(FLOOR);

/** What a run of ten seconds shows. */
const shown = (text: string, input: (tick: number) => Record<string, number>): string[] => {
  const machine = machineOf(text);
  const { records } = playInputs(machine, floor, 600, input);
  return signsIn(machine, records).map(({ finding }) => finding.fingerprint);
};

/** A body that leaps: what lifts it stands in the group, not in the state that is entered. */
const leaping = (more: string): string =>
  movesetText({
    states: `      Walk: {}
      Fall: {}
      Air: { initial: Rise, enter: ['vy := 8 m/s'], states: { Rise: {} } }`,
    crossings: `      - { from: Air, to: Fall, when: vy < 0 m/s }
      - { from: Fall, to: Walk, when: grounded }
${more}`,
    initial: 'Walk',
  });

const HALTING = movesetText({
  states: `      Walk: { motion: { drive: { to: axis(move) * 8 m/s, gain: 60 m/s2 } } }
      Halt: { motion: { hold: { vx: 0 m/s } } }`,
  crossings:
    '      - { from: Walk, to: Halt, when: pressed(dash) }\n      - { from: Halt, to: Walk, when: pressed(hop) }',
  initial: 'Walk',
});

const FLICKERING = movesetText({
  states: '      Calm: {}\n      Keen: {}',
  crossings:
    '      - { from: Calm, to: Keen, when: vx >= 0 m/s }\n      - { from: Keen, to: Calm, when: vx <= 0 m/s }',
  initial: 'Calm',
});

const often = (period: number, control: string) => (tick: number) => ({
  [control]: tick % period === period - 1 ? 1 : 0,
});

describe('what a run shows, and its sound twin does not', () => {
  it.each([
    {
      fault: 'RK2/legs/Walk>Air',
      text: leaping('      - { from: Walk, to: Air, when: held(hop) and grounded }'),
      was: 'held(hop)',
      sound: 'pressed(hop)',
      input: () => ({ hop: 1 }),
    },
    {
      fault: 'RK1/legs/Fall>Air',
      text: leaping(`      - { from: Walk, to: Air, when: pressed(hop), rank: 1 }
      - { from: Fall, to: Air, when: pressed(hop), rank: 1 }`),
      was: '{ from: Fall, to: Air, when: pressed(hop),',
      sound: '{ from: Fall, to: Air, when: pressed(hop) and grounded within 2 ticks,',
      input: often(20, 'hop'),
    },
    {
      fault: 'RK8/legs/Walk>Halt',
      text: HALTING,
      was: 'hold: { vx: 0 m/s }',
      sound: 'drive: { to: 0 m/s, gain: 30 m/s2 }',
      input: (tick: number) => ({ move: 1, dash: tick === 60 ? 1 : 0 }),
    },
    {
      fault: 'AG4/legs/Calm+Keen',
      text: FLICKERING,
      was: 'vx <= 0 m/s',
      sound: 'vx < 0 m/s',
      input: () => ({}),
    },
  ])('$fault', ({ fault, text, was, sound, input }) => {
    expect(text).toContain(was);
    expect(shown(text, input)).toEqual([fault]);
    expect(shown(text.replace(was, sound), input)).toEqual([]);
  });
});
