import { present } from '../../present.js';
import type { Crossing, Machine } from '../../machine/index.js';
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

/** Whether taking a crossing sets the velocity upward. */
export const lifts = (machine: Machine, crossing: Crossing): boolean =>
  [...crossing.do, ...present(machine.states[crossing.to]).enter].some(
    (e) => e.kind === 'velocity' && e.channel === 'vy' && e.op !== '-=',
  );
