import { present } from '../../../present.js';
import type { Obstacle, Spawn } from '../../../world/index.js';
import { cellsNear, type Ground } from './ground.js';

/** Where a body comes on a course at most. */
export interface Reach {
  /** Zones, by their places in the course, that it may come to, and stances that it may take. */
  zones: ReadonlySet<number>;
  stances: ReadonlySet<number>;
}

/** Where the feet may get from each square of each stance on: their greatest height (m); −Infinity where they never are. */
type Heights = Float64Array[];

/** How high the feet may be in a square of a stance. */
const heightAt = (heights: Heights, place: number, cell: number): number =>
  present(present(heights[place])[cell]);

/**
 * Where a body comes at most from some spawns, in any of the stances that some state asks for, when no flight takes its
 * feet more than `rise` above what it stood on last (m; infinite for any height).
 */
export function reachFrom(ground: Ground, spawns: readonly Spawn[], rise: number): Reach {
  const heights = flood(ground, spawns, rise);
  const meets = (place: number, zone: Obstacle): boolean =>
    cellsNear(present(ground.stances[place]).space, zone).some(
      (cell) => heightAt(heights, place, cell) >= zone.minY,
    );
  const { stances } = ground;
  return {
    stances: new Set(
      stances.flatMap(({ stance }, i) => (present(heights[i]).some((h) => h > -Infinity) ? [stance] : [])),
    ),
    zones: new Set(stances.flatMap(({ zones }, i) => zones.flatMap((o) => (meets(i, o) ? [o.solid] : [])))),
  };
}

/**
 * Whether a body comes from a spawn neither to a zone nor to another spawn, nor out of what is solid, however high it may
 * rise.
 */
export function isWalledIn(ground: Ground, spawn: Spawn): boolean {
  const goals = ground.stances.map(({ space, zones, edge }) => {
    const others = ground.course.spawns.filter((s) => s !== spawn);
    return new Set([
      ...edge,
      ...zones.flatMap((o) => cellsNear(space, o)),
      ...others.flatMap(({ x, y }) => space.touching(x, y, x, y)),
    ]);
  });
  let isFree = false;
  flood(ground, [spawn], Infinity, (place, cell) => (isFree = present(goals[place]).has(cell)));
  return !isFree;
}

/**
 * A body's way is without gaps and through free space, but for changes of stance, which move its feet at once and need
 * room. So its feet only ever pass from a free square into one that touches it, or into one of another stance. `stop`
 * ends the search when it is true of a square that was come to.
 */
function flood(
  { box, stances, first }: Ground,
  spawns: readonly Spawn[],
  rise: number,
  stop: (place: number, cell: number) => boolean = () => false,
): Heights {
  const top = box.y + box.side;
  const heights = stances.map(({ space }) => new Float64Array(space.cells.length).fill(-Infinity));
  const waiting = createQueue();
  const come = (place: number, cell: number, height: number): void => {
    const { y, ground } = present(present(stances[place]).space.cells[cell]);
    if (y > height) return;
    const stood = ground === -Infinity ? -Infinity : Math.min(ground, height) + rise;
    const from = Math.min(top, Math.max(height, stood));
    if (from <= heightAt(heights, place, cell)) return;
    present(heights[place])[cell] = from;
    waiting.add(from, place, cell);
  };
  for (const { x, y } of spawns)
    for (const cell of present(stances[first]).space.touching(x, y, x, y)) come(first, cell, y + rise);
  // One change of stance after the other may lift the feet without end where there is nothing else.
  const isLifted = stances.some(({ changes }) => changes.some(({ shift }) => shift > 0));
  let outside = -Infinity;
  for (let next = waiting.next(); next !== undefined; next = waiting.next()) {
    const { height, place, cell } = next;
    // It was come to again, from higher up, since it began to wait.
    if (height < heightAt(heights, place, cell)) continue;
    if (stop(place, cell)) break;
    const { next: beside, changes, edge } = present(stances[place]);
    for (const other of beside(cell)) come(place, other, height);
    for (const change of changes)
      for (const other of change.next(cell)) come(change.to, other, height + Math.max(0, change.shift));
    if (height <= outside || !edge.has(cell)) continue;
    outside = isLifted ? top : height;
    stances.forEach((other, i) => {
      for (const c of other.edge) come(i, c, outside);
    });
  }
  return heights;
}

/** Squares to go on from, the highest first: what is reached from high up is then seldom come to again. */
function createQueue() {
  const heap: { height: number; place: number; cell: number }[] = [];
  const isFirst = (a: number, b: number): boolean => present(heap[a]).height > present(heap[b]).height;
  const swap = (a: number, b: number): void => {
    [heap[a], heap[b]] = [present(heap[b]), present(heap[a])];
  };
  return {
    add(height: number, place: number, cell: number): void {
      heap.push({ height, place, cell });
      for (let i = heap.length - 1; i > 0;) {
        const parent = (i - 1) >> 1;
        if (!isFirst(i, parent)) return;
        swap(i, parent);
        i = parent;
      }
    },
    next() {
      const first = heap[0];
      const last = heap.pop();
      if (first === undefined || last === undefined || heap.length === 0) return first;
      heap[0] = last;
      for (let i = 0; ;) {
        let best = i;
        for (const child of [2 * i + 1, 2 * i + 2])
          if (child < heap.length && isFirst(child, best)) best = child;
        if (best === i) return first;
        swap(i, best);
        i = best;
      }
    },
  };
}
