import type { Scouting } from '@glenmark/contract';

/** The crossings of a lane, by index, that a scouting of this very revision took; undefined when none says. */
export function usedCrossings(
  scouting: Pick<Scouting, 'revision' | 'coverage'> | undefined,
  revision: number,
  lane: string,
): ReadonlySet<number> | undefined {
  if (scouting?.revision !== revision || scouting.coverage.ofStates === 0) return undefined;
  const own = scouting.coverage.crossings.filter((name) => name.startsWith(`${lane} `));
  return new Set(own.map((name) => Number(/#(\d+)$/.exec(name)?.[1])));
}
