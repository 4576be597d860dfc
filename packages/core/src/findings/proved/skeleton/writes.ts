import { present } from '../../../present.js';
import type { Effect, Machine } from '../../../machine/index.js';
import { evaluate, type Expression, factId, visit } from '../../../notation/index.js';
import { linearOf } from '../../../solver/index.js';
import { endsOf, rangeOfExpression, regionsBetween } from './regions.js';
import { DONE, IDLE, type Digit, RUNNING, writes } from './space.js';

/** What an effect does to one digit: the values it may have afterwards, given all values. */
export interface Op {
  digit: number;
  next: (values: readonly number[]) => readonly number[];
}

/** The effects of a list on the digits that are followed, in order. What cannot be worked out may be any value. */
export const opsOf = (machine: Machine, digits: readonly Digit[], effects: readonly Effect[]): Op[] =>
  effects.flatMap((effect) => {
    const digit = digits.findIndex((p) => writes(effect, p.kind, p.index));
    if (digit < 0) return [];
    return [{ digit, next: nextOf(machine, digits, digit, effect) }];
  });

/** All values after a list of effects, which are changed in place: one, unless some effect may do several things. */
export function applied(ops: readonly Op[], values: number[]): number[][] {
  let results = [values];
  if (ops.length === 0) return results;
  for (const { digit, next } of ops) {
    results = results.flatMap((before) => {
      const after = next(before);
      if (after.length === 1) {
        before[digit] = present(after[0]);
        return [before];
      }
      return after.map((value) => before.with(digit, value));
    });
  }
  return results;
}

function nextOf(machine: Machine, digits: readonly Digit[], at: number, effect: Effect): Op['next'] {
  const { size, saturated, index } = present(digits[at]);
  const top = size - 1;
  switch (effect.kind) {
    case 'spend':
      return tabled(at, size, (v) => (saturated && v === top ? [top - 1, top] : [Math.max(0, v - 1)]));
    case 'refill':
      return tabled(at, size, () => [top]);
    case 'start': {
      const { ticks, again } = present(machine.timers[index]);
      return tabled(at, size, (v) => [ticks > 0 || (v === RUNNING && again !== 'restart') ? RUNNING : DONE]);
    }
    case 'stop':
      return tabled(at, size, () => [IDLE]);
    case 'lock':
      return tabled(at, size, () => [0]);
    case 'unlock':
    case 'raise':
      return tabled(at, size, () => [1]);
    case 'variable': {
      if (present(digits[at]).kind === 'number') return numberAfter(machine, present(digits[at]), at, effect);
      const known = valueOf(machine, digits, effect.value);
      const any = Array.from({ length: size }, (_, i) => i);
      if (known === undefined) return () => any;
      const isFlag = present(machine.variables[effect.variable]).kind === 'flag';
      return (values) => {
        const value = known(values);
        if (value === undefined) return any;
        if (isFlag) return [value === 0 ? 0 : 1];
        const old = present(values[at]);
        const total = effect.op === ':=' ? value : effect.op === '+=' ? old + value : old - value;
        const capped = Math.max(0, Math.min(top, Math.floor(total)));
        // The highest value may stand for more than it says: whatever is between may be left of it.
        const isVague = saturated && effect.op !== ':=' && old === top;
        return isVague ? any.slice(capped) : [capped];
      };
    }
    default:
      throw new RangeError(`no digit is written by ${effect.kind}`);
  }
}

/** The regions that a number may be in after it was set, or added to, whatever the facts are. */
function numberAfter(
  machine: Machine,
  { cuts, size, name }: Digit,
  at: number,
  { op, value }: Pick<Extract<Effect, { kind: 'variable' }>, 'op' | 'value'>,
): Op['next'] {
  const plus = (min: number, max: number): Op['next'] =>
    tabled(at, size, (region) => {
      const { low, high } = endsOf(cuts, region);
      // A sum is rounded to the side of its ends, which are numbers of the region or beside it.
      return regionsBetween(cuts, { low: low + min, high: high + max });
    });
  const own = linearOf(value, []);
  const isGrowth =
    own.terms.size === 1 && own.terms.get(factId('variable', name)) === 1 && own.rounding.steps <= 1;
  if (op === ':=' && isGrowth) return plus(own.offset, own.offset);
  const { low, high } = rangeOfExpression(machine, value);
  if (op !== ':=') return op === '+=' ? plus(low, high) : plus(-high, -low);
  const regions = regionsBetween(cuts, { low, high });
  return () => regions;
}

/** What depends on the digit's own value alone, worked out once for each. */
function tabled(at: number, size: number, next: (value: number) => number[]): Op['next'] {
  const table = Array.from({ length: size }, (_, value) => next(value));
  return (values) => present(table[present(values[at])]);
}

/** An expression's value from the digits; undefined when it reads anything else, or a value that stands for several. */
function valueOf(
  machine: Machine,
  digits: readonly Digit[],
  e: Expression,
): ((values: readonly number[]) => number | undefined) | undefined {
  const read: { slot: number; digit: number }[] = [];
  let isKnown = true;
  visit(e, (node) => {
    if (node.kind === 'memory') isKnown = false;
    if (node.kind !== 'fact') return;
    const digit = digits.findIndex(
      (p) =>
        (p.kind === 'flag' || p.kind === 'count') && node.ref.fact === 'variable' && p.name === node.ref.of,
    );
    if (digit < 0) isKnown = false;
    else read.push({ slot: node.slot, digit });
  });
  if (!isKnown) return undefined;
  const facts = new Float64Array(machine.facts.refs.length);
  return (values) => {
    for (const { slot, digit } of read) {
      const { saturated, size } = present(digits[digit]);
      if (saturated && values[digit] === size - 1) return undefined;
      facts[slot] = present(values[digit]);
    }
    return evaluate(e, facts);
  };
}
