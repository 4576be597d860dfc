import type { Machine } from '../../../../machine/index.js';
import type { Expression } from '../../../../notation/index.js';
import { formulaOf } from '../../../../solver/index.js';
import type { Asker } from './asker.js';
import type { Timing } from '../clocks/timing.js';
import { type Conditions, digitsIn } from './exits.js';
import { type Digit, DONE, initialValue, isVariable, RUNNING, type Slice } from '../space.js';

/** What may become of a situation by one thing that happens by itself. */
export type Change = (values: readonly number[], open: Asker) => number[][];

/**
 * What happens by itself: timers run out, charges come back, things are refilled, zones unlock. What `timing` follows
 * happens when clocks say so, several at once if need be; the rest at any time.
 */
export function environmentOf(machine: Machine, { digits }: Slice, timing: Timing | undefined): Change[] {
  const when = (e: Expression | undefined): Conditions | undefined => {
    if (e === undefined) return undefined;
    const formulas = [formulaOf(e)];
    // All of these look at the facts before any of them: what another may change in the same tick is left free.
    const steady = digitsIn(machine, digits, formulas).filter((p) => !changesByItself(machine, digits[p]!));
    return { formulas, digits: steady };
  };
  const runs = digits.map((digit) =>
    digit.kind === 'timer' ? when(machine.timers[digit.index]!.runs) : undefined,
  );
  const inTime: Change = (values, open) =>
    timing === undefined
      ? []
      : timing
          .later(values)
          .filter((after) =>
            runs.every(
              (condition, p) => condition === undefined || after[p] === values[p] || open(condition, values),
            ),
          );
  const byThemselves = digits.flatMap((digit, at): Change[] => {
    if (timing?.follows(at)) return [];
    const to =
      (value: number, condition?: Conditions): Change =>
      (values, open) =>
        values[at] === value || (condition !== undefined && !open(condition, values))
          ? []
          : [values.with(at, value)];
    const top = digit.size - 1;
    switch (digit.kind) {
      case 'timer': {
        const done = to(DONE, runs[at]);
        return [(values, open) => (values[at] === RUNNING ? done(values, open) : [])];
      }
      case 'charges': {
        const { order, refill } = machine.cooldowns[digit.index]!;
        const back: Change = (values) =>
          values[at] === top ? [] : [values.with(at, order === 'together' ? top : values[at]! + 1)];
        return refill === undefined ? [back] : [back, to(top, when(refill))];
      }
      case 'count':
      case 'flag':
      case 'number': {
        const { refill } = machine.variables[digit.index]!;
        if (refill === undefined) return [];
        return [to(digit.kind === 'count' ? top : initialValue(machine, digit), when(refill))];
      }
      case 'lock':
        // A zone of some course may unlock it.
        return [to(1)];
      default:
        return [];
    }
  });
  return [inTime, ...byThemselves];
}

const changesByItself = (machine: Machine, digit: Digit): boolean =>
  digit.kind === 'timer' ||
  digit.kind === 'charges' ||
  digit.kind === 'lock' ||
  (isVariable(digit.kind) && machine.variables[digit.index]!.refill !== undefined);
