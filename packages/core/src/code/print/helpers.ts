import type { Naming } from './naming.js';
import type { Helper, Printer } from './printer.js';

/**
 * The functions that come with the code, in a form from which every language with braces makes its own: `$num` and
 * `$const` declare a number, `$int` a counter, `$abs`, `$floor` and `$sqrt` are of the language's library, `@name` is
 * another helper, and `{name}` a member.
 */
export interface HelperText {
  note?: string;
  result: 'number' | 'truth' | 'nothing';
  params: readonly (readonly [name: string, type: 'number' | 'situation' | 'senses'])[];
  body: readonly string[];
}

const HELPERS: Partial<Record<Helper, HelperText>> = {
  min: {
    result: 'number',
    params: [
      ['a', 'number'],
      ['b', 'number'],
    ],
    body: ['return a < b || a != a ? a : b;'],
  },
  max: {
    result: 'number',
    params: [
      ['a', 'number'],
      ['b', 'number'],
    ],
    body: ['return a > b || a != a ? a : b;'],
  },
  sign: {
    result: 'number',
    params: [['a', 'number']],
    body: ['return a > 0.0 ? 1.0 : a < 0.0 ? -1.0 : 0.0;'],
  },
  root: { result: 'number', params: [['a', 'number']], body: ['return a > 0.0 ? $sqrt(a) : 0.0;'] },
  over: {
    note: 'Nothing is divided by 0: that gives 0.',
    result: 'number',
    params: [
      ['a', 'number'],
      ['b', 'number'],
    ],
    body: ['return b == 0.0 ? 0.0 : a / b;'],
  },
  bounded: {
    note: 'No number of a run is greater than this either way.',
    result: 'number',
    params: [['a', 'number']],
    body: ['return a > 1e9 ? 1e9 : a < -1e9 ? -1e9 : a != a ? 0.0 : a;'],
  },
  mix: {
    result: 'number',
    params: [
      ['a', 'number'],
      ['b', 'number'],
      ['share', 'number'],
    ],
    body: ['return a + (b - a) * share;'],
  },
  approach: {
    result: 'number',
    params: [
      ['value', 'number'],
      ['target', 'number'],
      ['step', 'number'],
    ],
    body: ['return value < target ? @min(value + step, target) : @max(value - step, target);'],
  },
  decay: {
    note: 'e to the power of -x, by sums and products alone: the same everywhere.',
    result: 'number',
    params: [['x', 'number']],
    body: [
      'if (x < 0.0) return 1.0 / @decay(-x);',
      'if (x > 745.0) return 0.0;',
      '$num part = x;',
      '$int halvings = 0;',
      'for (; part > 0.5; halvings++) part /= 2.0;',
      '$num sum = 0.0;',
      '$num term = 1.0;',
      'for ($int n = 1; n <= 15; n++) {',
      '  sum += term;',
      '  term *= -part / n;',
      '}',
      'for (; halvings > 0; halvings--) sum *= sum;',
      'return sum;',
    ],
  },
  slope: {
    note: 'The steepness of the ground in degrees, by sums and products alone: the same everywhere.',
    result: 'number',
    params: [['s', 'senses']],
    body: [
      'if (!s.{grounded}) return 0.0;',
      'if (s.{normalY} <= 0.0) return 90.0;',
      '$num t = $abs(s.{normalX}) / s.{normalY};',
      'for ($int i = 0; i < 3; i++) t = t / (1.0 + $sqrt(1.0 + t * t));',
      '$const square = t * t;',
      '$num sum = 0.0;',
      '$num power = t;',
      'for ($int n = 1; n < 27; n += 2) {',
      '  sum += (n % 4 == 1 ? power : -power) / n;',
      '  power *= square;',
      '}',
      'return 8.0 * sum * 180.0 / 3.141592653589793;',
    ],
  },
  downward: {
    note: 'How fast the body goes down a slope; 0 on level ground and aloft.',
    result: 'number',
    params: [
      ['c', 'situation'],
      ['s', 'senses'],
    ],
    body: ['return s.{normalX} != 0.0 && @slope(s) > 1.0 ? c.{vx} * s.{normalX} : 0.0;'],
  },
  sine: {
    note: 'The sine of an angle in degrees, by sums and products alone: the same everywhere.',
    result: 'number',
    params: [
      ['degrees', 'number'],
      ['turns', 'number'],
    ],
    body: [
      '// The nearest quarter, and what is left of the angle; a cosine is a quarter further on.',
      '$num quarter = $floor(degrees / 90.0);',
      'if (degrees / 90.0 - quarter >= 0.5) quarter += 1.0;',
      '$const a = (degrees - quarter * 90.0) * 3.141592653589793 / 180.0;',
      '$num even = 0.0;',
      '$num odd = 0.0;',
      '$num term = 1.0;',
      'for ($int n = 0; n < 18; n++) {',
      '  if (n % 2 == 0) even += n % 4 == 0 ? term : -term;',
      '  else odd += n % 4 == 1 ? term : -term;',
      '  term *= a / (n + 1);',
      '}',
      '$const turn = quarter + turns - 4.0 * $floor((quarter + turns) / 4.0);',
      'return turn == 0.0 ? odd : turn == 1.0 ? even : turn == 2.0 ? -odd : -even;',
    ],
  },
  aimX: { result: 'number', params: [['degrees', 'number']], body: ['return @sine(degrees, 1.0);'] },
  aimY: { result: 'number', params: [['degrees', 'number']], body: ['return @sine(degrees, 0.0);'] },
  tetherLength: {
    note: 'How far the middle of the body is from the centre of the anchors; 0 without any.',
    result: 'number',
    params: [
      ['c', 'situation'],
      ['s', 'senses'],
    ],
    body: [
      'if (!@hangs(c)) return 0.0;',
      '$const x = @centreX(c) - s.{x};',
      '$const y = @centreY(c) - s.{middle};',
      'return $sqrt(x * x + y * y);',
    ],
  },
};

/** What a helper is given before what the program gives it. */
export const FIRST: Partial<Record<Helper, readonly string[]>> = {
  slope: ['s'],
  downward: ['c', 's'],
  windUp: ['s'],
  hangs: ['c'],
  centreX: ['c'],
  centreY: ['c'],
  tetherLength: ['c', 's'],
};

/** The helpers that go through zones and anchors; `part` is how the language writes the parts of those. */
function listHelpers(naming: Naming, part: (name: string) => string): Partial<Record<Helper, HelperText>> {
  const counts = naming.tethers.map((t) => `c.${naming.member(t.count)}`);
  const centre = (axis: 'x' | 'y'): HelperText => ({
    result: 'number',
    params: [['c', 'situation']],
    body: [
      '$num sum = 0.0;',
      ...naming.tethers.map(
        (t, i) => `for ($int k = 0; k < ${counts[i] ?? ''}; k++) sum += c.${t.list}[k].${part(axis)};`,
      ),
      `return sum / (${counts.join(' + ')});`,
    ],
  });
  return {
    hangs: {
      result: 'truth',
      params: [['c', 'situation']],
      body: [`return ${counts.join(' + ')} > 0.0;`],
    },
    centreX: { note: 'Where the anchors that hold pull to.', ...centre('x') },
    centreY: centre('y'),
    windUp: {
      note: 'What the winds add up to upward.',
      result: 'number',
      params: [['s', 'senses']],
      body: [
        '$num up = 0.0;',
        `for ($int z = 0; z < s.${part('zoneCount')}; z++) up += s.${part('zones')}[z].${part('windY')};`,
        'return up;',
      ],
    },
  };
}

/** For each tether a function by which it takes hold. */
const holdHelpers = (naming: Naming, part: (name: string) => string): { name: string; text: HelperText }[] =>
  naming.tethers.map((t) => {
    const [list, count] = [`c.${t.list}`, `c.${naming.member(t.count)}`];
    const parts = [
      [part('x'), t.x],
      [part('y'), t.y],
      [part('on'), t.on],
    ] as const;
    return {
      name: t.hold,
      text: {
        note: `The tether ${t.name} takes hold; beyond ${t.most} the oldest lets go. The same place again changes nothing.`,
        result: 'nothing',
        params: [
          ['c', 'situation'],
          ['s', 'senses'],
        ],
        body: [
          `for ($int k = 0; k < ${count}; k++) {`,
          `  if (${list}[k].${part('x')} == s.${t.x} && ${list}[k].${part('y')} == s.${t.y}) return;`,
          '}',
          `$int last = $index(${count});`,
          ...parts.map(([to, from]) => `${list}[last].${to} = s.${from};`),
          `if (${count} < ${t.most}) {`,
          `  ${count} = ${count} + 1.0;`,
          '} else {',
          `  for ($int k = 0; k < ${t.most}; k++) {`,
          ...parts.map(([to]) => `    ${list}[k].${to} = ${list}[k + 1].${to};`),
          '  }',
          '}',
        ],
      },
    };
  });

/** How a language with braces writes what the texts leave open. */
export interface HelperSyntax {
  head: (name: string, text: HelperText) => string;
  name: (helper: string) => string;
  num: string;
  const: string;
  int: string;
  abs: string;
  floor: string;
  sqrt: string;
  index: (count: string) => string;
  filled: (line: string) => string;
}

/** A helper as lines of a language with braces. */
function helperLines(name: string, text: HelperText, syntax: HelperSyntax): string[] {
  const { note, body } = text;
  const line = (raw: string): string =>
    syntax
      .filled(raw)
      .replace(/\$(num|const|int|abs|floor|sqrt)/g, (_, word: 'num') => syntax[word])
      .replace(/\$index\(([^)]*)\)/g, (_, count: string) => syntax.index(count))
      .replace(/@(\w+)/g, (_, other: string) => syntax.name(other));
  return [
    ...(note === undefined ? [] : [`// ${note}`]),
    `${syntax.head(name, text)} {`,
    ...body.map((raw) => `  ${line(raw)}`),
    '}',
  ];
}

/** All helpers that printed code calls, in an order in which each stands after those that it calls itself. */
export function helperFunctions(
  { called }: Pick<Printer, 'called'>,
  naming: Naming,
  syntax: HelperSyntax,
  part: (name: string) => string,
): string[][] {
  const texts = { ...HELPERS, ...listHelpers(naming, part) };
  const holds = called.has('hold') ? holdHelpers(naming, part) : [];
  return [
    ...inOrder(called).flatMap((name) => {
      const text = texts[name];
      return text === undefined ? [] : [helperLines(syntax.name(name), text, syntax)];
    }),
    ...holds.map(({ name, text }) => helperLines(name, text, syntax)),
  ];
}

/** The helpers that are needed, each after those that it calls itself. */
export function inOrder(called: Iterable<Helper>): Helper[] {
  const needed = new Set<Helper>();
  const add = (name: Helper): void => {
    for (const other of CALLS[name] ?? []) add(other);
    needed.add(name);
  };
  for (const name of called) add(name);
  return [...needed];
}

const CALLS: Partial<Record<Helper, Helper[]>> = {
  approach: ['min', 'max'],
  downward: ['slope'],
  aimX: ['sine'],
  aimY: ['sine'],
  tetherLength: ['hangs', 'centreX', 'centreY'],
};
