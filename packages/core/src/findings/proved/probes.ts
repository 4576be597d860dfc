import { present } from '../../present.js';
import { exitsOf, type Machine, type Probe, type Stance, type State } from '../../machine/index.js';
import { type FactName, factsIn } from '../../notation/index.js';
import { coreOf } from '../../world/index.js';
import { type Finding, createFinding } from '../sentences/finding.js';

/** RK4: probes whose whole length lies inside the body, in every stance that it can have while a guard reads them. */
export function shortProbes(machine: Machine): Finding[] {
  return machine.probes.flatMap((probe): Finding[] => {
    if ('aim' in probe.direction || probe.cast !== 0) return [];
    const users = machine.states.filter(
      (s) =>
        s.members.length === 0 &&
        exitsOf(machine, s.index).some(
          ({ crossing: { when } }) =>
            when !== undefined && factsIn(when).some(({ fact, of }) => PROBED.has(fact) && of === probe.name),
        ),
    );
    const stances = new Set(users.flatMap((s) => stancesIn(machine, s)));
    const user = users[0];
    if (user === undefined || ![...stances].every((i) => covers(present(machine.stances[i]), probe)))
      return [];
    const { name, x, y, reach, path } = probe;
    return [
      createFinding({
        code: 'RK4',
        certainty: 'proved',
        lane: present(machine.lanes[user.lane]).name,
        state: user.name,
        crossing: null,
        path,
        witness: null,
        evidence: {
          probe: name,
          stances: [...new Set([...stances].map((i) => present(machine.stances[i]).name))],
          x,
          y,
          reach,
        },
      }),
    ];
  });
}

/** Facts that a probe senses. */
const PROBED: ReadonlySet<FactName> = new Set(['probe', 'distance', 'angle', 'hits']);

/**
 * The stances that a body may have in a state. It has that of the state only where nothing else gives it another: no
 * lane beside it, no state that waits for room, no blend on the way.
 */
function stancesIn(machine: Machine, { stance, lane }: State): number[] {
  const isSure =
    stance >= 0 &&
    machine.blends.size === 0 &&
    machine.states.every((s) => s.stance < 0 || (s.lane === lane && s.ifBlocked === 'refuse'));
  return isSure ? [stance] : [...machine.stances.keys()];
}

/** Whether a probe begins and ends in one part of a stance: parts are convex, so all of it does. */
function covers(stance: Stance, probe: Probe): boolean {
  if ('aim' in probe.direction) return false;
  const end = { x: probe.x + probe.direction.x * probe.reach, y: probe.y + probe.direction.y * probe.reach };
  return stance.parts.map(coreOf).some(({ cx, cy, hx, hy, radius }) => {
    const isIn = ({ x, y }: { x: number; y: number }): boolean => {
      const dx = Math.max(0, Math.abs(x - cx) - hx);
      const dy = Math.max(0, Math.abs(y - cy) - hy);
      return radius === 0 ? dx === 0 && dy === 0 : dx * dx + dy * dy < radius * radius;
    };
    return isIn(probe) && isIn(end);
  });
}
