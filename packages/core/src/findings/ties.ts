import type { Machine } from '../machine/index.js';
import { factsIn } from '../notation/index.js';
import type { TickRecord } from '../run/index.js';
import type { Finding } from './catalogue.js';

/** AG1 as it was seen in a run: each set of crossings that tied in a state, once, at the first tick it happened. */
export function tieFindings(machine: Machine, records: readonly TickRecord[], tape: string): Finding[] {
  const found = new Map<string, Finding>();
  for (const record of records) {
    for (const { lane, crossings } of record.ties) {
      const state = machine.states[record.leavesBefore[lane]!]!;
      const fingerprint = `AG1/${machine.lanes[lane]!.name}/${state.name}/${crossings.map((c) => targetName(machine, lane, c)).join('+')}`;
      if (!found.has(fingerprint))
        found.set(
          fingerprint,
          tieFinding(machine, lane, state.name, crossings, tape, record.tick, fingerprint),
        );
    }
  }
  return [...found.values()];
}

function tieFinding(
  machine: Machine,
  lane: number,
  state: string,
  indexes: readonly number[],
  tape: string,
  tick: number,
  fingerprint: string,
): Finding {
  const crossings = indexes.map((i) => machine.lanes[lane]!.crossings[i]!);
  const targets = indexes.map((i) => targetName(machine, lane, i));
  const shared = sharedPress(crossings.map((c) => (c.when === undefined ? [] : factsIn(c.when))));
  const when = shared === undefined ? 'in the same tick' : `on the same press of ${shared}`;
  const first = crossings[0]!;
  const list = `${targets.slice(0, -1).join(', ')} and ${targets[targets.length - 1]}`;
  return {
    code: 'AG1',
    certainty: 'witnessed',
    lane: machine.lanes[lane]!.name,
    state,
    crossing: { from: state, to: targets[0]!, index: first.index },
    sentence: `In ${state}, ${list} open ${when}; only their order in the file decides.`,
    reason: [
      `Tape “${tape}”, tick ${tick}: ${list} were open with rank ${first.rank}; ${targets[0]} stands first and was taken.`,
    ],
    witness: { tape, tick },
    path: first.path,
    fingerprint,
  };
}

const targetName = (machine: Machine, lane: number, crossing: number): string =>
  machine.states[machine.lanes[lane]!.crossings[crossing]!.to]!.name;

/** A button whose press all the guards read. */
function sharedPress(facts: readonly string[][]): string | undefined {
  const presses = facts.map((keys) => keys.flatMap((key) => /^pressed\((\w+)\)$/.exec(key)?.[1] ?? []));
  return presses[0]?.find((control) => presses.every((list) => list.includes(control)));
}
