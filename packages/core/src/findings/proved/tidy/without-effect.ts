import { present } from '../../../present.js';
import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { BESIDE } from './subject.js';

/** TD8: fields that have no effect where they stand. */
export const withoutEffect = (machine: Machine): Finding[] =>
  machine.idle.map(({ field, because, path }) => {
    const state = machine.states.findLast((s) => s.path.every((step, i) => step === path[i]));
    const where = state?.name ?? path.slice(0, -1).join('.');
    const lane = state === undefined ? '' : present(machine.lanes[state.lane]).name;
    return createFinding({
      ...BESIDE,
      code: 'TD8',
      lane,
      state: state?.name ?? '',
      path,
      evidence: { field, where, because },
    });
  });
