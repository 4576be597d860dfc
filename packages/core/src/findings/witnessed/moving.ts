import { present } from '../../present.js';
import { effectsBetween, type Machine, type Taken } from '../../machine/index.js';
import type { TickRecord } from '../../run/index.js';
import type { CrossingPlace } from '../catalogue/evidence.js';

/** The state that a sign about the body is reported at: that of the first lane whose state moves it. */
export function moving(machine: Machine, { leaves }: TickRecord) {
  const leaf =
    leaves.find((s) => present(machine.states[s]).motion.drive ?? present(machine.states[s]).motion.hold) ??
    present(leaves[0]);
  return present(machine.states[leaf]);
}

/** Where a sign about the body is reported. */
export const moverOf = (machine: Machine, record: TickRecord) => {
  const { name, lane, path } = moving(machine, record);
  return {
    lane: present(machine.lanes[lane]).name,
    state: name,
    crossing: null as CrossingPlace | null,
    path,
  };
};

/** Whether the effects of a crossing that was taken write vy, other than downward. */
export const lifts = (machine: Machine, { crossing, from, to }: Taken): boolean =>
  effectsBetween(machine, from, crossing, to).some(
    ({ effect }) => effect.kind === 'velocity' && effect.channel === 'vy' && effect.op !== '-=',
  );
