import type { TagFunction } from './language.js';
import { indented } from './printer.js';
import type { Syntax } from './printer.js';

/** What the languages with braces have in common. */
export const braces = (int: string) =>
  ({
    whole: (value) => String(value),
    yes: 'true',
    no: 'false',
    and: '&&',
    or: '||',
    not: '!',
    choice: (when, then, otherwise) => `${when} ? ${then} : ${otherwise}`,
    end: ';',
    comment: '//',
    ifLine: (when) => `if (${when}) {`,
    elseIfLines: (when) => ['}', `else if (${when}) {`],
    elseLines: ['} else {'],
    endLine: '}',
    block: (body) => ['{', ...indented(body), '}'],
    choose: (on, cases, otherwise) => [
      `switch (${on}) {`,
      ...indented([
        ...cases.flatMap(([labels, body]) => [
          ...labels.map((label, i) => `case ${label}:${i + 1 < labels.length ? '' : ' {'}`),
          ...indented([...body, 'break;']),
          '}',
        ]),
        ...(otherwise.length === 0
          ? ['default: break;']
          : ['default: {', ...indented([...otherwise, 'break;']), '}']),
      ]),
      '}',
    ],
    repeat: (times, when, body) => [
      `for (${int} n = 0; n < ${times} && ${when}; n++) {`,
      ...indented(body),
      '}',
    ],
  }) satisfies Partial<Syntax>;

/** How a language goes through the zones: `zone` declares the one with the index z, `parts` are its wind and drag. */
interface BlowSyntax {
  count: string;
  zone: string;
  parts: readonly [windX: string, windY: string, drag: string];
  declare: string;
  decay: string;
  int: string;
}

/** Wind and drag of the zones that the body is in, on the locals `vx` and `vy`. */
export const blowLines = ({
  count,
  zone,
  parts: [windX, windY, drag],
  declare,
  decay,
  int,
}: BlowSyntax): string[] => [
  `for (${int} z = 0; z < ${count}; z++) {`,
  ...indented([
    zone,
    `if (${windX} != 0) {`,
    ...indented([
      'if (stands) {',
      ...indented([
        `${declare} speed = vx * ny - vy * nx + ${windX} * dt;`,
        'vx = speed * ny;',
        'vy = -(speed * nx);',
      ]),
      '} else {',
      ...indented([`vx += ${windX} * dt;`]),
      '}',
    ]),
    '}',
    `if (${windY} != 0 && !stands) {`,
    ...indented([`vy += ${windY} * dt;`]),
    '}',
    `if (${drag} > 0) {`,
    ...indented([`${declare} left = ${decay}(${drag} * dt);`, 'vx *= left;', 'vy *= left;']),
    '}',
  ]),
  '}',
];

/** The body of a function for the tag of a lane's state. */
export const tagLines = (
  { state, elapsed, cases }: TagFunction,
  { declare, literal, none }: { declare: string; literal: (value: number) => string; none: string },
): string[] => [
  ...(elapsed === undefined ? [] : [`${declare} elapsed = ${elapsed};`]),
  `switch (${state}) {`,
  ...indented([
    ...cases.flatMap(({ enumerator, rules }) => [
      `case ${enumerator}:`,
      ...indented(
        rules.map(
          ({ tag, until }) =>
            `${until === Infinity ? '' : `if (elapsed < ${literal(until)}) `}return ${JSON.stringify(tag)};`,
        ),
      ),
    ]),
    'default:',
    `  return ${none};`,
  ]),
  '}',
];
