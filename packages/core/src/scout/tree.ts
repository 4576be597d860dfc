import { present } from '../present.js';
import type { Memory } from './memory.js';
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

/** A tree that ways are added to. What they have in common with others that were added is in it once. */
export interface Growing {
  /** Adds a way; gives the node at which it ends. */
  add(way: Way): number;
  /** Adds an input, held for some ticks after a node where another one was held; gives its node. */
  after(node: number, input: readonly number[], ticks: number): number;
}

export function growing(tree: WayTree): Growing {
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
  const grown: Growing = {
    add({ start, inputs: way }) {
      let node = startNode(start);
      for (let t = 0; t < way.length;) {
        const input = present(way[t]);
        const id = idOf(input);
        let ticks = 1;
        for (let next = way[t + 1]; next !== undefined; next = way[t + ticks]) {
          if (next !== input && idOf(next) !== id) break;
          ticks++;
        }
        node = grown.after(node, input, ticks);
        t += ticks;
      }
      return node;
    },
    after(node, input, ticks) {
      const id = idOf(input);
      const label = `${node} ${id} ${ticks}`;
      let next = nodes.get(label);
      if (next === undefined) {
        next = tree.parents.push(node) - 1;
        tree.held.push(id);
        tree.ticks.push(ticks);
        nodes.set(label, next);
      }
      return next;
    },
  };
  return grown;
}

/** A tree of the ways to some ends only, and where those ends are in it. */
export function prunedTo(tree: WayTree, ends: readonly number[]): { tree: WayTree; ends: number[] } {
  const isOnTheWay = new Set<number>();
  for (const end of ends)
    for (let node = end; node >= 0 && !isOnTheWay.has(node); node = present(tree.parents[node]))
      isOnTheWay.add(node);
  const own: WayTree = { ...createTree(), inputs: tree.inputs.map((input) => [...input]) };
  const places = new Map<number, number>();
  const placeOf = (node: number): number => (node < 0 ? node : present(places.get(node)));
  // What a node comes after was added before it.
  for (const node of [...isOnTheWay].sort((a, b) => a - b)) {
    places.set(node, own.parents.push(placeOf(present(tree.parents[node]))) - 1);
    own.held.push(present(tree.held[node]));
    own.ticks.push(present(tree.ticks[node]));
  }
  return { tree: own, ends: ends.map(placeOf) };
}

/** Makes a function that adds the way to a situation to a tree, and gives its end there; beginnings are looked at once. */
export function endsIn({ originOf }: Pick<Memory, 'originOf'>, grown: Growing): (node: number) => number {
  /** What a way ends with: after which node of the tree which input, and for how long. */
  const lasts = new Map<number, { after: number; input: readonly number[]; ticks: number }>();
  const ends = new Map<number, number>();
  const endOf = (node: number): number => {
    let end = ends.get(node);
    if (end !== undefined) return end;
    const last = lasts.get(node);
    end = last === undefined ? startNode(node) : grown.after(last.after, last.input, last.ticks);
    ends.set(node, end);
    return end;
  };
  return (node) => {
    const path: number[] = [];
    for (let at = node; !lasts.has(at) && originOf(at).parent >= 0; at = originOf(at).parent) path.push(at);
    for (const at of path.reverse()) {
      const { parent, input, ticks } = originOf(at);
      const last = lasts.get(parent);
      // Held on, it is one input, however many moves it was.
      lasts.set(
        at,
        last?.input === input
          ? { ...last, ticks: last.ticks + ticks }
          : { after: endOf(parent), input, ticks },
      );
    }
    return endOf(node);
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
