import { present } from '../../../../present.js';
import type { Machine } from '../../../../machine/index.js';
import { canHold, type Formula, keysIn, truthOf } from '../../../../solver/index.js';
import type { Timing } from '../clocks/timing.js';
import type { Conditions, Exit } from './exits.js';
import { type Digit, fixed } from '../space.js';

/** Whether conditions may hold in a situation. */
export type Asker = (conditions: Conditions, values: readonly number[]) => boolean;

/** Whether formulas may hold in a situation; asked of the solver once for all situations that look the same to them. */
export function createAsker(machine: Machine, digits: readonly Digit[], timing?: Timing): Asker {
  const known = new Map<Conditions, Map<number, boolean>>();
  const timed = new Map<Conditions, boolean>();
  const readsClocks = (conditions: Conditions): boolean => {
    let reads = timed.get(conditions);
    if (reads === undefined)
      timed.set(conditions, (reads = timing !== undefined && clockKeys(timing, conditions).size > 0));
    return reads;
  };
  return (conditions, values) => {
    let answers = known.get(conditions);
    if (answers === undefined) known.set(conditions, (answers = new Map()));
    let look = 0;
    if (timing !== undefined && !digits.some((d, p) => isPassing(machine, d, values[p]!))) {
      const place = timing.placeOf(values);
      if (place === undefined) return false;
      // What reads no clock looks the same wherever time stands.
      if (readsClocks(conditions)) look = place + 1;
    }
    for (const digit of conditions.digits) look = look * digits[digit]!.size + values[digit]!;
    let answer = answers.get(look);
    if (answer === undefined) {
      const given = givenAt(machine, { digits, timing }, conditions, values);
      answer = given !== undefined && canHold(machine, [...given, ...conditions.formulas]);
      answers.set(look, answer);
    }
    return answer;
  };
}

const clockKeys = (timing: Timing, { formulas }: Pick<Conditions, 'formulas'>): Set<string> =>
  new Set([...keysIn(formulas)].filter((key) => timing.keys.has(key)));

/** What is known in a situation of what conditions speak of; undefined when no run decides there. */
export function givenAt(
  machine: Machine,
  { digits, timing }: { digits: readonly Digit[]; timing: Timing | undefined },
  conditions: Conditions,
  values: readonly number[],
): Formula[] | undefined {
  const discrete = conditions.digits.flatMap((p) => fixedUnlessPassing(machine, digits[p]!, values[p]!));
  // In a passing state the lanes decide on the facts of the tick that entered it.
  if (timing === undefined || digits.some((d, p) => isPassing(machine, d, values[p]!))) return discrete;
  const clocks = timing.atDecision(values, clockKeys(timing, conditions));
  return clocks && [...discrete, ...clocks];
}

/** Whether two lanes may take two crossings in one tick, for all that is known without the situation. */
export function createPairs(machine: Machine): (a: Exit, b: Exit) => boolean {
  const known = new Map<Exit, Map<Exit, boolean>>();
  const inLeaf = ({ leaf }: Exit): Formula[] =>
    machine.states[leaf]!.passing ? [] : [truthOf('in', machine.states[leaf]!.name)];
  return (a, b) => {
    let answers = known.get(a);
    if (answers === undefined) known.set(a, (answers = new Map()));
    let answer = answers.get(b);
    if (answer === undefined) {
      answer = canHold(machine, [...inLeaf(a), ...inLeaf(b), ...a.formulas, ...b.formulas]);
      answers.set(b, answer);
    }
    return answer;
  };
}

const isPassing = (machine: Machine, digit: Digit, value: number): boolean =>
  digit.kind === 'leaf' && present(machine.states[digit.leaves[value]!]).passing;

/** A lane in a passing state may, for the facts of this tick, still be in the state before. */
const fixedUnlessPassing = (machine: Machine, digit: Digit, value: number): Formula[] =>
  isPassing(machine, digit, value) ? [] : fixed(machine, digit, value);
