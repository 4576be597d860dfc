import { present } from '../../present.js';
import { type Crossing, effectsBetween, type Machine, type Taken } from '../../machine/index.js';
import { factsIn } from '../../notation/index.js';
import { type Detector, once, placeOfTaken, type Sign, signAt } from './sign.js';

/** RK2: a button that is only held takes a crossing that launches again and again. */
export const heldRepeat: Detector = (machine, records) =>
  once(
    machine.lanes.flatMap((lane) =>
      lane.crossings.flatMap((crossing): Sign[] => {
        const held = heldIn(crossing);
        if (held === undefined) return [];
        const control = machine.controls.findIndex((c) => c.name === held);
        let count = 0;
        for (const { tick, input, taken } of records) {
          if (input[control] === 0) count = 0;
          const step = taken.find((t) => t.crossing === crossing);
          if (step === undefined || !launches(machine, step) || ++count < machine.limits.repeats) continue;
          return [
            signAt(tick, {
              ...placeOfTaken(machine, step),
              code: 'RK2',
              evidence: { control: held, from: present(machine.states[step.from]).name, times: count },
            }),
          ];
        }
        return [];
      }),
    ),
  );

/** The button that a guard asks to be down, when it does not ask for a press. */
function heldIn({ when }: Crossing): string | undefined {
  if (when === undefined) return undefined;
  const refs = factsIn(when);
  if (refs.some(({ fact }) => fact === 'pressed' || fact === 'released')) return undefined;
  return refs.find(({ fact }) => fact === 'held')?.of;
}

/** Whether the effects of a crossing that was taken set a velocity. */
const launches = (machine: Machine, { crossing, from, to }: Taken): boolean =>
  effectsBetween(machine, from, crossing, to).some(
    ({ effect }) => effect.kind === 'velocity' && effect.op === ':=',
  );
