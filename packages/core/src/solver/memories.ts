import type { Machine, Memory } from '../machine/index.js';
import { bound, type Formula, formulaOf, truth } from './literals.js';

/** Whether formulas can hold together in one tick; `false` is certain. */
type Ask = (machine: Machine, formulas: readonly Formula[]) => boolean;

/** The key of a memory's fact, and the memory that a key stands for. */
const keyOf = ({ slot }: Memory): string => `#${slot}`;

/**
 * What follows for the time in the air from a memory that holds. Something that asks for the ground and held within n
 * ticks did so at most n − 1 ticks ago, with no time in the air then, and each tick adds at most one; what was in the
 * air for n ticks had been for at least n − 1. From above there is no time in the air.
 */
export function airtimeOf(machine: Machine, key: string, value: boolean, ask: Ask): Formula[] {
  const memory = machine.memories.find((m) => keyOf(m) === key);
  if (memory === undefined || !value || machine.plane === 'above' || memory.ticks < 1) return [];
  const { mode, of, ticks } = memory;
  const needs = (grounded: boolean): boolean => !ask(machine, [formulaOf(of), truth('grounded', !grounded)]);
  if (mode === 'within') return needs(true) ? [bound('airtime', '<=', ticks - 1)] : [];
  return needs(false) ? [bound('airtime', '>=', ticks - 1)] : [];
}

/**
 * Whether memories that hold, and that do not, can go together. What held within n ticks did so in one of them; in that
 * tick held, too, all that has held for n ticks or more, and nothing that did not hold within n or more. So these must
 * be able to hold in one tick. A memory that forgets a press once it was used says nothing by not holding.
 */
export function memoriesAgree(machine: Machine, truths: ReadonlyMap<string, boolean>, ask: Ask): boolean {
  const held = machine.memories.filter((m) => m.ticks > 0 && truths.get(keyOf(m)) === (m.mode === 'for'));
  const always = held.filter((m) => m.mode === 'for' || m.presses.length === 0);
  if (always.length === 0) return true;
  const once = machine.memories.filter(
    (m) => m.mode === 'within' && m.ticks > 0 && truths.get(keyOf(m)) === true,
  );
  return once.every((m) => {
    const beside = always.filter((a) => a.ticks >= m.ticks);
    return beside.length === 0 || canMeet(machine, m, beside, ask);
  });
}

function canMeet(machine: Machine, once: Memory, beside: readonly Memory[], ask: Ask): boolean {
  let answers = known.get(machine);
  if (answers === undefined) known.set(machine, (answers = new Map()));
  const label = [once, ...beside].map(keyOf).join();
  let answer = answers.get(label);
  if (answer === undefined) {
    const all = beside.map(({ mode, of }) => formulaOf(of, mode === 'for'));
    answers.set(label, (answer = ask(machine, [formulaOf(once.of), ...all])));
  }
  return answer;
}

/** What was asked for before: the solver comes by the same memories again and again. */
const known = new WeakMap<Machine, Map<string, boolean>>();
