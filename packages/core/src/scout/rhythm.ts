import { type Fast, type Machine, step } from '../machine/index.js';
import type { CrossingRecipe } from './recipes.js';

/**
 * A way of playing on that is made from the model: whenever a lane is where one of some crossings leads out, it does what
 * that one's guard asks for, as often as it comes back there. Meanwhile the axes are held one way, to the other side
 * after each crossing when it `turns`: round trips, and the same again mirrored.
 */
export interface Rhythm {
  crossings: readonly { lane: number; crossing: number }[];
  steer: -1 | 0 | 1;
  turns: boolean;
}

/** Which way the axes go: from side to side, still, or one way all the time. */
const WAYS: readonly Pick<Rhythm, 'steer' | 'turns'>[] = [
  { steer: 1, turns: true },
  { steer: -1, turns: true },
  { steer: 0, turns: false },
  { steer: 1, turns: false },
  { steer: -1, turns: false },
];
const STILL: Pick<Rhythm, 'steer' | 'turns'> = { steer: 0, turns: false };

/** The rhythms of some crossings; without an axis there is nothing to steer. */
export const rhythmsOf = (machine: Machine, crossings: Rhythm['crossings']): Rhythm[] =>
  (machine.steering.length === 0 ? [STILL] : WAYS).map((way) => ({ crossings, ...way }));

/**
 * The inputs of a rhythm from a situation on, for so many ticks; the situation is changed to the last one. `recipes` are
 * those of each leaf. A press of what is held, or a release of what is not, is prepared in the tick before.
 */
export function playRhythm(
  fast: Fast,
  s: Float64Array,
  { crossings, steer, turns }: Rhythm,
  { recipes, ticks }: { recipes: readonly (readonly CrossingRecipe[])[]; ticks: number },
): number[][] {
  const { machine, layout } = fast;
  const isOwn = ({ lane, crossing }: Rhythm['crossings'][number]): boolean =>
    crossings.some((c) => c.lane === lane && c.crossing === crossing);
  const own = recipes.map((list) => list.find(isOwn));
  let side: number = steer;
  const inputs: number[][] = [];
  for (let t = 0; t < ticks; t++) {
    const before = s.subarray(layout.input, layout.input + machine.controls.length);
    const input = machine.controls.map((_, c) => (machine.steering.includes(c) ? side : 0));
    for (let lane = 0; lane < machine.lanes.length; lane++)
      for (const { control, value, isEdge } of own[s[layout.leaves + lane]!]?.controls ?? [])
        input[control] = isEdge && before[control] === value ? 1 - value : value;
    inputs.push(input);
    step(fast, s, input);
    if (!turns) continue;
    for (let i = 0; i < 4 * fast.takenCount; i += 4)
      if (isOwn({ lane: fast.taken[i]!, crossing: fast.taken[i + 1]! })) side = -side;
  }
  return inputs;
}
