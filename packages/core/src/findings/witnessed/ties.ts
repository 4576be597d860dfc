import { present } from '../../present.js';
import type { Detector } from './sign.js';
import { once } from './sign.js';
import { tieFinding } from '../proved/conflicts.js';

/** AG1: each set of crossings that tied in a state, at the first tick it happened. */
export const ties: Detector = (machine, records) =>
  once(
    records.flatMap((record) =>
      record.ties.map(({ lane, crossings }) => {
        const state = present(machine.states[present(record.leavesBefore[lane])]).name;
        return { finding: tieFinding(machine, lane, state, crossings, 'witnessed'), tick: record.tick };
      }),
    ),
  );
