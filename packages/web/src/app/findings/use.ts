import { type Coverage, crossingName, type Finding } from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';

/** How something came to be used. */
export type Use = 'both' | 'tapes' | 'scouting' | 'neither';

/** A state or crossing, with what used it, and the finding that tells how near scouting came when nothing did. */
export interface Used {
  name: string;
  use: Use;
  /** The fingerprint of the finding. */
  nearest: string | undefined;
}

/** Every state and crossing of a moveset by what used it. */
export function useOf(
  machine: Machine,
  byTapes: Coverage | undefined,
  byScouting: Coverage | undefined,
  findings: readonly Finding[],
): Used[] {
  const used = (coverage: Coverage | undefined) => ({
    states: new Set(coverage?.states),
    crossings: new Set(coverage?.crossings),
  });
  const tapes = used(byTapes);
  const scouting = used(byScouting);
  const useBy = (kind: 'states' | 'crossings', label: string): Use => {
    const [t, s] = [tapes[kind].has(label), scouting[kind].has(label)];
    return t && s ? 'both' : t ? 'tapes' : s ? 'scouting' : 'neither';
  };
  const tellsOf = (lane: string, isIt: (f: Finding) => boolean): string | undefined =>
    findings.find((f) => f.lane === lane && f.code.startsWith('IN') && isIt(f))?.fingerprint;
  const states = machine.states
    .filter((state) => state.members.length === 0)
    .map((state): Used => {
      const lane = machine.lanes[state.lane]!.name;
      return {
        name: `${lane} ${state.name}`,
        use: useBy('states', `${lane} ${state.name}`),
        nearest: tellsOf(lane, (f) => f.state === state.name),
      };
    });
  const crossings = machine.lanes.flatMap((lane) =>
    lane.crossings.map((crossing): Used => {
      const name = crossingName(machine, lane.index, crossing.index);
      const target = machine.states[crossing.to]!.name;
      return {
        name: `${lane.name} ${name}`,
        use: useBy('crossings', `${lane.name} ${name} #${crossing.index}`),
        nearest: tellsOf(
          lane.name,
          (f) => f.crossing?.index === crossing.index || (f.crossing === null && f.state === target),
        ),
      };
    }),
  );
  return [...states, ...crossings];
}
