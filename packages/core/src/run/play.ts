import { type Machine, sense, type Situation, startSituation, tick, tieOf } from '../machine/index.js';
import type { World } from '../world/index.js';
import { recordOf, type Trace } from './trace.js';

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 60;

export interface PlayOptions {
  /** Called after every tick with the facts as they are then, in a buffer that is used again. */
  observe?: (tick: number, facts: Float64Array) => void;
}

/** Plays inputs from a place and records every tick. Stops, with a reason, when the body leaves the course. */
export function play(
  machine: Machine,
  world: World,
  at: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
  options: PlayOptions = {},
): Trace {
  const s = startSituation(machine, world, at);
  const trace: Trace = { machine, start: { x: at.x, y: at.y }, records: [], stopped: undefined };
  const after = new Float64Array(machine.facts.keys.length);
  for (const input of inputs) {
    const before = { leaves: [...s.leaves], last: [...s.last], input: s.input };
    const outcome = tick(machine, world, s, input);
    const ties = outcome.choices.flatMap((choices, lane) => {
      const crossings = tieOf(choices).map((c) => c.crossing.index);
      return crossings.length > 0 ? [{ lane, crossings }] : [];
    });
    trace.records.push(recordOf(s, before, outcome, ties));
    if (options.observe !== undefined) {
      after.set(outcome.facts);
      sense(machine, world, { ...s, input: before.input }, input, after);
      options.observe(s.tick - 1, after);
    }
    if (hasLeft(world, s)) {
      trace.stopped = `the body left the course at tick ${s.tick - 1}`;
      break;
    }
  }
  return trace;
}

function hasLeft(world: World, s: Situation): boolean {
  const { minX, minY, maxX, maxY } = world.course.bounds;
  const { x, y } = s.body;
  return !(x > minX - OUTSIDE && x < maxX + OUTSIDE && y > minY - OUTSIDE && y < maxY + 10 * OUTSIDE);
}
