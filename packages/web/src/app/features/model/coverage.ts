import type { Scouting } from '@glenmark/contract';

/** The crossings of a lane, by index, that a scouting of this very revision took; undefined when none says. */
export function usedCrossings(
  scouting: Pick<Scouting, 'revision' | 'coverage'> | undefined,
  revision: number,
  lane: string,
): ReadonlySet<number> | undefined {
  if (scouting?.revision !== revision || scouting.coverage.ofStates === 0) return undefined;
  return new Set(scouting.coverage.crossings.filter((c) => c.lane === lane).map((c) => c.index));
}
