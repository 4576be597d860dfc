import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { remember, slotOf, startOfMemory } from '@glenmark/core/machine';
import { evaluate } from '@glenmark/core/notation';
import { canHold, formulaOf } from '@glenmark/core/solver';
import {
  advance,
  allZero,
  type Bounds,
  copyOf,
  forget,
  holdsTicks,
  include,
  type Pace,
  restrict,
  setClock,
  shiftClock,
  tighten,
  widen,
} from '../src/findings/proved/skeleton/clocks/difference-bounds.js';
import { machineOf, movesetText } from './helpers.js';

const CLOCKS = 3;

type Move =
  | { kind: 'set' | 'shift'; clock: number; ticks: number }
  | { kind: 'advance'; paces: Pace[]; gains: boolean[]; isReset: boolean }
  | { kind: 'restrict'; first: number; second: number; slack: number }
  | { kind: 'forget'; clock: number; ticks: number }
  | { kind: 'join'; ticks: number[] };

const clock = fc.integer({ min: 1, max: CLOCKS });
const pace = fc.constantFrom<Pace>('steady', 'pausable', 'resettable', 'frozen');
const move = fc.oneof(
  fc.record({
    kind: fc.constantFrom('set' as const, 'shift' as const, 'forget' as const),
    clock,
    ticks: fc.integer({ min: -9, max: 9 }),
  }),
  fc.record({
    kind: fc.constant('advance' as const),
    paces: fc.array(pace, { minLength: CLOCKS, maxLength: CLOCKS }),
    gains: fc.array(fc.boolean(), { minLength: CLOCKS, maxLength: CLOCKS }),
    isReset: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('restrict' as const),
    first: fc.integer({ min: 0, max: CLOCKS }),
    second: fc.integer({ min: 0, max: CLOCKS }),
    slack: fc.nat(4),
  }),
  fc.record({
    kind: fc.constant('join' as const),
    ticks: fc.array(fc.integer({ min: -9, max: 9 }), { minLength: CLOCKS, maxLength: CLOCKS }),
  }),
) as fc.Arbitrary<Move>;

/** What a move makes of real clocks, which hold clock 0 at its place, and of what is known of them. */
function apply(bounds: Bounds, ticks: number[], m: Move): number[] {
  const next = [...ticks];
  switch (m.kind) {
    case 'set':
      setClock(bounds, m.clock, m.ticks);
      next[m.clock] = m.ticks;
      return next;
    case 'shift':
      shiftClock(bounds, m.clock, m.ticks);
      next[m.clock]! += m.ticks;
      return next;
    case 'forget':
      forget(bounds, m.clock);
      next[m.clock] = m.ticks;
      return next;
    case 'advance':
      advance(bounds, m.paces);
      m.paces.forEach((p, i) => {
        if (p === 'steady' || (p === 'pausable' && m.gains[i]!)) next[i + 1]!++;
        if (p === 'resettable') next[i + 1] = m.isReset ? 0 : next[i + 1]! + 1;
      });
      return next;
    case 'restrict':
      // Only to what the real clocks meet, so that they stay possible.
      restrict(bounds, m.first, m.second, next[m.first]! - next[m.second]! + m.slack);
      return next;
    case 'join': {
      const before = copyOf(bounds);
      const other = allZero(CLOCKS);
      m.ticks.forEach((t, i) => setClock(other, i + 1, t));
      include(bounds, other);
      widen(bounds, before, [-5, 0, 5]);
      return next;
    }
  }
}

describe('bounds of clocks', () => {
  it('hold whatever real clocks come to, and never contradict them', () => {
    fc.assert(
      fc.property(fc.array(move, { maxLength: 12 }), (moves) => {
        const bounds = allZero(CLOCKS);
        let ticks = Array.from({ length: CLOCKS + 1 }, () => 0);
        for (const m of moves) {
          ticks = apply(bounds, ticks, m);
          expect(tighten(bounds)).toBe(true);
          expect(holdsTicks(bounds, ticks.slice(1))).toBe(true);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('say that there are none when two bounds exclude each other', () => {
    const bounds = allZero(2);
    advance(bounds, ['steady', 'steady']);
    forget(bounds, 2);
    expect(restrict(bounds, 2, 1, -3)).toBe(true);
    expect(holdsTicks(bounds, [1, -2])).toBe(true);
    expect(holdsTicks(bounds, [1, -1])).toBe(false);
    expect(restrict(bounds, 0, 2, 0)).toBe(false);
  });
});

const REMEMBERED = [
  'grounded for 4 ticks',
  'grounded within 3 ticks',
  'airborne for 3 ticks',
  'airborne within 2 ticks',
  'held(hop) for 3 ticks',
  'not held(hop) within 2 ticks',
  'held(dash) within 4 ticks',
  '(held(hop) and held(dash)) within 3 ticks',
  '(held(hop) or held(dash)) for 2 ticks',
  'vx > 1 m/s for 3 ticks',
  'vx < 0 m/s within 2 ticks',
  'airtime >= 3 ticks',
  'airtime < 2 ticks',
  '(grounded within 2 ticks) for 3 ticks',
];

it('memories that hold together in some history are never said to exclude each other', () => {
  let shut = 0;
  const tick = fc.record({
    hop: fc.boolean(),
    dash: fc.boolean(),
    ground: fc.boolean(),
    vx: fc.integer({ min: -1, max: 2 }),
  });
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.constantFrom(...REMEMBERED), { minLength: 2, maxLength: 4 }),
      fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }),
      fc.array(tick, { minLength: 1, maxLength: 40 }),
      (terms, positive, history) => {
        const guard = terms.map((t, i) => (positive[i]! ? `(${t})` : `not (${t})`)).join(' and ');
        const machine = machineOf(
          movesetText({
            states: '      A: {}\n      B: {}',
            crossings: `      - { from: A, to: B, when: "${guard}" }\n      - { from: B, to: A }`,
            initial: 'A',
          }),
        );
        const when = machine.lanes[0]!.crossings[0]!.when!;
        const may = canHold(machine, [formulaOf(when)]);
        if (!may) shut++;
        const facts = new Float64Array(machine.facts.refs.length);
        const put = (value: number | boolean, ...ref: [Parameters<typeof slotOf>[1], string?]): void => {
          facts[slotOf(machine.facts, ...ref)] = Number(value);
        };
        let memories = machine.memories.map(startOfMemory);
        let air = 0;
        history.forEach(({ hop, dash, ground, vx }, t) => {
          air = ground || t === 0 ? 0 : air + 1;
          put(hop, 'held', 'hop');
          put(dash, 'held', 'dash');
          put(ground, 'grounded');
          put(!ground, 'airborne');
          put(air * machine.dt, 'airtime');
          put(vx, 'vx');
          memories = remember(machine.memories, memories, facts);
          if (evaluate(when, facts) !== 0) expect(may, guard).toBe(true);
        });
      },
    ),
    { numRuns: 3000 },
  );
  expect(shut).toBeGreaterThan(100);
});
