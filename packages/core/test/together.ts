import {
  bufferOf,
  lower,
  type Machine,
  type Program,
  runProgram,
  startFast,
  startSituation,
  step,
  tick,
  tieOf,
  writesOf,
} from '@glenmark/core/machine';
import { buildWorld, type Course } from '@glenmark/core/world';

/**
 * Plays inputs on the reference machine and the plain geometry, and on the fast machine and the kernel, and tells the first thing in
 * which they differ, to the last bit: the situation, the facts, what was taken, what tied, what was written by whom. The
 * fast one runs the machine's program, or what `changed` makes of it.
 */
export function firstDifference(
  machine: Machine,
  course: Course,
  at: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
  allFacts: boolean,
  changed: (program: Program) => Program = (program) => program,
): string | undefined {
  const worlds = [true, false].map((plain) => buildWorld(course, machine.stances, machine.casts, { plain }));
  const program = changed(lower(machine, { allFacts }));
  const fast = runProgram(program, machine, worlds[1]!, { allFacts, log: true });
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
    const [a, b] = [JSON.stringify(outcome.writes), JSON.stringify(writesOf(fast.log!, course))];
    if (a !== b) return `tick ${t}: writes are ${b}, the reference has ${a}`;
  }
  return undefined;
}
