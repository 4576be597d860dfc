import { slotOf } from '@glenmark/core/machine';
import type { FactName } from '@glenmark/core/notation';
import type { Session } from '@glenmark/core/run';

/** What a probe met at a tick: from where to where it was cast (m), and whether it hit. */
export interface Cast {
  name: string;
  x: number;
  y: number;
  x2: number;
  y2: number;
  hit: boolean;
}

/** The probes of a run at a tick, as the lanes weighed them: from where the tick before had left the body. */
export function castsAt({ trace }: Session, tick: number): Cast[] {
  const { machine, records, start } = trace;
  const { facts } = records[tick]!;
  const at = records[tick - 1]?.body ?? start;
  const fact = (name: FactName, of?: string): number => facts[slotOf(machine.facts, name, of)]!;
  const facing = fact('facing');
  return machine.probes.map(({ name, direction, x, y }) => {
    const way =
      'aim' in direction
        ? { x: fact('aimx', direction.aim), y: fact('aimy', direction.aim) }
        : { x: direction.x * facing, y: direction.y };
    const reach = fact('distance', name);
    const [px, py] = [at.x + x * facing, at.y + y];
    return {
      name,
      x: px,
      y: py,
      x2: px + way.x * reach,
      y2: py + way.y * reach,
      hit: fact('probe', name) !== 0,
    };
  });
}
