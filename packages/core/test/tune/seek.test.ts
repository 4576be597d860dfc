import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import { runTape, readTape } from '@glenmark/core/run';
import { finished } from '@glenmark/core/steps';
import {
  createTrials,
  faultOfSeek,
  type Goal,
  hopOf,
  minimising,
  outcomeOf,
  type Reached,
  seeking,
  type SeekAsked,
} from '@glenmark/core/tune';
import { courseOf, FLOOR, movesetText, sample } from '../helpers.js';
import { RATES } from '../mechanics/play.js';
import { COURIER, courseAt, FULL_HOP } from './samples.js';

describe('the downhill simplex', () => {
  it('finds the bottom of a bowl wherever it lies', () => {
    const inside = fc.double({ min: 0.05, max: 0.95, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(inside, inside), { minLength: 1, maxLength: 3 }), (points) => {
        const bottom = points.map(([b]) => b);
        const costOf = (at: readonly number[]): number =>
          at.reduce((sum, v, i) => sum + (i + 1) * (v - bottom[i]!) ** 2, 0);
        const { at } = finished(
          minimising(
            costOf,
            points.map(([, s]) => s),
            600,
          ),
        );
        at.forEach((v, i) => expect(v).toBeCloseTo(bottom[i]!, 3));
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });

  it('goes to the face of the cube when the bottom lies beyond, and asks no more than it may', () => {
    let asked = 0;
    const found = finished(
      minimising(
        ([x]) => {
          asked++;
          return (x! - 2) ** 2;
        },
        [0.2],
        40,
      ),
    );
    expect(found.at[0]).toBeCloseTo(1, 4);
    expect(asked).toBe(found.asked);
    expect(asked).toBeLessThanOrEqual(43);
  });
});

describe('goal-seek', () => {
  const compiled = readMoveset(sample('courier.yaml'));
  const tapes = [{ tape: FULL_HOP, course: courseAt('mill-yard.yaml') }, ...COURIER];
  const trials = createTrials(compiled, tapes);
  const goal = (id: string, value: number, is: Goal['is'] = 'about', tape = 0): Goal => ({
    tape,
    outcome: outcomeOf(id)!,
    is,
    value,
  });
  const FREE = [
    { dial: 'gravity', from: 10, to: 60 },
    { dial: 'hopHeight', from: 0.5, to: 4 },
  ];
  const seek = (asked: Partial<SeekAsked>): ReturnType<typeof sought> => sought(asked);
  function sought(
    asked: Partial<SeekAsked>,
  ): ReturnType<typeof finished<ReturnType<typeof seeking> extends Generator<void, infer T> ? T : never>> {
    return finished(seeking(trials, { goals: [], free: FREE, expecting: [0, 1, 2, 3], at: {}, ...asked }));
  }

  it('finds an apex of 2.4 m after 0.36 s for the courier by the formula, with all expectations kept', () => {
    const found = seek({ goals: [goal('apex', 2.4), goal('timeToApex', 0.36)] });
    expect(found.goals.map((g) => g.isMet)).toEqual([true, true]);
    expect(found.missed).toEqual([]);
    expect(found.tried).toBe(1);
    const g = (2 * 2.4) / (22 / 60) ** 2;
    expect(found.setting['gravity']).toBeCloseTo(g, 9);
    expect(found.goals[0]!.value).toBeCloseTo(2.4, 6);
  });

  it('tells of each setting that is better than all before, and ends with the best', () => {
    const heard: Reached[] = [];
    // A floor on the way that no formula knows, so that there is a way downhill.
    const asked = {
      goals: [goal('apex', 2.2), goal('reach', 9, 'atLeast', 1)],
      free: FREE,
      expecting: [],
      at: {},
    };
    const found = finished(seeking(trials, asked, (best) => heard.push(best)));
    expect(heard.length).toBeGreaterThan(1);
    heard.slice(1).forEach(({ cost }, i) => expect(cost).toBeLessThan(heard[i]!.cost));
    expect(heard.at(-1)).toEqual({
      setting: found.setting,
      goals: found.goals,
      missed: found.missed,
      cost: found.cost,
    });
  });

  it.each(RATES)('the formula gives a hop its height and its time, at %i ticks a second', (rate) => {
    for (const integration of ['semi-implicit', 'explicit', 'trapezoid'] as const)
      fc.assert(
        fc.property(
          fc.double({ min: 0.5, max: 5, noNaN: true }),
          fc.integer({ min: 6, max: 60 }),
          (height, n) => {
            const { gravity, launch } = hopOf(height, n, 1 / rate, integration);
            const text = movesetText({
              states: '      Stand: { stance: tall }\n      Air: { stance: tall }',
              crossings: `      - { from: Stand, to: Air, when: pressed(hop), do: ["vy := ${launch} m/s"] }`,
              initial: 'Stand',
            })
              .replace(/gravity:.*/, `gravity: ${gravity} m/s2`)
              .replace('gravity:', `integration: ${integration}\ngravity:`);
            const { tape } = readTape(
              `glenmark: 1\nkind: tape\nname: t\nmoveset: m\ncourse: c\nspawn: start\nticks: ${n + 20}\ntickRate: ${rate}\ninputs: { hop: ["2 for 3"] }\n`,
            );
            const { measures } = runTape(
              readMoveset(text, { rate }).machine!,
              courseOf(FLOOR),
              tape!,
            ).session!;
            expect(measures.apex).toBeCloseTo(height, 2);
            expect(measures.timeToApex).toBeCloseTo(n / rate, 9);
          },
        ),
        { numRuns: 8, endOnFailure: true },
      );
  });

  it('finds a value downhill where no formula answers', () => {
    const found = seek({
      goals: [goal('apex', 3)],
      free: [{ dial: 'hopHeight', from: 0.5, to: 4 }],
    });
    expect(found.goals[0]!.isMet).toBe(true);
    const gust = seek({
      goals: [goal('along Gust', 2.5, 'about', 3)],
      free: [{ dial: 'gustSpeed', from: 6, to: 20 }],
      expecting: [],
    });
    expect(gust.goals[0]!.value).toBeCloseTo(2.5, 1);
    expect(gust.goals[0]!.isMet).toBe(true);
  });

  it('tells which goals pull against each other, and how near one can come', () => {
    const free = [{ dial: 'hopHeight', from: 0.5, to: 4 }];
    const found = seek({ goals: [goal('apex', 3), goal('timeToApex', 0.25)], free });
    expect(found.goals.every((g) => g.isMet)).toBe(false);
    for (const { goal: which, reached } of found.alone) {
      expect(reached.goals[which]!.isMet).toBe(true);
      expect(reached.goals[1 - which]!.isMet).toBe(false);
    }
    const far = seek({ goals: [goal('apex', 9)], free });
    expect(far.goals[0]!.isMet).toBe(false);
    expect(far.setting['hopHeight']).toBeCloseTo(4, 3);
  });

  it('keeps what tapes expect, and says what that costs', () => {
    // The yard crossing expects at least 2 m.
    const found = seek({
      goals: [goal('apex', 0.8, 'about', 2)],
      free: [{ dial: 'hopHeight', from: 0.5, to: 4 }],
    });
    expect(found.missed).toEqual([]);
    expect(found.goals[0]!.isMet).toBe(false);
    expect(found.alone[0]!.reached.missed.length).toBeGreaterThan(0);
  });

  it('refuses what cannot be asked, in a sentence', () => {
    const asked: SeekAsked = { goals: [goal('apex', 1)], free: FREE, expecting: [], at: {} };
    expect(faultOfSeek(asked)).toBeUndefined();
    expect(faultOfSeek({ ...asked, goals: [] })).toMatch(/at least one goal/);
    expect(faultOfSeek({ ...asked, free: [] })).toMatch(/at least one dial/);
    expect(faultOfSeek({ ...asked, free: [{ dial: 'gravity', from: -Infinity, to: Infinity }] })).toMatch(
      /gravity.*no range/,
    );
    expect(faultOfSeek({ ...asked, free: [{ dial: 'gravity', from: 9, to: 9 }] })).toMatch(
      /smaller value first/,
    );
    expect(faultOfSeek({ ...asked, goals: [goal('apex', NaN)] })).toMatch(/no number/);
  });
});
