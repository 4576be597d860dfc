import { present } from '../../present.js';
import { type Author, authorText, type Machine, pressesIn } from '../../machine/index.js';
import type { Certainty } from '../catalogue/catalogue.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import { guardOrNull } from './guard.js';

/** A tie of crossings, by their places in the lane, wherever it was found. */
export function tieFinding(
  machine: Machine,
  lane: number,
  state: string,
  indexes: readonly number[],
  certainty: Certainty,
): Finding {
  const crossings = indexes.map((i) => present(present(machine.lanes[lane]).crossings[i]));
  const first = present(crossings[0]);
  const places = crossings.map((c) => ({
    index: c.index,
    to: present(machine.states[c.to]).name,
    when: guardOrNull(c),
  }));
  return createFinding({
    code: 'AG1',
    certainty,
    lane: present(machine.lanes[lane]).name,
    state,
    crossing: { from: state, to: present(places[0]).to, index: first.index },
    path: first.path,
    witness: null,
    evidence: {
      crossings: places,
      rank: first.rank,
      press: sharedPress(crossings.map((c) => (c.when === undefined ? [] : pressesIn(c.when)))) ?? null,
    },
  });
}

/** A button whose press all the guards read. */
function sharedPress(presses: readonly string[][]): string | undefined {
  return presses[0]?.find((control) => presses.every((list) => list.includes(control)));
}

/** One of two writes of a channel, as evidence. */
export const writeEvidence = (machine: Machine, author: Author, value: string) => ({
  by: authorText(machine, author),
  state: author.state < 0 ? '' : present(machine.states[author.state]).name,
  lane: author.lane < 0 ? '' : present(machine.lanes[author.lane]).name,
  value,
});
