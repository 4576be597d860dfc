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

/** A launch upward that a second lane takes back before the body moves. */
const PRESSED_DOWN = movesetText({
  states: `      Walk: {}
      Leap: { enter: ['vy := 9 m/s'] }`,
  crossings: `      - { from: Walk, to: Leap, when: pressed(hop) and grounded }
      - { from: Leap, to: Walk, when: grounded for 0.1 s }`,
  initial: 'Walk',
  lanes: `  - name: weight
    initial: Heavy
    states: { Heavy: { each: ['vy -= vy'] } }`,
});

/** A stance that grows smaller from its middle, so that the feet leave the floor. */
const SHRINKING = movesetText({
  states: '      Stand: { stance: tall }\n      Duck: { stance: small }',
  crossings: `      - { from: Stand, to: Duck, when: pressed(dash) }
      - { from: Duck, to: Stand, when: pressed(hop) }`,
  initial: 'Stand',
  extra: '    small: { shape: capsule, width: 0.7 m, height: 0.8 m, anchor: middle }',
});

/** Two lanes that wind one timer, for whose end the first one waits. */
const WOUND_TWICE = movesetText({
  extra: 'timers: { spin: { length: 0.5 s } }',
  states: `      Rest: {}
      Spin: { enter: [start spin] }`,
  crossings: `      - { from: Rest, to: Spin, when: pressed(hop) }
      - { from: Spin, to: Rest, when: done(spin) }`,
  initial: 'Rest',
  lanes: `  - name: lamp
    initial: Dark
    states: { Dark: {}, Lit: { enter: [start spin] } }
    crossings:
      - { from: Dark, to: Lit, when: pressed(dash) }
      - { from: Lit, to: Dark, when: not held(dash) }`,
});

/** Two passing states, each of which leads on to the other. */
const ROUND = movesetText({
  states: '      Idle: {}\n      To: { passing: true }\n      Fro: { passing: true }',
  crossings: `      - { from: Idle, to: To, when: pressed(hop) }
      - { from: To, to: Fro }
      - { from: Fro, to: To, rank: 1, when: held(hop) }
      - { from: Fro, to: Idle }`,
  initial: 'Idle',
});

/** Two ways out of one state under one press, with nothing to choose between them. */
const TIED = movesetText({
  states: '      Walk: {}\n      Hop: {}\n      Dash: {}',
  crossings: `      - { from: Walk, to: Hop, when: pressed(hop) and grounded }
      - { from: Walk, to: Dash, when: pressed(hop) and vx = 0 m/s }
      - { from: [Hop, Dash], to: Walk, when: pressed(dash) }`,
  initial: 'Walk',
});

/** What one lane sets on the way in, and another holds. */
const HELD_BACK = movesetText({
  states: `      Walk: {}
      Burst: { enter: ['vx := 9 m/s'] }`,
  crossings: `      - { from: Walk, to: Burst, when: pressed(dash) }
      - { from: Burst, to: Walk, when: elapsed >= 0.2 s }`,
  initial: 'Walk',
  lanes: `  - name: anchor
    initial: Fast
    states: { Fast: { motion: { hold: { vx: 0 m/s } } } }`,
});

/** A state of everywhere that is entered again while a button is held. */
const AGAIN = movesetText({
  states: '      Walk: {}\n      Hop: {}',
  crossings: `      - { from: "*", to: Hop, when: held(hop), reenter: true }
      - { from: Hop, to: Walk, when: released(hop) }`,
  initial: 'Walk',
});

const pressedAt = (ticks: Record<number, string>) => (tick: number) => {
  const control = ticks[tick];
  return control === undefined ? {} : { [control]: 1 };
};

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
    {
      fault: 'RK3/legs/Leap',
      text: PRESSED_DOWN,
      was: "each: ['vy -= vy']",
      sound: "each: ['vy -= 0 m/s']",
      input: pressedAt({ 60: 'hop' }),
    },
    {
      fault: 'RK6/tall>small',
      text: SHRINKING,
      was: 'anchor: middle',
      sound: 'anchor: feet',
      input: pressedAt({ 60: 'dash' }),
    },
    {
      fault: 'AG6/spin/Spin/Lit',
      text: WOUND_TWICE,
      was: '{ length: 0.5 s }',
      sound: '{ length: 0.5 s, again: ignore }',
      input: pressedAt({ 60: 'hop', 70: 'dash' }),
    },
    {
      fault: 'AG5/legs/Fro+To',
      text: ROUND,
      was: 'held(hop)',
      sound: 'held(dash)',
      input: pressedAt({ 60: 'hop' }),
    },
    {
      fault: 'AG1/legs/Walk/Hop+Dash',
      text: TIED,
      was: 'vx = 0 m/s',
      sound: 'vx = 0 m/s, rank: 1',
      input: pressedAt({ 60: 'hop' }),
    },
    {
      fault: 'AG4/legs/Hop+Hop',
      text: AGAIN,
      was: 'held(hop), reenter',
      sound: 'pressed(hop), reenter',
      input: (tick: number) => ({ hop: tick > 60 ? 1 : 0 }),
    },
    {
      fault: 'AG2/vx/Burst enter/Fast hold',
      text: HELD_BACK,
      was: 'hold: { vx: 0 m/s }',
      sound: 'hold: { vy: 0 m/s }',
      input: pressedAt({ 60: 'dash' }),
    },
  ])('$fault', ({ fault, text, was, sound, input }) => {
    expect(text).toContain(was);
    expect(shown(text, input)).toEqual([fault]);
    expect(shown(text.replace(was, sound), input)).toEqual([]);
  });
});
