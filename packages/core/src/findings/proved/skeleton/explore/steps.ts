import { present } from '../../../../present.js';
import { type Machine, MAX_PASSING } from '../../../../machine/index.js';
import { canHold } from '../../../../solver/index.js';
import { type Exit, leafDigit } from './exits.js';
import type { Slice } from '../space.js';
import { applied, type Op } from '../writes.js';

/**
 * All ways in which each lane takes one of its choices or none, any two of them together. The same choices are asked
 * for again and again: each answer is worked out once.
 */
export function createCombiner(
  together: (a: Exit, b: Exit) => boolean,
): (choices: readonly (readonly Exit[])[]) => (Exit | undefined)[][] {
  const numbers = new Map<Exit, number>();
  const known = new Map<string, (Exit | undefined)[][]>();
  const numberOf = (exit: Exit): number => {
    let number = numbers.get(exit);
    if (number === undefined) numbers.set(exit, (number = numbers.size));
    return number;
  };
  return (choices) => {
    const label = choices.map((list) => list.map(numberOf).join()).join(';');
    let results = known.get(label);
    if (results === undefined) known.set(label, (results = combinations(choices, together)));
    return results;
  };
}

function combinations(
  choices: readonly (readonly Exit[])[],
  together: (a: Exit, b: Exit) => boolean,
): (Exit | undefined)[][] {
  let results: (Exit | undefined)[][] = [[]];
  for (const list of choices) {
    results = results.flatMap((before) => {
      const fitting = list.filter((c) => before.every((b) => b === undefined || together(b, c)));
      return [[...before, undefined], ...fitting.map((c) => [...before, c])];
    });
  }
  return results;
}

/**
 * What may be so after lanes have taken crossings. Each lane goes all its way before the next one does: from a passing
 * state on, too, whose exits are decided on the facts before the tick and are left free here.
 */
export function createStepper(
  machine: Machine,
  slice: Slice,
  exits: ReadonlyMap<number, readonly Exit[]>,
  codeOf: (values: readonly number[]) => number,
): (moving: readonly (Exit | undefined)[], values: readonly number[]) => number[][] {
  const { digits } = slice;
  const leafDigits = slice.lanes.map((lane) => leafDigit(slice, lane));
  const canOpen = new Map<Exit, boolean>();
  const mayOpen = (exit: Exit): boolean => {
    let may = canOpen.get(exit);
    if (may === undefined) canOpen.set(exit, (may = canHold(machine, exit.formulas)));
    return may;
  };
  /** All that may come of an exit, passing states on the way included, since none of their exits may be open. */
  const along = (at: number, first: Exit, values: number[]): number[][] => {
    const results: number[][] = [];
    let now = [{ exit: first, values }];
    const seen = new Set<string>();
    for (let step = 0; step < MAX_PASSING && now.length > 0; step++) {
      const next: typeof now = [];
      for (const { exit, values: before } of now) {
        for (const target of exit.targets) {
          const entered = exit.targets.length === 1 ? before : [...before];
          entered[at] = digits[at]!.leaves.indexOf(target.leaf);
          for (const after of applied(target.ops, entered)) {
            results.push(after);
            if (!machine.states[target.leaf]!.passing) continue;
            const label = `${target.leaf} ${codeOf(after)}`;
            if (seen.has(label)) continue;
            seen.add(label);
            for (const onward of present(exits.get(target.leaf)))
              if (mayOpen(onward)) next.push({ exit: onward, values: [...after] });
          }
        }
      }
      now = next;
    }
    return results;
  };
  const isPassing = (leaf: number): boolean => machine.states[leaf]!.passing;
  /** Exits that lead to one state that lasts: nearly all of them. */
  const plain = new Map<Exit, { leaf: number; ops: Op[] }>();
  for (const exit of [...exits.values()].flat()) {
    const [target, ...others] = exit.targets;
    if (target === undefined || others.length > 0 || isPassing(target.leaf)) continue;
    const { lane } = machine.states[exit.leaf]!;
    const digit = present(digits[present(leafDigits[slice.lanes.indexOf(lane)])]);
    plain.set(exit, { leaf: digit.leaves.indexOf(target.leaf), ops: target.ops });
  }
  return (moving, values) => {
    let results = [[...values]];
    for (let lane = 0; lane < moving.length; lane++) {
      const exit = moving[lane];
      if (exit === undefined) continue;
      const at = leafDigits[lane]!;
      const target = plain.get(exit);
      if (target !== undefined && results.length === 1) {
        results[0]![at] = target.leaf;
        results = applied(target.ops, results[0]!);
      } else results = results.flatMap((before) => along(at, exit, before));
    }
    return results;
  };
}
