import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  check,
  checkText,
  dimensionName,
  evaluate,
  LENGTH,
  MAX_DEPTH,
  parseEffect,
  parseExpression,
  PLAIN,
  print,
  printEffect,
  type Scope,
  SPEED,
  type Syntax,
  TIME,
  toTicks,
  TRUTH,
  idOfRef,
} from '@glenmark/core/notation';

const facts: Record<string, { dimension: typeof TRUTH; value: number }> = {
  grounded: { dimension: TRUTH, value: 1 },
  falling: { dimension: TRUTH, value: 0 },
  vx: { dimension: SPEED, value: 4 },
  vy: { dimension: SPEED, value: -2 },
  facing: { dimension: PLAIN, value: -1 },
  x: { dimension: LENGTH, value: 3 },
  'elapsed(Here)': { dimension: TIME, value: 7 / 60 },
  'pressed(hop)': { dimension: TRUTH, value: 1 },
  'held(hop)': { dimension: TRUTH, value: 0 },
};
const keys = Object.keys(facts);
const values = keys.map((k) => facts[k]!.value);
const scope: Scope = {
  rate: 60,
  pixel: undefined,
  constant: (name) =>
    new Map(
      Object.entries({ trotSpeed: { dimension: SPEED, value: 6 }, width: { dimension: LENGTH, value: 0.5 } }),
    ).get(name),
  variable: () => undefined,
  things: (kind) => (kind === 'button' ? ['hop'] : []),
  names: () => ['trotSpeed', 'width'],
  slot: (ref) => (keys.includes(idOfRef(ref)) ? keys.indexOf(idOfRef(ref)) : undefined),
  memory: () => 0,
  elapsed: { fact: 'elapsed', of: 'Here' },
};

/** Well-formed source of a known dimension, with the value it must have, worked out without our parser. */
type Known = { text: string; value: number };
const number = fc.integer({ min: -9, max: 9 });
const speed: fc.Arbitrary<Known> = fc.letrec<{ speed: Known }>((tie) => ({
  speed: fc.oneof(
    { depthSize: 'small' },
    fc.nat(20).map((n) => ({ text: `${n} m/s`, value: n })),
    fc.constantFrom({ text: 'vx', value: 4 }, { text: 'vy', value: -2 }, { text: 'trotSpeed', value: 6 }),
    fc
      .tuple(tie('speed'), tie('speed'))
      .map(([a, b]) => ({ text: `(${a.text} + ${b.text})`, value: a.value + b.value })),
    fc
      .tuple(tie('speed'), tie('speed'))
      .map(([a, b]) => ({ text: `(${a.text} - ${b.text})`, value: a.value - b.value })),
    fc.tuple(fc.nat(4), tie('speed')).map(([n, b]) => ({ text: `${n} * ${b.text}`, value: n * b.value })),
    tie('speed').map((a) => ({ text: `-${a.text}`, value: 0 - a.value })),
    fc
      .tuple(tie('speed'), tie('speed'))
      .map(([a, b]) => ({ text: `min(${a.text}, ${b.text})`, value: Math.min(a.value, b.value) })),
    tie('speed').map((a) => ({ text: `abs(${a.text})`, value: Math.abs(a.value) })),
  ),
})).speed;
const truth: fc.Arbitrary<Known> = fc.letrec<{ truth: Known }>((tie) => ({
  truth: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom(
      { text: 'grounded', value: 1 },
      { text: 'falling', value: 0 },
      { text: 'pressed(hop)', value: 1 },
      { text: 'held(hop)', value: 0 },
    ),
    fc
      .tuple(speed, speed)
      .map(([a, b]) => ({ text: `(${a.text} < ${b.text})`, value: Number(a.value < b.value) })),
    fc
      .tuple(speed, speed)
      .map(([a, b]) => ({ text: `(${a.text} >= ${b.text})`, value: Number(a.value >= b.value) })),
    fc
      .tuple(tie('truth'), tie('truth'))
      .map(([a, b]) => ({ text: `(${a.text} and ${b.text})`, value: a.value * b.value })),
    fc
      .tuple(tie('truth'), tie('truth'))
      .map(([a, b]) => ({ text: `(${a.text} or ${b.text})`, value: Math.max(a.value, b.value) })),
    tie('truth').map((a) => ({ text: `not ${a.text}`, value: 1 - a.value })),
  ),
})).truth;

/** Trees of any kind, well-dimensioned or not, for the printer. */
const tree: fc.Arbitrary<Syntax> = fc.letrec<{ tree: Syntax }>((tie) => {
  const span = { start: 0, end: 0 };
  const t = tie('tree');
  return {
    tree: fc.oneof(
      { depthSize: 'small' },
      fc.nat(999).map((value) => ({
        kind: 'number' as const,
        value,
        digits: String(value),
        unit: undefined,
        ...span,
      })),
      fc
        .tuple(fc.nat(99), fc.constantFrom('m', 's', 'm/s', 'm/s2', '1/s', 'ticks', 'deg', '%'))
        .map(([value, unit]) => ({ kind: 'number' as const, value, digits: String(value), unit, ...span })),
      fc.boolean().map((value) => ({ kind: 'truth' as const, value, ...span })),
      fc
        .constantFrom('grounded', 'vx', 'trotSpeed')
        .map((name) => ({ kind: 'name' as const, name, ...span })),
      fc.array(t, { maxLength: 3 }).map((args) => ({ kind: 'call' as const, name: 'max', args, ...span })),
      t.map((of) => ({ kind: 'negate' as const, of, ...span })),
      t.map((of) => ({ kind: 'not' as const, of, ...span })),
      fc
        .tuple(fc.constantFrom('+' as const, '-' as const, '*' as const, '/' as const), t, t)
        .map(([op, left, right]) => ({ kind: 'arithmetic' as const, op, left, right, ...span })),
      fc
        .tuple(fc.constantFrom('<' as const, '>=' as const, '=' as const), t, t)
        .map(([op, left, right]) => ({ kind: 'compare' as const, op, left, right, ...span })),
      fc
        .tuple(fc.constantFrom('and' as const, 'or' as const), fc.array(t, { minLength: 2, maxLength: 3 }))
        .map(([op, parts]) => ({ kind: 'logic' as const, op, parts, ...span })),
      fc
        .tuple(fc.constantFrom('within' as const, 'for' as const), t, t)
        .map(([kind, of, length]) => ({ kind, of, length, ...span }) as Syntax),
      fc
        .tuple(t, t, t)
        .map(([when, then, otherwise]) => ({ kind: 'choice' as const, when, then, otherwise, ...span })),
    ),
  };
}).tree;

const withoutSpans = (node: Syntax): unknown =>
  JSON.parse(
    JSON.stringify(node, (key, value: unknown) => (key === 'start' || key === 'end' ? undefined : value)),
  );

describe('parse and print', () => {
  it('print then parse gives the same tree, and print of that the same text', () => {
    fc.assert(
      fc.property(tree, (node) => {
        const text = print(node);
        const parsed = parseExpression(text);
        expect(parsed.ok, text).toBe(true);
        if (!parsed.ok) return;
        expect(withoutSpans(parsed.value)).toEqual(withoutSpans(node));
        expect(print(parsed.value)).toBe(text);
      }),
      { numRuns: 500 },
    );
  });

  it('never throws, whatever the text', () => {
    const pieces = fc.constantFrom(
      'grounded',
      ' and ',
      'not ',
      '(',
      ')',
      '3 m/s',
      '1/s',
      '<=',
      ':=',
      ' within ',
      '0.1 s',
      'vx',
      ',',
      'if ',
      ' then ',
      ' else ',
      '%',
      '-',
      '…',
      '"',
      '1e999',
      '.',
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(pieces, { maxLength: 30 }).map((p) => p.join('')),
        ),
        (text) => {
          const parsed = parseExpression(text);
          if (parsed.ok) check(parsed.value, scope);
          else expect(parsed.fault.start).toBeLessThanOrEqual(text.length);
          parseEffect(text);
        },
      ),
      { numRuns: 10_000 },
    );
  });

  it.each(['constructor', 'toString(hop)', '__proto__ > 1', 'hasOwnProperty', 'held(constructor)'])(
    '%s is an unknown name like any other',
    (text) => {
      expect(checkText(text, scope, TRUTH).faults).toHaveLength(1);
      parseEffect(`${text} x`);
    },
  );

  it('nests to a stated depth and refuses beyond it', () => {
    const nested = (n: number): string => '('.repeat(n) + 'vx' + ')'.repeat(n);
    expect(parseExpression(nested(MAX_DEPTH - 1)).ok).toBe(true);
    const tooDeep = parseExpression(nested(MAX_DEPTH + 500));
    expect(tooDeep.ok).toBe(false);
    if (!tooDeep.ok) expect(tooDeep.fault.message).toContain('nested deeper');
    expect(parseExpression('1+'.repeat(4000) + '1').ok).toBe(false);
    expect(checkText('1+'.repeat(400) + '1', scope, PLAIN).expression).toMatchObject({ value: 401 });
    expect(parseExpression('not '.repeat(400) + 'grounded').ok).toBe(false);
    expect(parseExpression('-'.repeat(400) + '1').ok).toBe(false);
  });

  it.each([
    ['not grounded for 3 ticks', { kind: 'for', of: { kind: 'not' } }],
    ['not pressed(hop) within 0.1 s', { kind: 'not', of: { kind: 'within' } }],
    ['a or b and c', { kind: 'logic', op: 'or', parts: [{ kind: 'name' }, { kind: 'logic', op: 'and' }] }],
    ['vx - 1 - 2', { kind: 'arithmetic', op: '-', left: { kind: 'arithmetic' }, right: { kind: 'number' } }],
    ['in Slide', { kind: 'call', name: 'in' }],
    ['2 m/speed', { kind: 'arithmetic', op: '/', left: { kind: 'number', unit: 'm' } }],
  ])('%s reads as it is said', (text, shape) => {
    const parsed = parseExpression(text);
    expect(parsed.ok && parsed.value).toMatchObject(shape);
  });

  it.each([
    ['vx >', 4, 'found the end'],
    ['3 metres', 2, "unknown unit 'metres'"],
    ['grounded and and', 13, "found 'and'"],
    ['a < b < c', 6, 'second comparison'],
    ['vx $ 3', 3, "found '$'"],
  ])('%s is refused at its place', (text, start, message) => {
    const parsed = parseExpression(text);
    expect(parsed).toMatchObject({ ok: false, fault: { start } });
    if (!parsed.ok) expect(parsed.fault.message).toContain(message);
  });

  it.each(['vy := hopSpeed', 'vy += 2 m/s', 'start slideTime', 'keep entrySpeed := speed'])(
    '%s prints as it was written',
    (text) => {
      const parsed = parseEffect(text);
      expect(parsed.ok && printEffect(parsed.value)).toBe(text);
    },
  );
});

describe('check and evaluate', () => {
  it('agrees with values worked out beside it', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          truth.map((k) => ({ ...k, dimension: TRUTH })),
          speed.map((k) => ({ ...k, dimension: SPEED })),
        ),
        ({ text, value, dimension }) => {
          const { expression, faults } = checkText(text, scope, dimension);
          expect(faults, text).toEqual([]);
          expect(evaluate(expression!, values)).toBeCloseTo(value, 9);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it.each([
    ['vx + 3 m', TRUTH, 'found a speed added to a length'],
    ['vx < 3 s', TRUTH, 'found a speed compared with a length of time'],
    ['vx', TRUTH, 'found a speed, expected a truth value'],
    ['elapsed = 3 s', TRUTH, "compared by '='"],
    ['grounded + 1', PLAIN, 'found a truth value, expected a number'],
    ['trotSped', SPEED, "did you mean 'trotSpeed'?"],
    ['pressed(hob)', TRUTH, "did you mean 'hop'?"],
    ['pressd(hop)', TRUTH, "did you mean 'pressed'?"],
    ['pressed', TRUTH, 'needs a name after it'],
    ['vx / 0', PLAIN, 'division by 0'],
    ['sqrt(1, 2)', PLAIN, 'found 2 arguments of sqrt, expected 1'],
    ['grounded within vx', TRUTH, 'found a speed, expected a length of time'],
    ['2 px', LENGTH, 'px'],
  ])('%s is refused with a sentence', (text, dimension, message) => {
    const { expression, faults } = checkText(text, scope, dimension);
    expect(expression).toBeUndefined();
    expect(faults.map((f) => f.message).join('; ')).toContain(message);
  });

  it('reports every fault of an expression, not only the first', () => {
    expect(checkText('trotSped > 1 m/s and pressed(hob)', scope, TRUTH).faults).toHaveLength(2);
  });

  it('lets a bare 0 have any dimension, and no other bare number', () => {
    expect(checkText('vx > 0', scope, TRUTH).faults).toEqual([]);
    expect(checkText('vx > 1', scope, TRUTH).faults).toHaveLength(1);
    expect(checkText('max(0, vx)', scope, SPEED).faults).toEqual([]);
  });

  it('multiplies and divides dimensions', () => {
    expect(dimensionName(checkText('vx * 2 s', scope).expression!.dimension)).toBe('a length');
    expect(dimensionName(checkText('sqrt(2 * 30 m/s2 * width)', scope).expression!.dimension)).toBe(
      'a speed',
    );
    expect(dimensionName(checkText('vx / 2 s', scope).expression!.dimension)).toBe('an acceleration');
  });

  it('compares lengths of time in whole ticks, rounded up', () => {
    // 7 ticks have passed; 0.11 s is 6.6 ticks, so 7.
    const at = (text: string): number => evaluate(checkText(text, scope, TRUTH).expression!, values);
    expect(at('elapsed >= 0.11 s')).toBe(1);
    expect(at('elapsed >= 0.12 s')).toBe(0);
    expect(at('elapsed >= 7 ticks')).toBe(1);
    expect(at('elapsed < 7 ticks')).toBe(0);
  });

  it('rounds up a length of time at every rate, but not for the rounding of a decimal', () => {
    fc.assert(
      fc.property(fc.constantFrom(30, 50, 60, 120, 144), fc.integer({ min: 1, max: 5000 }), (rate, n) => {
        expect(toTicks(n / rate, rate)).toBe(n);
        expect(toTicks((n + 0.5) / rate, rate)).toBe(n + 1);
      }),
    );
    expect(toTicks(0.1, 60)).toBe(6);
    expect(toTicks(0.7, 60)).toBe(42);
  });

  it('scales any product of plain factors', () => {
    fc.assert(
      fc.property(number, number, (a, b) => {
        expect(
          evaluate(checkText(`${Math.abs(a)} * ${Math.abs(b)} m/s`, scope, SPEED).expression!, values),
        ).toBe(Math.abs(a) * Math.abs(b));
      }),
    );
  });
});
