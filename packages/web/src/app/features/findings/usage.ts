import { type Coverage, crossingName, type Finding } from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';

/** How something came to be used. */
export type UsedBy = 'both' | 'tapes' | 'scouting' | 'neither';

/** A state or crossing, with what used it, and the finding that tells how near scouting came when nothing did. */
export interface Usage {
  name: string;
  by: UsedBy;
  /** The fingerprint of the finding. */
  nearest: string | undefined;
}

/** Every state and crossing of a moveset by what used it. */
export function usageOf(
  machine: Machine,
  byTapes: Coverage | undefined,
  byScouting: Coverage | undefined,
  findings: readonly Finding[],
): Usage[] {
  const stateUse = usedByIn<{ lane: string; state: string }>(
    byTapes?.states,
    byScouting?.states,
    (s) => `${s.lane} ${s.state}`,
  );
  const crossingUse = usedByIn<{ lane: string; index: number }>(
    byTapes?.crossings,
    byScouting?.crossings,
    (c) => `${c.lane} ${c.index}`,
  );
  const tellsOf = (lane: string, isIt: (f: Finding) => boolean): string | undefined =>
    findings.find((f) => f.lane === lane && f.code.startsWith('IN') && isIt(f))?.fingerprint;
  const states = machine.states
    .filter((state) => state.members.length === 0)
    .map((state): Usage => {
      const lane = machine.lanes[state.lane]!.name;
      return {
        name: `${lane} ${state.name}`,
        by: stateUse({ lane, state: state.name }),
        nearest: tellsOf(lane, (f) => f.state === state.name),
      };
    });
  const crossings = machine.lanes.flatMap((lane) =>
    lane.crossings.map((crossing): Usage => {
      const target = machine.states[crossing.to]!.name;
      return {
        name: `${lane.name} ${crossingName(machine, crossing)}`,
        by: crossingUse({ lane: lane.name, index: crossing.index }),
        nearest: tellsOf(
          lane.name,
          (f) => f.crossing?.index === crossing.index || (f.crossing === null && f.state === target),
        ),
      };
    }),
  );
  return [...states, ...crossings];
}

/** What used a state or crossing, by what tapes and scouting used. */
function usedByIn<T>(
  byTapes: readonly T[] | undefined,
  byScouting: readonly T[] | undefined,
  keyOf: (of: T) => string,
): (of: T) => UsedBy {
  const [tapes, scouting] = [byTapes, byScouting].map((list) => new Set(list?.map(keyOf)));
  return (of) => {
    const [t, s] = [tapes, scouting].map((keys) => keys?.has(keyOf(of)) === true);
    return t && s ? 'both' : t ? 'tapes' : s ? 'scouting' : 'neither';
  };
}
