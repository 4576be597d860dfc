import { present } from '../present.js';
import { type Fast, place, startFast, step, type Taken, writesOf } from '../machine/index.js';
import { contactList, contactsAt } from '../world/index.js';
import type { TickRecord } from './trace.js';

/**
 * The records of a run on the fast machine, the same as `play` makes; for searches that play many runs. The machine
 * must be lowered with `allFacts`.
 */
export function recordsFast(
  fast: Fast,
  at: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
): TickRecord[] {
  const { machine, world, layout, log } = fast;
  if (!fast.allFacts || log === undefined)
    throw new RangeError('records need a machine lowered with all facts and its log');
  const s = startFast(fast, at);
  const list = (from: number, count: number): number[] => Array.from(s.subarray(from, from + count));
  const { length: lanes } = machine.lanes;
  return inputs.map((input, tick): TickRecord => {
    const leavesBefore = list(layout.leaves, lanes);
    const lastBefore = list(layout.last, machine.states.length);
    step(fast, s, input);
    const [x, y] = [present(s[place.X]), present(s[place.Y])];
    const stance = present(s[place.STANCE]);
    return {
      tick,
      body: { x, y, vx: present(s[place.VX]), vy: present(s[place.VY]) },
      facing: s[place.FACING] === 1 ? 1 : -1,
      stance,
      wanted: present(s[place.WANTED]),
      contacts: contactList(contactsAt(world, stance, x, y)),
      grounded: s[place.GROUND] === 1,
      leavesBefore,
      leaves: list(layout.leaves, lanes),
      lastBefore,
      input: list(layout.input, machine.controls.length),
      variables: list(layout.variables, machine.variables.length),
      timers: list(layout.timers, machine.timers.length),
      charges: list(layout.charges, machine.cooldowns.length),
      anchors: layout.anchors.flatMap((from) =>
        Array.from({ length: present(s[from]) }, (_, i) => ({
          x: present(s[from + 1 + 3 * i]),
          y: present(s[from + 2 + 3 * i]),
        })),
      ),
      facts: fast.facts.slice(0, machine.facts.refs.length),
      taken: takenOf(fast),
      writes: writesOf(log, world.course),
      ties: tiesOf(fast),
    };
  });
}

const takenOf = ({ machine, taken, takenCount }: Fast): Taken[] =>
  Array.from({ length: takenCount }, (_, i) => {
    const [lane, crossing, from, to] = taken.slice(4 * i, 4 * i + 4) as [number, number, number, number];
    return { lane, crossing: present(present(machine.lanes[lane]).crossings[crossing]), from, to };
  });

function tiesOf({ tied, tiedCount }: Fast): TickRecord['ties'] {
  const ties: TickRecord['ties'] = [];
  for (let i = 0; i < tiedCount; i += 2) {
    const last = ties[ties.length - 1];
    if (last?.lane === tied[i]) present(last).crossings.push(present(tied[i + 1]));
    else ties.push({ lane: present(tied[i]), crossings: [present(tied[i + 1])] });
  }
  return ties;
}
