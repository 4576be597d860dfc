import { present } from '../../present.js';
import { moverOf, moving } from './moving.js';
import { type Detector, factOf, once, type Sign, signAt } from './sign.js';

/** Ticks without falling that count as sticking. */
const STUCK = 20;

/** RK10: pressed against a wall in the air, the body stops falling in a state that says nothing of it. */
export const wallStick: Detector = (machine, records) => {
  const signs: Sign[] = [];
  let since = 0;
  records.forEach((record, t) => {
    const before = records[t - 1];
    const state = moving(machine, record);
    const saysSo =
      state.kind === 'braced' ||
      state.kind === 'slung' ||
      record.leaves.some((leaf) => present(machine.states[leaf]).motion.hold?.vy !== undefined);
    const hangs =
      before !== undefined &&
      machine.plane === 'side' &&
      !record.grounded &&
      factOf(machine, record, 'pushing') !== 0 &&
      Math.abs(record.body.y - before.body.y) < 1e-4 &&
      !record.contacts.some((c) => c.ny > 0.2) &&
      !saysSo;
    since = hangs ? since + 1 : 0;
    if (since < STUCK) return;
    signs.push(
      signAt(record.tick, { ...moverOf(machine, record), code: 'RK10', evidence: { ticks: since } }),
    );
  });
  return once(signs);
};
