import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Integration } from '@glenmark/core/machine';
import type { Trace } from '@glenmark/core/run';
import { courseOf, FLOOR, movesetText, sample } from '../helpers.js';
import { along, both, on, oneState, RATES, slope, stands } from './play.js';

/** How the velocity of a tick moves the body in it, by closed forms at every rate, on both machines. */
const WAYS: readonly Integration[] = ['semi-implicit', 'explicit', 'trapezoid'];
const cases = WAYS.flatMap((way) => RATES.map((rate) => [way, rate] as const));

const stepped = (way: Integration, text: string): string =>
  text.replace('gravity:', `integration: ${way}\ngravity:`);

/** It lands between two ticks at each of the rates. */
const [GRAVITY, LAUNCH] = [30, 8.3];
const hopper = movesetText({
  states: `      Stand: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 20 m/s2, brake: 20 m/s2 } } }
      Air: { stance: tall, motion: { drive: { to: axis(move) * 6 m/s, gain: 20 m/s2, brake: 20 m/s2 } } }
      Dash: { stance: tall, motion: { hold: { vx: facing * 15 m/s, vy: 0 m/s } } }`,
  crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := ${LAUNCH} m/s"] }
      - { from: Air, to: Stand, when: grounded and vy <= 0, rank: 1 }
      - { from: [Stand, Air], to: Dash, when: pressed(dash), do: ["vx := facing * 15 m/s"] }
      - { from: Dash, to: Air, when: elapsed >= 0.2 s }`,
  initial: 'Stand',
});

/** The height after n ticks of a launch of v against g. */
const heights: Record<Integration, (v: number, g: number, dt: number, n: number) => number> = {
  'semi-implicit': (v, g, dt, n) => v * n * dt - (g * dt * dt * n * (n + 1)) / 2,
  explicit: (v, g, dt, n) => v * n * dt - (g * dt * dt * n * (n - 1)) / 2,
  trapezoid: (v, g, dt, n) => v * n * dt - (g * (n * dt) ** 2) / 2,
};

const apexOf = (trace: Trace): number => Math.max(...trace.records.map((r) => r.body.y));

describe('how the engine steps', () => {
  it.each(cases)('a hop is a parabola, %s at %i', (way, rate) => {
    const trace = both(stepped(way, hopper), courseOf(FLOOR), rate, rate, (t) => ({ hop: Number(t >= 1) }));
    const first = trace.records.findIndex((r) => !r.grounded);
    const last = trace.records.findIndex((r, t) => t > first && r.grounded);
    expect(last - first).toBeGreaterThan(10);
    for (let t = first; t < last; t++)
      expect(trace.records[t]!.body.y).toBeCloseTo(heights[way](LAUNCH, GRAVITY, 1 / rate, t - first + 1), 9);
  });

  it.each(RATES)('a hop is as high as v²/2g by the trapezoid, at %i and at every other rate', (rate) => {
    const high = LAUNCH ** 2 / (2 * GRAVITY);
    const trace = both(stepped('trapezoid', hopper), courseOf(FLOOR), rate, rate, () => ({ hop: 1 }));
    // A tick may fall on either side of the top, by half a tick at most.
    expect(apexOf(trace)).toBeLessThanOrEqual(high + 1e-9);
    expect(high - apexOf(trace)).toBeLessThanOrEqual(GRAVITY / rate ** 2 / 8 + 1e-9);
  });

  it.each(RATES)('and by the two others lower and higher, by half a tick of the launch, at %i', (rate) => {
    const [low, high] = (['semi-implicit', 'explicit'] as const).map((way) =>
      apexOf(both(stepped(way, hopper), courseOf(FLOOR), rate, rate, () => ({ hop: 1 }))),
    );
    const off = LAUNCH / rate / 2;
    const top = LAUNCH ** 2 / (2 * GRAVITY);
    expect(Math.abs(top - off - low!)).toBeLessThan(GRAVITY / rate ** 2);
    expect(Math.abs(top + off - high!)).toBeLessThan(GRAVITY / rate ** 2);
  });

  it.each(cases)('a dash is as long as its speed and its time say, %s at %i', (way, rate) => {
    const trace = both(stepped(way, hopper), courseOf(FLOOR), rate, rate, (t) => ({ dash: Number(t >= 2) }));
    const dash = trace.machine.states.findIndex((s) => s.name === 'Dash');
    const ticks = trace.records.flatMap((r, t) => (r.leaves[0] === dash ? [t] : []));
    const way0 = trace.records[ticks[0]! - 1]!.body.x;
    expect(trace.records[ticks.at(-1)!]!.body.x - way0).toBeCloseTo((15 * ticks.length) / rate, 9);
    expect(ticks.length / rate).toBeCloseTo(0.2, 1);
  });

  it.each(cases)('a start from rest goes as the steps of its speed say, %s at %i', (way, rate) => {
    const trace = both(stepped(way, hopper), courseOf(FLOOR), rate, rate, () => ({ move: 1 }));
    const full = Math.ceil((6 / 20) * rate);
    const dt = 1 / rate;
    const share = { 'semi-implicit': 1, explicit: 0, trapezoid: 0.5 }[way];
    let x = trace.start.x;
    for (let n = 1; n < full; n++) {
      const [before, after] = [20 * dt * (n - 1), 20 * dt * n];
      x += (before + share * (after - before)) * dt;
      expect(trace.records[n - 1]!.body.x).toBeCloseTo(x, 9);
      expect(trace.records[n - 1]!.body.vx).toBeCloseTo(after, 9);
    }
  });

  it.each(cases)('what is met is met: no speed is left into floor, wall or slope, %s at %i', (way, rate) => {
    const walled = courseOf(`${FLOOR}\n  - { box: [[3 m, 0 m], [4 m, 5 m]] }`);
    const trace = both(stepped(way, hopper), walled, 2 * rate, rate, (t) => ({
      move: 1,
      hop: Number(t === rate),
    }));
    const stopped = trace.records.filter((r) => r.grounded && r.body.x > 2.6);
    expect(stopped.length).toBeGreaterThan(rate / 4);
    for (const { body } of stopped.slice(1)) expect([body.vx, body.vy]).toEqual([0, 0]);
    for (const { body, grounded } of trace.records) if (grounded) expect(body.vy).toBe(0);
  });

  it.each(cases)(
    'a body runs up and down a slope without leaving it, and along it, %s at %i',
    (way, rate) => {
      const runner = oneState('motion: { drive: { to: axis(move) * 6 m/s, gain: 20 m/s2, brake: 20 m/s2 } }');
      const hill = slope(30);
      const trace = both(
        stepped(way, runner),
        hill,
        2 * rate,
        rate,
        (t) => ({ move: t < rate ? 1 : -1 }),
        on(30, 5),
      );
      const landed = trace.records.findIndex((r) => r.grounded);
      expect(stands(trace, landed)).toBe(true);
      for (const { body } of trace.records.slice(landed + 1))
        expect(body.vy).toBeCloseTo(body.vx * Math.tan(Math.PI / 6), 9);
      expect(along(trace, rate - 1)).toBeCloseTo(6, 9);
    },
  );

  it('both machines play the demo to the same end each way', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...WAYS),
        fc.array(fc.tuple(fc.constantFrom(-1, 0, 1), fc.boolean(), fc.boolean()), {
          minLength: 20,
          maxLength: 20,
        }),
        (way, hands) => {
          const courier = sample('courier.yaml').replace('gravity:', `integration: ${way}\ngravity:`);
          const yard = courseOf(FLOOR);
          both(courier, yard, 200, 60, (t) => {
            const [move, hop, dash] = hands[Math.floor(t / 10)]!;
            return { move, hop: Number(hop), dash: Number(dash) };
          });
        },
      ),
      { numRuns: 15 },
    );
  });
});
