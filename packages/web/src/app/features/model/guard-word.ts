import { type constantFacts, describeShut, shadowOf, shutGuard } from '@glenmark/core/findings';
import type { Crossing, Machine } from '@glenmark/core/machine';

/** What the solver says of a guard, and whether its crossing can never be taken. */
export interface GuardWord {
  never: boolean;
  text: string;
}

export function guardWord(
  machine: Machine,
  crossing: Crossing | undefined,
  facts: ReturnType<typeof constantFacts>,
): GuardWord {
  if (crossing === undefined)
    return {
      never: false,
      text: $localize`No crossing yet. Type a guard and press Enter; empty means always open.`,
    };
  const shut = shutGuard(machine, crossing, facts);
  if (shut !== undefined) return { never: true, text: $localize`Can never hold: ${describeShut(shut)}.` };
  const shadow = shadowOf(machine, crossing, facts);
  if (shadow === undefined) return { never: false, text: $localize`Can hold.` };
  const names = [...new Set(shadow.map((c) => machine.states[c.to]!.name))];
  const winners = new Intl.ListFormat('en', { type: 'disjunction' }).format(names);
  return {
    never: true,
    text: $localize`Can hold, but always loses to the crossing to ${winners}, open whenever this one is.`,
  };
}
