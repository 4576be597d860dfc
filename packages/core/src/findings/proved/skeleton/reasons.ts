import { present } from '../../../present.js';
import { type Machine, refOf } from '../../../machine/index.js';
import { factId, print } from '../../../notation/index.js';
import { constantFacts } from '../constants.js';
import type { ClockRange, Hindrance, TakenValues, ThingValue } from '../../catalogue/evidence.js';
import { conjuncts } from '../guard.js';
import { canHold, type Formula, formulaOf, keysIn, truthOf } from '../../../solver/index.js';
import { givenAt } from './explore/asker.js';
import { readTime } from './clocks/clocks.js';
import type { Timing } from './clocks/timing.js';
import { type Exit, digitsIn } from './explore/exits.js';
import type { Skeleton } from './explore/explore.js';
import { type Digit, valueOf, writersOfThing } from './space.js';

/** Why an exit is never open: the terms of its guard that force it, and what is followed and never as they ask. */
export type Blocked = Extract<Hindrance, { kind: 'blocked' }>;

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
  const looks = looksOf(among, exit.digits, skeleton.timing);
  const { crossing } = exit;
  const assertions: { formula: Formula; term: string | undefined }[] = [
    ...constantFacts(machine).map(({ formula }) => ({ formula, term: undefined })),
    ...(crossing.ability < 0
      ? []
      : [
          {
            formula: truthOf('unlocked', present(machine.abilities[crossing.ability]).name),
            term: `the ability ${present(machine.abilities[crossing.ability]).name}`,
          },
        ]),
    ...conjuncts(crossing.when).map((e) => ({ formula: formulaOf(e), term: `\`${print(e.syntax)}\`` })),
  ];
  const mayHold = (values: readonly number[], formulas: Formula[]): boolean => {
    const given = givenAt(
      machine,
      { digits, timing: skeleton.timing },
      { formulas, digits: exit.digits },
      values,
    );
    return given !== undefined && canHold(machine, [...given, ...formulas]);
  };
  const isShut = (list: typeof assertions): boolean =>
    looks.every(
      (look) =>
        !mayHold(
          look,
          list.map((a) => a.formula),
        ),
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
  const formulas = core.map((a) => a.formula);
  return {
    kind: 'blocked',
    terms: core.flatMap((a) => a.term ?? []),
    taken: involved.flatMap((p) =>
      takenIn(machine, present(digits[p]), new Set(among.map((v) => present(v[p])))),
    ),
    writers: involved
      .filter((p) => present(digits[p]).kind !== 'leaf')
      .map((p) => writersOfThing(machine, present(digits[p]))),
    clocks: clocksIn(machine, skeleton, exit, { formulas, among }),
  };
}

/** Between which times the clocks are that terms read, and how long the state itself has lasted. */
function clocksIn(
  machine: Machine,
  { timing }: Skeleton,
  { leaf }: Exit,
  { formulas, among }: { formulas: readonly Formula[]; among: readonly number[][] },
): ClockRange[] {
  const read = [...keysIn(formulas)];
  if (timing === undefined || !readTime(machine, read)) return [];
  const keys = new Set([factId('elapsed', present(machine.states[leaf]).name), ...read]);
  const found = new Map<string, ClockRange>();
  for (const key of keys) {
    const ranges = among.flatMap((values) => timing.rangeAt(values, key) ?? []);
    if (ranges.length === 0) continue;
    const seconds = (ticks: number): number | null =>
      Number.isFinite(ticks) ? Math.round(ticks * machine.dt * 1e4) / 1e4 : null;
    const least = seconds(Math.min(...ranges.map((r) => r.low)));
    const most = seconds(Math.max(...ranges.map((r) => r.high)));
    const ref = refOf(machine.facts, key);
    const name = ref?.fact === 'left' ? key : (ref?.fact ?? key).replace('laneElapsed', 'elapsed');
    if (!found.has(name) && (most !== null || (least ?? 0) > machine.dt))
      found.set(name, { name, least, most });
  }
  return [...found.values()];
}

/** What situations look like to some digits and to clocks, each once. */
function looksOf(
  situations: readonly number[][],
  digits: readonly number[],
  timing: Timing | undefined,
): number[][] {
  const seen = new Map<string, number[]>();
  for (const values of situations)
    seen.set([...digits.map((p) => values[p]), timing?.placeOf(values)].join(','), values);
  return [...seen.values()];
}

/** The values that a digit ever has; nothing when it takes all of them. */
function takenIn(machine: Machine, digit: Digit, values: ReadonlySet<number>): TakenValues[] {
  if (values.size === digit.size) return [];
  const sorted = [...values].sort((a, b) => a - b);
  return [{ kind: digit.kind, name: digit.name, values: sorted.map((v) => valueOf(machine, digit, v)) }];
}

/** What tells some situations of a leaf from its others: up to two things. */
export function tellsApart(
  machine: Machine,
  { slice }: Skeleton,
  those: readonly number[][],
  others: readonly number[][],
): ThingValue[] {
  const found = slice.digits.flatMap((digit, p) => {
    if (digit.kind === 'leaf' && digit.index === slice.lane) return [];
    const [value, ...more] = new Set(those.map((v) => present(v[p])));
    if (value === undefined || more.length > 0 || others.every((v) => v[p] === value)) return [];
    const isAlone = !others.some((v) => v[p] === value);
    return [{ value: valueOf(machine, digit, value), isAlone }];
  });
  const alone = found.find((f) => f.isAlone);
  return (alone === undefined ? found.slice(0, 2) : [alone]).map((f) => f.value);
}
