import { present } from '../present.js';

/** What leads where: for each place those that are next to it. */
export type Graph = ReadonlyMap<number, ReadonlySet<number>>;

/**
 * The places of a graph in sets, such that each place of a set leads to each other one of it, and nothing leads out of the
 * set: whoever is in stays in. What was named as a next place only counts as one that leads nowhere.
 * Source: R. E. Tarjan, Depth-first search and linear graph algorithms (1972), without recursion.
 */
export function sinksOf(graph: Graph): number[][] {
  /** When a place was come to, and the earliest one on the path that it leads back to. */
  const order = new Map<number, number>();
  const low = new Map<number, number>();
  const path: number[] = [];
  const isOnPath = new Set<number>();
  const isLeft = new Set<number>();
  const sinks: number[][] = [];
  const lower = (place: number, to: number): void =>
    void low.set(place, Math.min(present(low.get(place)), to));

  for (const root of graph.keys()) {
    if (order.has(root)) continue;
    const visits = [visit(root)];
    for (let at = visits.at(-1); at !== undefined; at = visits.at(-1)) {
      const next = at.next.next();
      if (next.done !== true) {
        follow(at.place, next.value, visits);
        continue;
      }
      visits.pop();
      close(at.place, visits.at(-1)?.place);
    }
  }
  return sinks;

  function visit(place: number): { place: number; next: Iterator<number> } {
    order.set(place, order.size);
    low.set(place, present(order.get(place)));
    path.push(place);
    isOnPath.add(place);
    return { place, next: (graph.get(place) ?? new Set<number>()).values() };
  }

  function follow(place: number, next: number, visits: ReturnType<typeof visit>[]): void {
    if (!order.has(next)) visits.push(visit(next));
    else if (isOnPath.has(next)) lower(place, present(order.get(next)));
    else isLeft.add(place);
  }

  /** All that follows a place was seen: it may be the first of a set. */
  function close(place: number, before: number | undefined): void {
    if (low.get(place) === order.get(place)) {
      const set = path.splice(path.lastIndexOf(place));
      for (const member of set) isOnPath.delete(member);
      if (!set.some((member) => isLeft.has(member))) sinks.push(set);
      if (before !== undefined) isLeft.add(before);
    } else if (before !== undefined) lower(before, present(low.get(place)));
  }
}
