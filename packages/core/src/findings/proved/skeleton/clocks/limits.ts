import { bound, type Formula } from '../../../../solver/index.js';
import { type Bounds, differenceOf, rangeOf } from './difference-bounds.js';
import type { Reading } from './clocks.js';

/** `clock first − clock second ≤ most`. */
export interface Limit {
  first: number;
  second: number;
  max: number;
}

/**
 * What a formula says of clocks, as far as it is seen at once: what all of it asks for, and of alternatives the one that
 * is left. `known` gives what is known of truth facts. Undefined when the formula cannot hold.
 */
export function limitsIn(
  formula: Formula,
  readings: readonly Reading[],
  known: (key: string) => boolean | undefined,
): Limit[] | undefined {
  switch (formula.kind) {
    case 'never':
      return undefined;
    case 'truth':
      return (known(formula.key) ?? formula.value) === formula.value ? [] : undefined;
    case 'bound': {
      const reading = readings.find((r) => r.key === formula.key);
      return reading === undefined ? [] : [limitOf(reading, formula.op, formula.value)];
    }
    case 'and': {
      const limits: Limit[] = [];
      for (const part of formula.parts) {
        const more = limitsIn(part, readings, known);
        if (more === undefined) return undefined;
        limits.push(...more);
      }
      return limits;
    }
    case 'or': {
      const open = formula.parts.flatMap((part) => {
        const limits = limitsIn(part, readings, known);
        return limits === undefined ? [] : [limits];
      });
      return open.length > 1 ? [] : open[0];
    }
    default:
      return [];
  }
}

/** A bound on a number as a limit of its clock, which shows whole ticks. */
function limitOf({ clock, sign }: Reading, op: '<' | '<=' | '>' | '>=', value: number): Limit {
  const isUpper = op === '<' || op === '<=';
  const isOpen = op === '<' || op === '>';
  const ticks = isUpper
    ? isOpen
      ? Math.ceil(value) - 1
      : Math.floor(value)
    : isOpen
      ? Math.floor(value) + 1
      : Math.ceil(value);
  return isUpper === sign > 0
    ? { first: clock, second: 0, max: sign > 0 ? ticks : -ticks }
    : { first: 0, second: clock, max: sign > 0 ? -ticks : ticks };
}

/** What is known of clocks, as formulas about the numbers with some keys. */
export function formulasOf(
  bounds: Bounds,
  readings: readonly Reading[],
  keys: ReadonlySet<string>,
): Formula[] {
  const read = readings.filter(({ key }) => keys.has(key));
  const single = read.flatMap(({ key, clock, sign }): Formula[] => {
    const { low, high } = rangeOf(bounds, clock);
    const [min, max] = sign > 0 ? [low, high] : [0 - high, 0 - low];
    return [
      ...(Number.isFinite(min) ? [bound(key, '>=', min)] : []),
      ...(Number.isFinite(max) ? [bound(key, '<=', max)] : []),
    ];
  });
  const pairs = read.flatMap((a) =>
    read.flatMap((b): Formula[] => {
      const max = differenceOf(bounds, a.clock, b.clock);
      if (a.clock === b.clock || max === undefined) return [];
      const terms = new Map([
        [a.key, a.sign],
        [b.key, -b.sign],
      ]);
      const rounding = {
        steps: 0,
        sizes: new Map([
          [a.key, 1],
          [b.key, 1],
        ]),
        constants: Math.abs(max),
        isWhole: true,
      };
      return [{ kind: 'sum', terms, op: '<=', value: max, rounding }];
    }),
  );
  return [...single, ...pairs];
}
