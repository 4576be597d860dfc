import { describe, expect, it } from 'vitest';
import { courseOf, FLOOR } from '../helpers.js';
import { both } from './play.js';

describe('lanes that yield', () => {
  const lanes = (first: string, second: string): string =>
    `glenmark: 1
kind: moveset
name: Two
controls: { hop: { button: [Space] } }
body: { stances: { tall: { shape: box, width: 0.7 m, height: 1.7 m }, low: { shape: box, width: 0.7 m, height: 0.8 m } } }
lanes:
  - { name: one, ${first} }
  - { name: two, ${second} }
`;
  const vxOf = (first: string, second: string): number => {
    const trace = both(lanes(first, second), courseOf(FLOOR), 2, 60, () => ({}));
    return trace.records[1]!.body.vx;
  };
  const writing = (effect: string): string => {
    const state = `W${effect.replace(/\W/g, '')}`;
    return `initial: ${state}, states: { ${state}: { each: ["${effect}"] } }`;
  };

  it('leave a channel to the other, whichever comes first', () => {
    const yields = 'yields: [vx], ';
    expect(vxOf(yields + writing('vx := 3 m/s'), writing('vx := 5 m/s'))).toBe(5);
    expect(vxOf(writing('vx := 5 m/s'), yields + writing('vx := 3 m/s'))).toBe(5);
    expect(vxOf(yields + writing('vx += 3 m/s'), writing('vx := 5 m/s'))).toBe(5);
    expect(vxOf(yields + writing('vx += 3 m/s'), writing('vx += 5 m/s'))).toBe(10);
    // Without another writer they have it to themselves.
    expect(vxOf(yields + writing('vx += 3 m/s'), 'initial: T, states: { T: {} }')).toBe(6);
    const pushed = 'initial: T, states: { T: { motion: { push: { downhill: 9 m/s2 } } } }';
    expect(vxOf(yields + writing('vx := 3 m/s'), pushed)).toBe(0);
  });

  it('show no lost write, and see a write that changes nothing', () => {
    const trace = both(
      lanes(
        'yields: [facing, vx], initial: S, states: { S: { each: ["face left", "vx := 2 m/s"] } }',
        'initial: T, states: { T: { each: ["face right", "vx := 5 m/s"] } }',
      ),
      courseOf(FLOOR),
      3,
      60,
      () => ({}),
    );
    for (const { facing, writes } of trace.records) {
      expect(facing).toBe(1);
      expect(writes.filter((w) => w.author.lane === 0)).toEqual([]);
    }
  });

  it('the last lane that names a stance has it, unless it yields', () => {
    const stance = (first: string, second: string): string => {
      const trace = both(lanes(first, second), courseOf(FLOOR), 3, 60, () => ({}));
      return trace.machine.stances[trace.records[2]!.stance]!.name;
    };
    const [tall, low] = [
      'initial: S, states: { S: { stance: tall } }',
      'initial: T, states: { T: { stance: low } }',
    ];
    expect(stance(tall, low)).toBe('low');
    expect(stance(tall, `yields: [stance], ${low}`)).toBe('tall');
    expect(stance('initial: S, states: { S: {} }', `yields: [stance], ${low}`)).toBe('low');
  });
});
