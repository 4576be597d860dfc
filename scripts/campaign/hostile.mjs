// Documents that are large or odd on purpose: each is to be answered quickly, whatever the answer is.
import { sample } from './server.mjs';

const MAX = 2_000_000;
const range = (n, of) => Array.from({ length: n }, (_, i) => of(i));
const head =
  'glenmark: 1\nkind: moveset\nname: Large\nbody: { stances: { upright: { shape: box, width: 1 m, height: 2 m } } }\n';
const lanes = (states, crossings) =>
  `lanes:\n  - name: legs\n    initial: s0\n    states: { ${range(states, (i) => `s${i}: {}`).join(', ')} }\n    crossings:\n${crossings.map((c) => `      - ${c}\n`).join('')}`;
const crossings = (n, states, guard = () => 'grounded') =>
  range(n, (i) => `{ from: s${i % states}, to: s${(i * 7 + 1) % states}, when: '${guard(i)}' }`);
const small = lanes(2, crossings(1, 2));

/** Movesets, unless another kind is given, by name. */
export const HOSTILE = {
  quotes: '"'.repeat(MAX),
  'line feeds': '\n'.repeat(MAX),
  'line feeds in a body': `${head}${'\n'.repeat(99_000)}${small}`,
  'open brackets': '['.repeat(MAX),
  'open mappings': '{a: '.repeat(MAX / 4),
  'nested lists': `${head}note: ${'['.repeat(50_000)}${']'.repeat(50_000)}\n${small}`,
  dashes: '- '.repeat(MAX / 2),
  anchors: range(50_000, (i) => `a${i}: &a${i} x`).join('\n'),
  aliases: `a: &a [x, x, x, x, x, x, x, x, x]\nb: &b [*a, *a, *a, *a, *a, *a, *a, *a]\nc: &c [*b, *b, *b, *b, *b, *b, *b, *b]\nd: &d [*c, *c, *c, *c, *c, *c, *c]\ne: [*d, *d, *d, *d, *d, *d, *d]\n`,
  comments: '#\n'.repeat(99_000),
  '60,000 states': head + lanes(60_000, crossings(1, 2)),
  '5,000 states, 20,000 crossings': head + lanes(5000, crossings(20_000, 5000)),
  '1,000 states, 4,000 crossings': head + lanes(1000, crossings(4000, 1000)),
  '1,000 states, 4,000 unknown targets':
    head +
    lanes(
      1000,
      range(4000, (i) => `{ from: s${i % 1000}, to: unknown${i}, when: grounded }`),
    ),
  '4,000 unknown names':
    head +
    lanes(
      100,
      crossings(4000, 100, (i) => `unknownName${i} > 3 and alsoUnknown${i}`),
    ),
  '15,000 unknown targets':
    head +
    lanes(
      2,
      range(15_000, (i) => `{ from: s0, to: unknown${i}, when: grounded }`),
    ),
  '10,000 timers': `${head}timers:\n${range(10_000, (i) => `  t${i}: { length: 1 s }\n`).join('')}${small}`,
  '300 timers': `${head}timers:\n${range(300, (i) => `  t${i}: { length: 1 s }\n`).join('')}${small}`,
  'a chain of 20,000 dials': `${head}dials:\n  d0: 1 m\n${range(20_000, (i) => `  d${i + 1}: d${i} * 1\n`).join('')}${small}`,
  'a chain of 999 dials': `${head}dials:\n${range(998, (i) => `  d${i}: d${i + 1} * 1\n`).join('')}  d998: 1 m\n${small}`,
  '30,000 stances':
    head.replace(
      'upright',
      range(30_000, (i) => `p${i}: { shape: box, width: 1 m, height: 1 m }`).join(', ') + ', upright',
    ) + small,
  '100 stances':
    head.replace(
      'upright',
      range(99, (i) => `p${i}: { shape: box, width: 1 m, height: 1 m }`).join(', ') + ', upright',
    ) + small,
  '20,000 parts':
    head.replace(
      'shape: box, width: 1 m, height: 2 m',
      `parts: { ${range(20_000, (i) => `p${i}: { shape: box, width: 1 m, height: 1 m }`).join(', ')} }`,
    ) + small,
  'notes that name hits': `${head}note: "${range(90_000, (i) => `hits(p, t${i})`).join(' ')}"\n${small}`,
  'a guard of 100,000 terms':
    head + lanes(2, [`{ from: s0, to: s1, when: '${range(100_000, () => 'grounded').join(' and ')}' }`]),
  'a guard of parentheses':
    head + lanes(2, [`{ from: s0, to: s1, when: '${'('.repeat(100_000)}grounded${')'.repeat(100_000)}' }`]),
  'a guard of not': head + lanes(2, [`{ from: s0, to: s1, when: '${'not '.repeat(100_000)}grounded' }`]),
  '190 long guards':
    head +
    lanes(
      20,
      crossings(190, 20, (i) => range(40, (k) => `(vx > ${k + i} m/s or vy < ${k} m/s)`).join(' and ')),
    ),
  'groups in groups': `${head}lanes:\n  - name: legs\n    initial: a\n    states: ${'{ a: { initial: a, states: '.repeat(5000)}{ a: {} }${' } }'.repeat(5000)}\n`,
  '60,000 spawns': `glenmark: 1\nkind: course\nname: Large\nsolids: []\nspawns:\n${range(60_000, (i) => `  s${i}: { at: [0 m, 0 m] }\n`).join('')}`,
  '100,000 controls in a tape': `glenmark: 1\nkind: tape\nname: Large\ncourse: x\nspawn: a\nticks: 10\ninputs:\n${range(90_000, (i) => `  c${i}: ["1 for 1"]\n`).join('')}`,
  '20,000 solids': `glenmark: 1\nkind: course\nname: Large\nspawns: { a: { at: [0 m, 0 m] } }\nsolids:\n${range(
    20_000,
    (i) => `  - box: [[${i} m, 0 m], [${i} m, 1 m]]\n`,
  )
    .join('')
    .replaceAll(/\[(\d+) m, 1 m\]/g, (_, n) => `[${Number(n) + 1} m, 1 m]`)}`,
  noise: range(200_000, (i) => String.fromCharCode(33 + ((i * 7919) % 90))).join(''),
  courier: sample('courier.yaml'),
};

export const kindOfHostile = (name) =>
  /spawns|solids/.test(name) ? 'courses' : /tape/.test(name) ? 'tapes' : 'movesets';
