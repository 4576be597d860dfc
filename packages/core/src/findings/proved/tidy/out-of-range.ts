import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { BESIDE } from './subject.js';

/** TD7: dials whose value their own range does not allow. */
export const outOfRange = (machine: Machine): Finding[] =>
  machine.dials.flatMap(({ name, value, min, max, path }): Finding[] => {
    const side = value < min ? 'below' : value > max ? 'above' : undefined;
    return side === undefined
      ? []
      : [createFinding({ ...BESIDE, code: 'TD7', path, evidence: { name, side } })];
  });
