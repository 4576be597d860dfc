import { present } from '../../present.js';
import { effectsBetween, exitsOf, type Machine, type Taken } from '../../machine/index.js';
import { type FactName, factsIn } from '../../notation/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** AG6: a timer that one lane started, and whose end its state waits for, is started again by another lane. */
export const clockFight: Detector = (machine, records) => {
  const signs: Sign[] = [];
  const starters = machine.timers.map((): { lane: number; leaf: number } | undefined => undefined);
  records.forEach((record, t) => {
    for (const taken of record.taken) {
      for (const timer of startedBy(machine, taken)) {
        const before = starters[timer];
        const left = records[t - 1]?.timers[timer] ?? -1;
        const waits =
          before !== undefined &&
          before.lane !== taken.lane &&
          left > 0 &&
          record.leaves[before.lane] === before.leaf &&
          waitsFor(machine, before.leaf, present(machine.timers[timer]).name);
        if (waits)
          signs.push(
            signAt(record.tick, {
              code: 'AG6',
              ...placeOfTaken(machine, taken),
              evidence: {
                timer: present(machine.timers[timer]).name,
                waiting: present(machine.states[before.leaf]).name,
                left,
              },
            }),
          );
        starters[timer] = { lane: taken.lane, leaf: taken.to };
      }
    }
  });
  return once(signs);
};

const startedBy = (machine: Machine, { crossing, from, to }: Taken): number[] =>
  effectsBetween(machine, from, crossing, to).flatMap(({ effect }) =>
    effect.kind === 'start' && present(machine.timers[effect.timer]).again !== 'ignore' ? [effect.timer] : [],
  );

/** Facts of a timer. */
const CLOCKED: ReadonlySet<FactName> = new Set(['running', 'done', 'left']);

/** Whether a way out of a state asks for a timer. */
const waitsFor = (machine: Machine, leaf: number, timer: string): boolean =>
  exitsOf(machine, leaf).some(
    ({ crossing: { when } }) =>
      when !== undefined && factsIn(when).some(({ fact, of }) => CLOCKED.has(fact) && of === timer),
  );
