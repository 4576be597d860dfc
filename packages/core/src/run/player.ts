import { type Machine, sense, type Situation, startSituation, tick, tieOf } from '../machine/index.js';
import type { World } from '../world/index.js';
import { recordOf, type TickRecord } from './trace.js';

/** A body this far outside the course has left it (metres). */
const OUTSIDE = 60;

export interface PlayOptions {
  /** Called after every tick with the facts as they are then, in a buffer that is used again. */
  observe?: (tick: number, facts: Float64Array) => void;
  /** A situation to go on from, instead of the first one; it is not changed. */
  from?: Situation;
}

/** A run that goes on tick by tick, as somebody drives it. */
export interface Player {
  machine: Machine;
  world: World;
  situation: Situation;
  /** One tick under these inputs, one number a control. */
  step(input: readonly number[]): TickRecord;
  /** Whether the body is so far outside the course that nothing there can meet it any more. */
  hasLeft(): boolean;
}

/** A player with the body at a place, before its first tick. */
export function createPlayer(
  machine: Machine,
  world: World,
  at: { x: number; y: number; facing: 1 | -1 },
  options: PlayOptions = {},
): Player {
  const s = options.from === undefined ? startSituation(machine, world, at) : structuredClone(options.from);
  const after = new Float64Array(machine.facts.refs.length);
  return {
    machine,
    world,
    situation: s,
    step(input) {
      const before = { leaves: [...s.leaves], last: [...s.last], input: s.input };
      const outcome = tick(machine, world, s, input);
      const ties = outcome.choices.flatMap((choices, lane) => {
        const crossings = tieOf(choices).map((c) => c.crossing.index);
        return crossings.length > 0 ? [{ lane, crossings }] : [];
      });
      const record = recordOf(s, before, outcome, ties);
      if (options.observe !== undefined) {
        after.set(outcome.facts);
        sense(machine, world, { ...s, input: before.input }, input, after);
        options.observe(s.tick - 1, after);
      }
      return record;
    },
    hasLeft: () => isOutside(world, s.body.x, s.body.y),
  };
}

/** Whether a place is so far outside a course that nothing there can meet a body any more. */
export function isOutside(world: World, x: number, y: number): boolean {
  const { minX, minY, maxX, maxY } = world.course.bounds;
  return !(x > minX - OUTSIDE && x < maxX + OUTSIDE && y > minY - OUTSIDE && y < maxY + 10 * OUTSIDE);
}
