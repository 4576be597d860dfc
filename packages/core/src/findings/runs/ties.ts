import { type Machine, pressesIn } from '../../machine/index.js';
import type { Certainty } from '../catalogue.js';
import { type Finding, told } from '../finding.js';
import { guardOrNull } from '../guard.js';
import { type Detector, once } from './sign.js';

/** AG1: each set of crossings that tied in a state, at the first tick it happened. */
export const ties: Detector = (machine, records) =>
  once(
    records.flatMap((record) =>
      record.ties.map(({ lane, crossings }) => {
        const state = machine.states[record.leavesBefore[lane]!]!.name;
        return { finding: tieFinding(machine, lane, state, crossings, 'witnessed'), tick: record.tick };
      }),
    ),
  );

/** A tie of crossings, by their places in the lane, wherever it was found. */
export function tieFinding(
  machine: Machine,
  lane: number,
  state: string,
  indexes: readonly number[],
  certainty: Certainty,
): Finding {
  const crossings = indexes.map((i) => machine.lanes[lane]!.crossings[i]!);
  const [first] = crossings;
  const places = crossings.map((c) => ({
    index: c.index,
    to: machine.states[c.to]!.name,
    when: guardOrNull(c),
  }));
  return told({
    code: 'AG1',
    certainty,
    lane: machine.lanes[lane]!.name,
    state,
    crossing: { from: state, to: places[0]!.to, index: first!.index },
    path: first!.path,
    witness: null,
    evidence: {
      crossings: places,
      rank: first!.rank,
      press: sharedPress(crossings.map((c) => (c.when === undefined ? [] : pressesIn(c.when)))) ?? null,
    },
  });
}

/** A button whose press all the guards read. */
function sharedPress(presses: readonly string[][]): string | undefined {
  return presses[0]?.find((control) => presses.every((list) => list.includes(control)));
}
