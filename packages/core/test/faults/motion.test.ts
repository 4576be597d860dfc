import { describe, expect, it } from 'vitest';
import { findAll, signsIn } from '@glenmark/core/findings';
import { courseOf, FLOOR, machineOf, movesetText, playInputs } from '../helpers.js';
import { edited, itFinds } from './fault.js';

const course = courseOf(FLOOR);

/** What a run shows, by code and sentence, while controls are held from a tick on. */
const shown = (text: string, ticks: number, input: (tick: number) => Record<string, number>): string[] => {
  const machine = machineOf(text);
  return signsIn(machine, playInputs(machine, course, ticks, input).records).map(
    (s) => `${s.finding.code} ${s.finding.sentence}`,
  );
};

describe('motion that is lost', () => {
  const LAUNCH = movesetText({
    states: '      A: {}\n      B: {}',
    crossings: `      - { from: A, to: B, when: grounded and pressed(hop), do: ["vy := 10 m/s"] }
      - { from: B, to: A, when: grounded for 0.05 s }`,
    initial: 'A',
    lanes: `  - name: arms
    yields: [vy]
    initial: Brace
    states: { Brace: { motion: { hold: { vy: 0 m/s } } }, Free: {} }
    crossings:
      - { from: Brace, to: Free, when: pressed(dash) }
      - { from: Free, to: Brace, when: released(dash) }`,
  });
  const hop = (tick: number): Record<string, number> => (tick >= 5 ? { hop: 1 } : {});

  it('a launch that a lane which yields undoes one tick later: suspected, then seen', () => {
    const told = (text: string): string[] =>
      findAll(machineOf(text), []).flatMap((f) => (f.code === 'RK3' ? [f.sentence] : []));
    const sentence =
      'The vy that A → B do sets may be undone one tick later: the lane arms yields it only in the tick of the launch, and then Brace hold holds it.';
    expect(told(LAUNCH)).toEqual([sentence]);
    expect(shown(LAUNCH, 20, hop)).toContain(`RK3 ${sentence.replace('may be', 'is')}`);
    const sound = edited(LAUNCH, { 'hold: { vy: 0 m/s }': 'hold: { vx: 0 m/s }' });
    expect(told(sound)).toEqual([]);
    expect(shown(sound, 20, hop)).toEqual([]);
  });

  it('a cut of speed is not blamed on a change of state that moves the body as before', () => {
    const stop = movesetText({
      states: `      A: { motion: { drive: { to: axis(move) * 12 m/s, gain: 600 m/s2, brake: 600 m/s2, turn: 600 m/s2 } } }
      B: { motion: { drive: { to: axis(move) * 12 m/s, gain: 600 m/s2, brake: 600 m/s2, turn: 600 m/s2 } } }`,
      crossings: `      - { from: A, to: B, when: released(hop) }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    });
    const input = (tick: number): Record<string, number> => (tick < 30 ? { hop: 1, move: 1 } : {});
    expect(shown(stop, 40, input)).toEqual([]);
    const other = stop.replace(
      '      B: { motion: { drive: { to: axis(move) * 12 m/s',
      '      B: { motion: { drive: { to: axis(move) * 11 m/s',
    );
    expect(shown(other, 40, input).map((s) => s.slice(0, 3))).toEqual(['RK8']);
  });

  itFinds('a crossing into a larger stance that always loses to one into a smaller', {
    text: movesetText({
      states: `      A: { stance: tall }
      G: { initial: X, states: { X: { stance: tall }, Y: { stance: tall } } }
      Z: { stance: low }
      W: { stance: tall }`,
      crossings: `      - { from: A, to: G, when: pressed(hop) }
      - { from: X, to: Y, when: pressed(dash) }
      - { from: G, to: Z, when: grounded, rank: 2 }
      - { from: G, to: W, when: grounded and pressed(hop), rank: 1 }
      - { from: [Z, W], to: A, when: pressed(dash) }`,
      initial: 'A',
    }),
    // The larger one need not fit where the smaller does.
    edits: { 'Z: { stance: low }': 'Z: { stance: tall }', 'W: { stance: tall }': 'W: { stance: low }' },
    code: 'IN3',
    state: 'W',
    says: ['always loses to the crossing to Z'],
  });

  it('a straight chain of passing states is no loop', () => {
    const names = Array.from({ length: 9 }, (_, i) => `P${i}`);
    const chain = movesetText({
      states: `      A: {}\n${names.map((n) => `      ${n}: { passing: true }`).join('\n')}\n      Z: {}`,
      crossings: `      - { from: A, to: P0, when: pressed(hop) }
${names.map((n, i) => `      - { from: ${n}, to: ${names[i + 1] ?? 'Z'} }`).join('\n')}
      - { from: Z, to: A, when: pressed(hop) }`,
      initial: 'A',
    });
    expect(shown(chain, 10, hop)).toEqual([]);
    const loop = chain.replace('from: P8, to: Z', 'from: P8, to: P0');
    expect(shown(loop, 10, hop).some((s) => s.startsWith('AG5'))).toBe(false);
    const short = chain.replace('from: P3, to: P4', 'from: P3, to: P2');
    expect(shown(short, 10, hop).map((s) => s.slice(0, 3))).toContain('AG5');
  });
});
