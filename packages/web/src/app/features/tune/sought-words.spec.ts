import type { Reached, SeekAsked, Sought } from '@glenmark/core/tune';
import { answeredOf, soFarWords } from './sought-words';

const ASKED: SeekAsked = {
  goals: [
    { tape: 0, outcome: { kind: 'apex', of: undefined }, is: 'about', value: 2.4 },
    { tape: 0, outcome: { kind: 'timeToApex', of: undefined }, is: 'about', value: 0.36 },
  ],
  free: [{ dial: 'gravity', from: 10, to: 60 }],
  expecting: [0],
  at: {},
};
const DIALS = [
  {
    name: 'gravity',
    dimension: { truth: false, m: 1, s: -2, deg: 0 },
    unit: 'm/s2',
    value: 34,
    min: -Infinity,
    max: Infinity,
    path: ['gravity'],
  },
];
const reached = (apex: [number, boolean], time: [number, boolean], missed: string[] = []): Reached => ({
  setting: { gravity: 35.7024 },
  goals: [apex, time].map(([value, isMet]) => ({ value, isMet })),
  missed,
  cost: 0,
});
const answered = (sought: Partial<Sought>) =>
  answeredOf(ASKED, { ...reached([2.4, true], [0.367, true]), tried: 3, alone: [], ...sought }, DIALS);

describe('the answer of a goal-seek', () => {
  it('says what was reached, and with what', () => {
    const { isMet, values, goals, pulls, tried } = answered({});
    expect(isMet).toBe(true);
    expect(values).toEqual(['gravity 35.7024 m/s2']);
    expect(goals.map((g) => g.text)).toEqual(['apex 2.40 m', 'time to apex 0.37 s']);
    expect(pulls).toEqual([]);
    expect(tried).toBe('3 settings tried');
  });

  it('is not met when an expectation is missed', () => {
    expect(answered({ missed: ['Hop: always grounded'] }).isMet).toBe(false);
  });

  it('tells which goals pull against each other', () => {
    const { pulls } = answered({
      ...reached([2.4, true], [0.5, false]),
      alone: [
        { goal: 1, reached: reached([1.2, false], [0.36, true], ['Hop: in Rise']) },
        { goal: 0, reached: reached([3, false], [0.5, false]) },
      ],
    });
    expect(pulls[0]).toBe(
      'time to apex pulls against others: met alone, it leaves apex 1.20 m; Hop: in Rise.',
    );
    expect(pulls[1]).toMatch(/^apex cannot be met by these dials.*apex 3\.00 m\.$/);
  });
});

describe('the best setting so far, in words', () => {
  it('says what each goal came to, and how many expectations are missed', () => {
    const best = reached([2.31, false], [0.4, false]);
    expect(soFarWords(ASKED, best)).toBe('best so far: apex 2.31 m, time to apex 0.40 s');
    expect(soFarWords(ASKED, { ...best, missed: ['a', 'b'] })).toMatch(/; missed: 2$/);
  });
});
