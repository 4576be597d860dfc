import {
  bufferOf,
  lower,
  type Machine,
  startFast,
  startSituation,
  step,
  tick,
  tieOf,
  writesOf,
} from '@glenmark/core/machine';
import { buildWorld, type Course } from '@glenmark/core/world';

/**
 * Plays inputs on the reference machine and on the fast one, each in a world of its own, and tells the first thing in
 * which they differ, to the last bit: the situation, the facts, what was taken, what tied, what was written by whom.
 */
export function firstDifference(
  machine: Machine,
  course: Course,
  at: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
  allFacts: boolean,
): string | undefined {
  const worlds = [0, 1].map(() => buildWorld(course, machine.stances, machine.casts));
  const fast = lower(machine, worlds[1]!, { allFacts, log: true });
  const s = startFast(fast, at);
  const r = startSituation(machine, worlds[0]!, at);
  for (const [t, input] of inputs.entries()) {
    const outcome = tick(machine, worlds[0]!, r, input);
    step(fast, s, input);
    const expected = {
      buffer: bufferOf(fast, r),
      facts: allFacts ? outcome.facts : [],
      taken: outcome.taken.flatMap((c) => [c.lane, c.crossing.index, c.from, c.to]),
      tied: outcome.choices.flatMap((choices, lane) =>
        tieOf(choices).flatMap((c) => [lane, c.crossing.index]),
      ),
    };
    const found = {
      buffer: s,
      facts: allFacts ? fast.facts.subarray(0, outcome.facts.length) : [],
      taken: fast.taken.slice(0, 4 * fast.takenCount),
      tied: fast.tied.slice(0, fast.tiedCount),
    };
    for (const key of ['buffer', 'facts', 'taken', 'tied'] as const) {
      const [a, b] = [expected[key], found[key]];
      const length = Math.max(a.length, b.length);
      for (let i = 0; i < length; i++)
        // Zero is zero whatever its sign; nothing asks for it.
        if (a[i] !== b[i] && !(Number.isNaN(a[i]) && Number.isNaN(b[i])))
          return `tick ${t}: ${key}[${i}]${key === 'facts' ? ` ${JSON.stringify(machine.facts.refs[i] ?? 'memory')}` : ''} is ${b[i]}, the reference has ${a[i]}`;
    }
    const [a, b] = [JSON.stringify(outcome.writes), JSON.stringify(writesOf(fast.log, course))];
    if (a !== b) return `tick ${t}: writes are ${b}, the reference has ${a}`;
  }
  return undefined;
}
