import { coverageOf, findAll } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { describe, expect, it } from 'vitest';
import draft from '../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import { usageOf } from './usage';

const machine = readMoveset(draft).machine!;

describe('what was used', () => {
  it('tells tapes from scouting, both and neither, and where the reason is', () => {
    const lane = machine.lanes[0]!;
    const step = (crossing: number) => {
      const { from, to } = lane.crossings[crossing]!;
      return { lane: 0, crossing, from: from[0]!, to };
    };
    const tapes = coverageOf(machine, [step(0), step(1)]);
    const scouting = coverageOf(machine, [step(1), step(2)]);
    const uses = usageOf(machine, tapes, scouting, findAll(machine, []));
    const crossings = uses.slice(machine.states.filter((s) => s.members.length === 0).length);
    expect(crossings.slice(0, 4).map((u) => u.by)).toEqual(['tapes', 'both', 'scouting', 'neither']);
    expect(uses).toHaveLength(scouting.ofStates + scouting.ofCrossings);
    expect(uses.find((u) => u.name === 'legs Perch')).toMatchObject({
      by: 'neither',
      nearest: 'IN1/legs/Perch',
    });
    expect(usageOf(machine, undefined, undefined, []).every((u) => u.by === 'neither')).toBe(true);
  });
});
