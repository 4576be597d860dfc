import { describe, expect, it } from 'vitest';
import { measure, readTape, runTape } from '@glenmark/core/run';
import { courseOf, FLOOR, machineOf, movesetText } from './helpers.js';

const machine = machineOf(
  movesetText({
    states:
      '      Walk: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, instant: true } } }\n      Hop: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, instant: true } } }',
    crossings:
      '      - { from: Walk, to: Hop, when: pressed(hop), do: ["vy := 9 m/s"] }\n      - { from: Hop, to: Walk, when: grounded and vy <= 0 }',
    initial: 'Walk',
  }),
);

function results(...expectations: string[]): [boolean, number][] {
  const { tape, diagnostics } = readTape(
    `glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: start\nticks: 60\ninputs: { hop: [10 for 5], move: [0 for 30] }\nexpect:\n${expectations.map((e) => `  - ${JSON.stringify(e)}`).join('\n')}`,
  );
  expect(diagnostics).toEqual([]);
  const { session } = runTape(machine, courseOf(FLOOR), tape!);
  return session!.expectations.map((e) => [e.passed, e.tick]);
}

describe('what a tape expects', () => {
  it.each([
    ['at 10 in Hop', true, 10],
    ['at 9 in Hop', false, 9],
    ['at 10 pressed(hop)', true, 10],
    ['at end in Walk', true, 59],
    ['between 12 and 20 in Hop', true, 20],
    ['between 8 and 20 in Hop', false, 8],
    ['always y >= -0.001 m', true, 59],
    ['always in Walk', false, 10],
    ['never in Hop', false, 10],
    ['never x > 5 m', true, 59],
    ['sometime vy > 8 m/s', true, 10],
    ['sometime vy > 9 m/s', false, 59],
    ['peak vx >= 6 m/s', true, 0],
    ['peak vy = 8.5 m/s', true, 10],
    ['peak height < 1 m', false, 26],
    ['at 10 in Walk within 2 ticks', true, 10],
    ['at 11 in Walk within 2 ticks', false, 11],
    ['sometime in Hop for 10 ticks', true, 19],
    ['never airborne for 0.1 s', false, 15],
    ['lowest vy > -20 m/s', true, 27],
  ])('%s', (text, passed, tick) => {
    const [result] = results(text);
    expect(result![0]).toBe(passed);
    if (!text.startsWith('lowest') && !text.startsWith('peak height')) expect(result![1]).toBe(tick);
  });

  it('are each watched on their own', () => {
    expect(results('at 10 in Hop', 'at 9 in Hop', 'never in Hop').map(([passed]) => passed)).toEqual([
      true,
      false,
      false,
    ]);
  });

  it.each([
    ['sometimes in Hop', /expected it to begin with/],
    ['peak in Hop', /a quantity compared with a constant/],
    ['between 20 and 10 in Hop', /expected them within/],
    ['at 3 height', /found a length, expected a truth value/],
  ])('%s is refused at its line', (text, message) => {
    const { tape } = readTape(
      `glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: start\nticks: 60\nexpect:\n  - ${JSON.stringify(text)}\n`,
    );
    const { session, diagnostics } = runTape(machine, courseOf(FLOOR), tape!);
    expect(session).toBeUndefined();
    expect(diagnostics[0]).toMatchObject({ line: 8 });
    expect(diagnostics[0]!.message).toMatch(message);
  });
});

describe('measures', () => {
  it('agree with the records', () => {
    const { tape } = readTape(
      'glenmark: 1\nkind: tape\nname: T\ncourse: c\nspawn: start\nticks: 60\ninputs: { hop: [10 for 5], move: [0 for 30] }',
    );
    const { session } = runTape(machine, courseOf(FLOOR), tape!);
    const { records } = session!.trace;
    const m = measure(session!.trace);
    expect(m.ticks).toBe(60);
    expect(m.apex).toBe(Math.max(...records.map((r) => r.body.y)));
    expect(m.distance).toBe(records[59]!.body.x);
    expect(m.reach).toBeGreaterThanOrEqual(Math.abs(m.distance));
    expect(m.longestAirtime).toBeCloseTo(records.filter((r) => !r.grounded).length / 60, 9);
    expect(m.timeIn['Walk']! + m.timeIn['Hop']!).toBeCloseTo(1, 9);
  });
});
