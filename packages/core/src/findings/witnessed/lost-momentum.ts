import { present } from '../../present.js';
import type { Machine, Taken } from '../../machine/index.js';
import { print, type Syntax } from '../../notation/index.js';
import type { TickRecord } from '../../run/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** Whether what the body touches, a slope too, leans against the way it goes. */
const isAgainst = (record: TickRecord, vx: number): boolean =>
  record.contacts.some(({ nx }) => nx * Math.sign(vx) < -0.05);

/**
 * Whether a change of state is what cut the speed: its effects or the rules of the entered state wrote it last, and the
 * state that was left would not have moved the body in the same way.
 */
function isCause(machine: Machine, record: TickRecord, { lane, from, to }: Taken): boolean {
  const last = record.writes.findLast((w) => w.channel === 'vx');
  if (last === undefined || last.author.lane !== lane) return false;
  if (last.author.kind === 'do' || last.author.kind === 'enter' || last.author.kind === 'exit') return true;
  return motionText(machine, from) !== motionText(machine, to);
}

/** What moves the body sideways in a state, as text: two states with one text move it alike. */
function motionText(machine: Machine, state: number): string {
  const { drive, hold, push, drag } = present(machine.states[state]).motion;
  const textOf = (_: string, value: unknown): unknown =>
    typeof value === 'object' && value !== null && 'syntax' in value ? print(value.syntax as Syntax) : value;
  return JSON.stringify([drive, hold?.vx, push, drag], textOf);
}

/** RK8: a change of state cuts the speed by more than `limits.momentum` in one tick, with nothing in the way. */
export const lostMomentum: Detector = (machine, records) =>
  once(
    records.flatMap((record, t): Sign[] => {
      const before = records[t - 1];
      const isLaunched = record.writes.some((w) => w.author.lane < 0 && w.channel === 'vx' && w.replaces);
      if (before === undefined || record.taken.length === 0 || isLaunched) return [];
      // What the rules made of the speed, before the body met anything.
      const made = record.writes.findLast((w) => w.channel === 'vx')?.value ?? record.body.vx;
      const [was, is] = [before.body.vx, made];
      const lost = Math.abs(was) - Math.abs(is);
      if (lost <= machine.limits.momentum || was * is < 0 || isAgainst(before, was) || isAgainst(record, was))
        return [];
      const taken = record.taken.find((step) => isCause(machine, record, step));
      if (taken === undefined) return [];
      const [a, b] = [taken.from, taken.to].map((state) => present(machine.states[state]).name) as [
        string,
        string,
      ];
      return [
        signAt(record.tick, {
          ...placeOfTaken(machine, taken),
          code: 'RK8',
          evidence: { from: a, to: b, was, is },
        }),
      ];
    }),
  );
