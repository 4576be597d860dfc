import type { Machine } from '../../machine/index.js';
import { print } from '../../notation/index.js';
import { constantFacts } from '../constants.js';
import { conjuncts } from '../guard.js';
import { type Formula, formulaOf, truthOf } from '../literals.js';
import { canHold } from '../solver.js';
import { type Exit, digitsIn, type Skeleton } from './explore.js';
import { describeValue, fixed, type Digit, writersInWords } from './space.js';

/** Why an exit is never open: the terms of its guard that force it, and what is followed and never as they ask. */
export interface Blocked {
  terms: string[];
  /** One half-sentence a digit: "hopsLeft is always 0 there". */
  because: string[];
  /** Who writes the digits, one line each. */
  writers: string[];
}

/**
 * The smallest set of an exit's terms that no situation of its leaf meets. Undefined when it may be open in one of
 * them, or when no situation is in the leaf at all.
 */
export function blockedBy(
  machine: Machine,
  skeleton: Skeleton,
  exit: Exit,
  among: readonly number[][],
): Blocked | undefined {
  if (among.length === 0 || among.some((values) => skeleton.isOpen(exit, values))) return undefined;
  const { digits } = skeleton.slice;
  const looks = looksOf(among, exit.digits);
  const { crossing } = exit;
  const assertions: { formula: Formula; term: string | undefined }[] = [
    ...constantFacts(machine).map(({ formula }) => ({ formula, term: undefined })),
    ...(crossing.ability < 0
      ? []
      : [
          {
            formula: truthOf('unlocked', machine.abilities[crossing.ability]!.name),
            term: `the ability ${machine.abilities[crossing.ability]!.name}`,
          },
        ]),
    ...conjuncts(crossing.when).map((e) => ({ formula: formulaOf(e), term: `\`${print(e.syntax)}\`` })),
  ];
  const isShut = (list: typeof assertions): boolean =>
    looks.every(
      (look) =>
        !canHold(machine, [
          ...exit.digits.flatMap((p) => fixed(machine, digits[p]!, look[p]!)),
          ...list.map((a) => a.formula),
        ]),
    );
  // With what would win left out it may be open: then it is never open because something else always comes first.
  if (!isShut(assertions)) return undefined;
  let core = assertions;
  for (const assertion of assertions) {
    const without = core.filter((a) => a !== assertion);
    if (isShut(without)) core = without;
  }
  const involved = digitsIn(
    machine,
    digits,
    core.map((a) => a.formula),
  );
  return {
    terms: core.flatMap((a) => a.term ?? []),
    because: involved.flatMap((p) =>
      describeTaken(machine, digits[p]!, [...new Set(among.map((v) => v[p]!))]),
    ),
    writers: involved
      .filter((p) => digits[p]!.kind !== 'leaf')
      .map((p) => describeWriters(machine, digits[p]!)),
  };
}

/** What situations look like to some digits, each once. */
function looksOf(situations: readonly number[][], digits: readonly number[]): number[][] {
  const seen = new Map<string, number[]>();
  for (const values of situations) seen.set(digits.map((p) => values[p]).join(','), values);
  return [...seen.values()];
}

/** What is always so of a digit, in words; nothing when it takes all its values. */
export function describeTaken(machine: Machine, digit: Digit, values: readonly number[]): string[] {
  if (values.length === digit.size) return [];
  const sorted = [...values].sort((a, b) => a - b);
  if (sorted.length === 1)
    return [describeValue(machine, digit, sorted[0]!).replace(/ is | has /, '$&always ')];
  if (digit.kind === 'leaf') {
    const names = sorted.map((v) => machine.states[digit.leaves[v]!]!.name);
    return [
      `the lane ${digit.name} is only ever in ${names.slice(0, -1).join(', ')} or ${names[names.length - 1]}`,
    ];
  }
  if (digit.kind === 'timer')
    return [`${digit.name} is never ${['idle', 'running', 'done'].find((_, v) => !values.includes(v))}`];
  return [`${digit.name} is only ever ${sorted.slice(0, -1).join(', ')} or ${sorted[sorted.length - 1]}`];
}

function describeWriters(machine: Machine, digit: Digit): string {
  const writers = writersInWords(machine, digit);
  if (writers.length === 0) return `Nothing writes ${digit.name}.`;
  return `${digit.name} is written only by ${writers.join(', ')}.`;
}

/** What tells some situations of a leaf from its others, as the end of "once …": up to two digits. */
export function tellsApart(
  machine: Machine,
  { slice }: Skeleton,
  those: readonly number[][],
  others: readonly number[][],
): string {
  const found = slice.digits.flatMap((digit, p) => {
    if (digit.kind === 'leaf' && digit.index === slice.lane) return [];
    const values = [...new Set(those.map((v) => v[p]!))];
    if (values.length !== 1 || others.every((v) => v[p] === values[0])) return [];
    const isAlone = !others.some((v) => v[p] === values[0]);
    return [{ text: describeValue(machine, digit, values[0]!), isAlone }];
  });
  const alone = found.find((f) => f.isAlone);
  return (alone === undefined ? found.slice(0, 2) : [alone]).map((f) => f.text).join(' and ');
}
