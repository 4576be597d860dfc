import { type Machine, pressesIn } from '../../machine/index.js';
import { once, type Detector, type Sign } from './sign.js';

/** AG1: each set of crossings that tied in a state, at the first tick it happened. */
export const ties: Detector = (machine, records) =>
  once(
    records.flatMap((record) =>
      record.ties.map(({ lane, crossings }) => {
        const state = machine.states[record.leavesBefore[lane]!]!.name;
        return { ...tieOf(machine, lane, state, crossings), tick: record.tick };
      }),
    ),
  );

/** What there is to say of a tie of crossings, by their places in the lane, wherever it was found. */
export function tieOf(
  machine: Machine,
  lane: number,
  state: string,
  indexes: readonly number[],
): Omit<Sign, 'tick'> {
  const crossings = indexes.map((i) => machine.lanes[lane]!.crossings[i]!);
  const targets = indexes.map((i) => targetName(machine, lane, i));
  const shared = sharedPress(crossings.map((c) => (c.when === undefined ? [] : pressesIn(c.when))));
  const when = shared === undefined ? 'in the same tick' : `on the same press of ${shared}`;
  const first = crossings[0]!;
  const list = `${targets.slice(0, -1).join(', ')} and ${targets[targets.length - 1]}`;
  const name = machine.lanes[lane]!.name;
  return {
    code: 'AG1',
    lane: name,
    state,
    crossing: { from: state, to: targets[0]!, index: first.index },
    sentence: `In ${state}, ${list} open ${when}; only their order in the file decides.`,
    reason: [`${list} were open with rank ${first.rank}; ${targets[0]} stands first and was taken.`],
    path: first.path,
    fingerprint: `AG1/${name}/${state}/${targets.join('+')}`,
  };
}

const targetName = (machine: Machine, lane: number, crossing: number): string =>
  machine.states[machine.lanes[lane]!.crossings[crossing]!.to]!.name;

/** A button whose press all the guards read. */
function sharedPress(presses: readonly string[][]): string | undefined {
  return presses[0]?.find((control) => presses.every((list) => list.includes(control)));
}
