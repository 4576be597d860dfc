import type { Machine } from '../../../machine/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { BESIDE } from './subject.js';

/** TD3: what has neither key nor pad; an aim always has its device. */
export const unbound = (machine: Machine): Finding[] =>
  machine.controls
    .filter((c) => c.kind !== 'aim' && c.keys.length === 0 && c.pad.length === 0)
    .map(({ name, path }) =>
      createFinding({ ...BESIDE, code: 'TD3', path, evidence: { kind: 'control', name } }),
    );
