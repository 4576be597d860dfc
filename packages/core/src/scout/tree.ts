import { present } from '../present.js';
import type { Way } from './survey.js';

/**
 * Ways that begin alike, with what they share kept once. A node is an input held for some ticks after the node before it;
 * one whose parent is negative begins at the start −1 − parent. Plain data, to be sent and stored.
 */
export interface WayTree {
  /** Each input that is held somewhere. */
  inputs: number[][];
  /** For each node the one before it, the input by its place in `inputs`, and for how many ticks it is held. */
  parents: number[];
  held: number[];
  ticks: number[];
}

export const createTree = (): WayTree => ({ inputs: [], parents: [], held: [], ticks: [] });

/** Where a start stands as a parent, or as the end of a way that has no inputs. */
export const startNode = (start: number): number => -1 - start;

/** Adds ways to a tree: makes a function that gives the node at which a way ends. */
export function growing(tree: WayTree): (way: Way) => number {
  const inputs = new Map(tree.inputs.map((input, i) => [input.join(), i]));
  const nodes = new Map(tree.parents.map((parent, i) => [`${parent} ${tree.held[i]} ${tree.ticks[i]}`, i]));
  /** Ways hold the same array again and again: what is known of an array is not worked out at each tick of each way. */
  const ids = new Map<readonly number[], number>();
  const idOf = (input: readonly number[]): number => {
    const known = ids.get(input);
    if (known !== undefined) return known;
    const label = input.join();
    let id = inputs.get(label);
    if (id === undefined) inputs.set(label, (id = tree.inputs.push([...input]) - 1));
    ids.set(input, id);
    return id;
  };
  return ({ start, inputs: way }) => {
    let node = startNode(start);
    for (let t = 0; t < way.length;) {
      const input = present(way[t]);
      const id = idOf(input);
      let ticks = 1;
      for (let next = way[t + 1]; next !== undefined; next = way[t + ticks]) {
        if (next !== input && idOf(next) !== id) break;
        ticks++;
      }
      const label = `${node} ${id} ${ticks}`;
      let next = nodes.get(label);
      if (next === undefined) {
        next = tree.parents.push(node) - 1;
        tree.held.push(id);
        tree.ticks.push(ticks);
        nodes.set(label, next);
      }
      node = next;
      t += ticks;
    }
    return node;
  };
}

/** The way that ends at a node. */
export function wayIn(tree: WayTree, end: number): Way {
  const parts: [number[], number][] = [];
  let node = end;
  for (; node >= 0; node = present(tree.parents[node]))
    parts.push([present(tree.inputs[present(tree.held[node])]), present(tree.ticks[node])]);
  const inputs = parts.reverse().flatMap(([input, ticks]) => Array.from({ length: ticks }, () => input));
  return { start: -1 - node, inputs };
}
