import { type Fast, startFast, step } from '../machine/index.js';
import { LONGEST } from './arena.js';
import type { Memory } from './memory.js';
import type { Start } from './starts.js';
import type { Way } from './survey.js';
import type { WayTree } from './tree.js';

/** A situation to go on from, and the node that it is remembered as. */
export interface Root {
  node: number;
  s: Float64Array;
}

/** Whether an input is held on in the next tick. */
export const isHeldOn = (input: readonly number[], next: readonly number[] | undefined): boolean =>
  next?.every((value, control) => value === input[control]) === true;

/** What situations are played on, where they begin, and what remembers them. */
interface Where {
  fast: Fast;
  starts: readonly Start[];
  memory: Memory;
}

/** The end of a way, remembered with what leads there. */
export function rootAfter({ fast, starts, memory }: Where, { start, inputs }: Way): Root {
  const s = startFast(fast, starts[start]!);
  let node = start;
  let held = 0;
  for (const [t, input] of inputs.entries()) {
    step(fast, s, input);
    held++;
    if (held < LONGEST && isHeldOn(input, inputs[t + 1])) continue;
    node = memory.add(node, input, held, s);
    held = 0;
  }
  return { node, s };
}

/** How many situations `rootsIn` remembers. */
export const roomFor = ({ ticks }: WayTree): number =>
  ticks.reduce((sum, held) => sum + Math.ceil(held / LONGEST), 0);

/** The ends of the ways in a tree, remembered with what leads there. */
export function rootsIn(
  { fast, starts, memory }: Where,
  { tree, ends }: { tree: WayTree; ends: readonly number[] },
): Root[] {
  const nodes: number[] = [];
  for (const [i, parent] of tree.parents.entries()) {
    const before = parent < 0 ? -1 - parent : nodes[parent]!;
    const s = parent < 0 ? startFast(fast, starts[before]!) : memory.situationOf(before)!.slice();
    const input = tree.inputs[tree.held[i]!]!;
    let node = before;
    for (let left = tree.ticks[i]!; left > 0; left -= LONGEST) {
      const ticks = Math.min(left, LONGEST);
      for (let t = 0; t < ticks; t++) step(fast, s, input);
      node = memory.add(node, input, ticks, s);
    }
    nodes.push(node);
  }
  return ends.map((end) => {
    const node = end < 0 ? -1 - end : nodes[end]!;
    return { node, s: memory.situationOf(node)!.slice() };
  });
}
