import type { Member, Owner } from '../members.js';
import { camel, pascal, snake } from '../names.js';
import type { Outline } from '../outline.js';
import { FIRST, inOrder } from './helpers.js';
import {
  decimal,
  dialLines,
  type Language,
  noteLines,
  preface,
  sections,
  tagFunctions,
  type TagFunction,
} from './language.js';
import { type Naming, namingOf } from './naming.js';
import { createPrinter, type Helper, indented, OWNERS, type Printer, type Syntax } from './printer.js';

/** Lua 5.4, and 5.1 too: one module. */
export const lua: Language = {
  id: 'lua',
  title: 'Lua',
  file: ({ machine }) => `${snake(machine.name)}.lua`,
  print: printLua,
  naming: namesIn,
  usage: ({ machine }) => [
    `local ${snake(machine.name)} = require("${snake(machine.name)}")`,
    '',
    `local body = ${snake(machine.name)}.start() -- one for each character`,
    `local senses = ${snake(machine.name)}.senses()`,
    `local inputs = ${snake(machine.name)}.inputs()`,
    '',
    '-- in every tick: fill in senses and inputs, then',
    `${snake(machine.name)}.tick(body, senses, inputs)`,
    '-- move the character by body.vx and body.vy, and write back what is left of them',
  ],
  compile: undefined,
};

const RESERVED = new Set(
  `and break do else elseif end false for function goto if in local nil not or repeat return then true until while
  c s i w dt math dials M F min max sign root over bounded decay mix approach floor ceil slope downward aimX aimY sine
  tetherLength windUp hangs centreX centreY inputs senses start tick`.split(/\s+/),
);

const NAMES: Record<Owner, string> = { situation: 'c', senses: 's', inputs: 'i', working: 'w' };
/** What a tick works with is the module's own: it makes nothing new in a tick. */
const ARGUMENTS: Partial<Record<Owner, string>> = { situation: 'c', senses: 's', inputs: 'i' };

/** Numbers are never whole ones to Lua: those would overflow, and divide, in ways of their own. */
const literal = decimal('math.huge');

function namesIn(outline: Outline): Naming {
  return namingOf(outline, {
    member: camel,
    procedure: camel,
    enumerator: pascal,
    constant: camel,
    reserved: RESERVED,
    types: ['M', 'F'],
  });
}

function printLua(outline: Outline): string {
  const { machine, used, procedures, steps } = outline;
  const naming = namesIn(outline);
  const syntax = syntaxOf(naming);
  const printer = createPrinter(outline, syntax);
  const args = (needs: ReadonlySet<Owner>): string =>
    OWNERS.flatMap((o) => (needs.has(o) ? (ARGUMENTS[o] ?? []) : [])).join(', ');
  const functions = procedures.map(({ name, note, body, needs }) => [
    ...noteLines('--', note),
    `function F.${naming.procedure(name)}(${args(needs)})`,
    ...indented(printer.procedure({ body })),
    'end',
  ]);
  const initial = (m: Member): string =>
    `${naming.member(m)} = ${printer.initial(m)},${m.note === '' ? '' : ` -- ${m.note}`}`;
  const making = (name: string, note: string, lines: readonly string[]): string[] => [
    ...noteLines('--', note),
    `function M.${name}()`,
    ...indented(['return {', ...indented(lines), '}']),
    'end',
  ];
  return sections([
    preface(outline, '--'),
    ['local M = {}'],
    [`local dt = 1.0 / ${literal(machine.rate)} -- s; every tick is as long`],
    dialLines(outline, naming, '--', {
      open: ['local dials = {'],
      line: (name, value) => `  ${name} = ${literal(value)},`,
      close: ['}', 'M.dials = dials'],
    }),
    ...naming.enumerations.map(({ name, note, values }) => [
      ...noteLines('--', note),
      `local ${name} = {`,
      ...indented(values.map((v) => `${v.name} = ${v.value},`)),
      '}',
      `M.${name} = ${name}`,
    ]),
    making('inputs', 'What the controls say in this tick.', used.inputs.map(initial)),
    making('senses', 'What the game finds out before a tick, where the last move has left the body.', [
      ...used.senses.map(initial),
      ...naming.tethers.flatMap((t) => [
        `${t.x} = 0.0, -- m; where the tether ${t.name} would take hold`,
        `${t.y} = 0.0, -- m, upward`,
        `${t.on} = -1, -- the mover that this place is on, -1 none`,
      ]),
      'zones = {}, -- those with wind or drag that the body is in: { windX = m/s2, windY = m/s2, drag = 1/s }',
      'zoneCount = 0,',
    ]),
    making('start', 'All that changes of a character, before its first tick.', [
      ...used.situation.map(initial),
      ...naming.tethers.map(
        (t) =>
          `${t.list} = { ${Array.from({ length: t.most + 1 }, () => '{ x = 0.0, y = 0.0, on = -1 }').join(', ')} }, -- the oldest first; the game moves those on a mover`,
      ),
    ]),
    [
      '-- What a tick needs while it works; nothing of it is kept.',
      'local w = {',
      ...indented(used.working.map(initial)),
      '}',
    ],
    ...helpers(printer, naming),
    ['local F = {}'],
    ...functions,
    ...tagFunctions(outline, naming, { one: '1.0', enumerator: syntax.enumerator }).map(tagLines),
    [
      '-- One tick. Afterwards the body is to be moved by vx and vy.',
      'function M.tick(c, s, i)',
      ...indented(steps.map(({ name, needs }) => `F.${naming.procedure(name)}(${args(needs)})`)),
      'end',
    ],
    ['return M'],
  ]);
}

const syntaxOf = (naming: Naming): Syntax => ({
  member: (m) => `${NAMES[m.owner]}.${naming.member(m)}`,
  local: naming.local,
  constant: (dial) => `dials.${naming.constant(dial)}`,
  procedure: (name) => `F.${naming.procedure(name)}`,
  owners: ARGUMENTS,
  enumerator: (type, value) => `${naming.enumerationOf(type).name}.${naming.enumerator(type, value)}`,
  asNumber: (_, text) => text,
  fromNumber: (_, text) => text,
  literal,
  whole: (value) => String(value),
  yes: 'true',
  no: 'false',
  and: 'and',
  or: 'or',
  not: 'not ',
  equal: '==',
  differs: '~=',
  // A number is never false, so that `and … or` chooses; a truth may be.
  choice: (when, then, otherwise, isTruth) =>
    isTruth ? `${when} and ${then} or not ${when} and ${otherwise}` : `${when} and ${then} or ${otherwise}`,
  call: (name, args) => `${LIBRARY[name] ?? name}(${[...(FIRST[name] ?? []), ...args].join(', ')})`,
  declare: (_, name, value) => `local ${name} = ${value}`,
  end: '',
  comment: '--',
  ifLine: (when) => `if ${when} then`,
  elseIfLines: (when) => [`elseif ${when} then`],
  elseLines: ['else'],
  endLine: 'end',
  block: (body) => ['do', ...indented(body), 'end'],
  choose: (on, cases, otherwise) => [
    ...cases.flatMap(([labels, body], i) => [
      `${i === 0 ? 'if' : 'elseif'} ${labels.map((label) => `${on} == ${label}`).join(' or ')} then`,
      ...indented(body),
    ]),
    ...(otherwise.length === 0 ? [] : ['else', ...indented(otherwise)]),
    'end',
  ],
  repeat: (times, when, body) => [
    `for _ = 1, ${times} do`,
    ...indented([`if not (${when}) then break end`, ...body]),
    'end',
  ],
  blow: [
    'for z = 1, s.zoneCount do',
    ...indented([
      'local zone = s.zones[z]',
      'if zone.windX ~= 0.0 then',
      ...indented([
        'if stands then',
        '  local speed = vx * ny - vy * nx + zone.windX * dt',
        '  vx = speed * ny',
        '  vy = -(speed * nx)',
        'else',
        '  vx = vx + zone.windX * dt',
        'end',
      ]),
      'end',
      'if zone.windY ~= 0.0 and not stands then',
      '  vy = vy + zone.windY * dt',
      'end',
      'if zone.drag > 0.0 then',
      '  local left = decay(zone.drag * dt)',
      '  vx = vx * left',
      '  vy = vy * left',
      'end',
    ]),
    'end',
  ],
  cast: (i) => naming.tethers.filter(({ tether }) => tether === i).map((t) => `${t.hold}(c, s)`),
  release: (i) =>
    naming.tethers.filter(({ tether }) => tether === i).map((t) => `c.${naming.member(t.count)} = 0.0`),
});

/** A function for the tag of a lane's state. */
const tagLines = ({ name, note, state, elapsed, cases }: TagFunction): string[] => [
  `-- ${note}`,
  `function M.${name}(c)`,
  ...indented([
    ...(elapsed === undefined ? [] : [`local elapsed = ${elapsed}`]),
    ...cases.flatMap(({ enumerator, rules }, i) => [
      `${i === 0 ? 'if' : 'elseif'} ${state} == ${enumerator} then`,
      ...indented(
        rules.map(({ tag, until }) =>
          until === Infinity
            ? `return ${JSON.stringify(tag)}`
            : `if elapsed < ${literal(until)} then return ${JSON.stringify(tag)} end`,
        ),
      ),
    ]),
    'end',
    'return ""',
  ]),
  'end',
];

const LIBRARY: Partial<Record<Helper, string>> = { abs: 'math.abs', sqrt: 'math.sqrt' };

/** The helpers that the code calls, each as a local function. */
function helpers({ called }: Printer, naming: Naming): string[][] {
  const counts = naming.tethers.map((t) => `c.${naming.member(t.count)}`);
  const centre = (axis: 'x' | 'y'): string[] => [
    `local function centre${axis.toUpperCase()}(c)`,
    '  local sum = 0.0',
    ...naming.tethers.flatMap((t, i) => [
      `  for k = 1, ${counts[i] ?? ''} do`,
      `    sum = sum + c.${t.list}[k].${axis}`,
      '  end',
    ]),
    `  return sum / (${counts.join(' + ')})`,
    'end',
  ];
  const lists: Partial<Record<Helper, string[]>> = {
    hangs: ['local function hangs(c)', `  return ${counts.join(' + ')} > 0.0`, 'end'],
    centreX: centre('x'),
    centreY: centre('y'),
  };
  const holds = naming.tethers.map((t, i) => {
    const [list, count] = [`c.${t.list}`, counts[i] ?? ''];
    return [
      `-- The tether ${t.name} takes hold; beyond ${t.most} the oldest lets go. The same place again changes nothing.`,
      `local function ${t.hold}(c, s)`,
      ...indented([
        `for k = 1, ${count} do`,
        `  if ${list}[k].x == s.${t.x} and ${list}[k].y == s.${t.y} then return end`,
        'end',
        `local last = ${list}[${count} + 1]`,
        `last.x, last.y, last.on = s.${t.x}, s.${t.y}, s.${t.on}`,
        `if ${count} < ${t.most} then`,
        `  ${count} = ${count} + 1.0`,
        'else',
        `  for k = 1, ${t.most} do`,
        `    local to, from = ${list}[k], ${list}[k + 1]`,
        '    to.x, to.y, to.on = from.x, from.y, from.on',
        '  end',
        'end',
      ]),
      'end',
    ];
  });
  return [
    ...inOrder(called).flatMap((name) => {
      const lines = lists[name] ?? HELPERS[name]?.map(naming.filled);
      return lines === undefined ? [] : [lines];
    }),
    ...(called.has('hold') ? holds : []),
  ];
}

const HELPERS: Partial<Record<Helper, string[]>> = {
  min: ['local function min(a, b)', '  if a < b or a ~= a then return a end', '  return b', 'end'],
  max: ['local function max(a, b)', '  if a > b or a ~= a then return a end', '  return b', 'end'],
  sign: ['local function sign(a)', '  return a > 0.0 and 1.0 or a < 0.0 and -1.0 or 0.0', 'end'],
  floor: [
    '-- As a number that is none of the whole ones of Lua.',
    'local function floor(a)',
    '  return math.floor(a) + 0.0',
    'end',
  ],
  ceil: [
    '-- As a number that is none of the whole ones of Lua.',
    'local function ceil(a)',
    '  return math.ceil(a) + 0.0',
    'end',
  ],
  root: ['local function root(a)', '  return a > 0.0 and math.sqrt(a) or 0.0', 'end'],
  over: [
    '-- Nothing is divided by 0: that gives 0.',
    'local function over(a, b)',
    '  return b == 0.0 and 0.0 or a / b',
    'end',
  ],
  bounded: [
    '-- No number of a run is greater than this either way.',
    'local function bounded(a)',
    '  return a > 1e9 and 1e9 or a < -1e9 and -1e9 or a ~= a and 0.0 or a',
    'end',
  ],
  mix: ['local function mix(a, b, share)', '  return a + (b - a) * share', 'end'],
  approach: [
    'local function approach(value, target, step)',
    '  if value < target then return min(value + step, target) end',
    '  return max(value - step, target)',
    'end',
  ],
  decay: [
    '-- e to the power of -x, by sums and products alone: the same everywhere.',
    'local function decay(x)',
    '  local isNegative = x < 0.0',
    '  local part = isNegative and -x or x',
    '  if part > 745.0 then return isNegative and math.huge or 0.0 end',
    '  local halvings = 0',
    '  while part > 0.5 do',
    '    part = part / 2.0',
    '    halvings = halvings + 1',
    '  end',
    '  local sum, term = 0.0, 1.0',
    '  for n = 1, 15 do',
    '    sum = sum + term',
    '    term = term * (-part / n)',
    '  end',
    '  for _ = 1, halvings do sum = sum * sum end',
    '  return isNegative and 1.0 / sum or sum',
    'end',
  ],
  slope: [
    '-- The steepness of the ground in degrees, by sums and products alone: the same everywhere.',
    'local function slope(s)',
    '  if not s.{grounded} then return 0.0 end',
    '  if s.{normalY} <= 0.0 then return 90.0 end',
    '  local t = math.abs(s.{normalX}) / s.{normalY}',
    '  for _ = 1, 3 do t = t / (1.0 + math.sqrt(1.0 + t * t)) end',
    '  local square = t * t',
    '  local sum, power = 0.0, t',
    '  for n = 1, 25, 2 do',
    '    sum = sum + (n % 4 == 1 and power or -power) / n',
    '    power = power * square',
    '  end',
    '  return 8.0 * sum * 180.0 / 3.141592653589793',
    'end',
  ],
  downward: [
    '-- How fast the body goes down a slope; 0 on level ground and aloft.',
    'local function downward(c, s)',
    '  return s.{normalX} ~= 0.0 and slope(s) > 1.0 and c.{vx} * s.{normalX} or 0.0',
    'end',
  ],
  sine: [
    '-- The sine of an angle in degrees, by sums and products alone: the same everywhere.',
    'local function sine(degrees, turns)',
    '  -- The nearest quarter, and what is left of the angle; a cosine is a quarter further on.',
    '  local quarter = math.floor(degrees / 90.0) + 0.0',
    '  if degrees / 90.0 - quarter >= 0.5 then quarter = quarter + 1.0 end',
    '  local a = (degrees - quarter * 90.0) * 3.141592653589793 / 180.0',
    '  local even, odd, term = 0.0, 0.0, 1.0',
    '  for n = 0, 17 do',
    '    if n % 2 == 0 then',
    '      even = even + (n % 4 == 0 and term or -term)',
    '    else',
    '      odd = odd + (n % 4 == 1 and term or -term)',
    '    end',
    '    term = term * (a / (n + 1))',
    '  end',
    '  local turn = (quarter + turns) % 4.0',
    '  return turn == 0.0 and odd or turn == 1.0 and even or turn == 2.0 and -odd or -even',
    'end',
  ],
  aimX: ['local function aimX(degrees)', '  return sine(degrees, 1.0)', 'end'],
  aimY: ['local function aimY(degrees)', '  return sine(degrees, 0.0)', 'end'],
  windUp: [
    '-- What the winds add up to upward.',
    'local function windUp(s)',
    '  local up = 0.0',
    '  for z = 1, s.zoneCount do up = up + s.zones[z].windY end',
    '  return up',
    'end',
  ],
  tetherLength: [
    '-- How far the middle of the body is from the centre of the anchors; 0 without any.',
    'local function tetherLength(c, s)',
    '  if not hangs(c) then return 0.0 end',
    '  local x = centreX(c) - s.{x}',
    '  local y = centreY(c) - s.{middle}',
    '  return math.sqrt(x * x + y * y)',
    'end',
  ],
};
