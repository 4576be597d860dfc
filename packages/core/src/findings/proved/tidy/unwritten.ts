import { allEffects, type Machine } from '../../../machine/index.js';
import type { Path } from '../../../model/index.js';
import { createFinding, type Finding } from '../../sentences/finding.js';
import { BESIDE } from './subject.js';

/** TD2: what is read, or waited for, and never written, started or spent. */
export function unwritten(machine: Machine): Finding[] {
  const effects = allEffects(machine);
  const read = new Set(
    machine.references.filter((r) => r.use === 'read' && r.kind === 'variable').map((r) => r.name),
  );
  const never = (kind: string, list: readonly { name: string; path: Path }[]): Finding[] =>
    list.map(({ name, path }) => createFinding({ ...BESIDE, code: 'TD2', path, evidence: { kind, name } }));
  return [
    ...never(
      'variable',
      machine.variables.filter(
        (v, i) =>
          read.has(v.name) &&
          !effects.some(
            (e) =>
              (e.kind === 'variable' && e.variable === i) ||
              ((e.kind === 'spend' || e.kind === 'refill') && e.what === 'count' && e.index === i),
          ),
      ),
    ),
    ...never(
      'timer',
      machine.timers.filter((_, i) => !effects.some((e) => e.kind === 'start' && e.timer === i)),
    ),
    ...never(
      'cooldown',
      machine.cooldowns.filter(
        (_, i) => !effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === i),
      ),
    ),
  ];
}
