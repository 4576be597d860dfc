import { present } from '../../../present.js';
import { nearness, type Obstacle } from '../../../world/index.js';
import { SKIN } from '../../../tolerances.js';

/** A square of a course: its lower left corner and its side (m). */
export interface Square {
  x: number;
  y: number;
  side: number;
}

/** A square in which the feet may be. */
export interface Cell extends Square {
  /** The greatest height at which the feet may stand on something in it (m); −Infinity when they can stand on nothing. */
  ground: number;
}

/** The squares in which the feet of one stance may be: all of `cells` that touch a box, by `touching`. */
export interface FreeSpace {
  cells: readonly Cell[];
  touching(minX: number, minY: number, maxX: number, maxY: number): number[];
}

/** Squares are not halved below this (m): the least gap that is told from none. */
const FINEST = 1 / 64;

/** The square around a box whose sides, halved again and again, are exact numbers: none of its parts overlap or gape. */
export function squareAround(box: { minX: number; minY: number; maxX: number; maxY: number }): Square {
  const onGrid = (n: number): number => Math.floor(n / FINEST) * FINEST;
  const [x, y] = [onGrid(box.minX), onGrid(box.minY)];
  let side = FINEST;
  while (x + side < box.maxX || y + side < box.maxY) side *= 2;
  return { x, y, side };
}

/** Squares of one stance at most. Where they do not suffice, a square that is partly free stays as it is. */
const MAX_SQUARES = 12_000;

/** How deep in an obstacle a place must be for no body ever to be there (m): overlap within the skin happens. */
const DEEP = 10 * SKIN;

/** A node of the tree of squares; `cell` is its place in the list of cells, −1 when it is blocked or was halved. */
interface Node extends Square {
  cell: number;
  quarters: Node[];
}

/**
 * Where the feet of a body may be within a square, given the obstacles that solids are to it: a square is left out only
 * when one obstacle contains all of it, which for a convex one its corners tell. So none is left out in which a body
 * can be. `planks` block nothing but can be stood on; `walkable` is the cosine of the steepest ground that
 * can. The largest squares are halved first.
 */
export function freeSpace(
  obstacles: readonly Obstacle[],
  planks: readonly Obstacle[],
  box: Square,
  walkable: number,
): FreeSpace {
  const cells: Cell[] = [];
  const root: Node = { ...box, cell: -1, quarters: [] };
  let waiting: { node: Node; near: readonly Obstacle[]; planks: readonly Obstacle[] }[] = [
    { node: root, near: obstacles, planks },
  ];
  let count = 1;
  while (waiting.length > 0) {
    const next: typeof waiting = [];
    for (const { node, near, planks: above } of waiting) {
      const meets = (o: Obstacle): boolean => isNear(o, node);
      const [solid, plank] = [near.filter(meets), above.filter(meets)];
      if (solid.some((o) => contains(o, node))) continue;
      if (solid.length + plank.length === 0 || node.side <= FINEST || count + 3 > MAX_SQUARES) {
        const ground = [...solid, ...plank].reduce(
          (h, o) => Math.max(h, standingOn(o, walkable, node)),
          -Infinity,
        );
        node.cell = cells.push({ x: node.x, y: node.y, side: node.side, ground }) - 1;
        continue;
      }
      count += 3;
      const side = node.side / 2;
      for (const [dx, dy] of QUARTERS) {
        const quarter: Node = { x: node.x + dx * side, y: node.y + dy * side, side, cell: -1, quarters: [] };
        node.quarters.push(quarter);
        next.push({ node: quarter, near: solid, planks: plank });
      }
    }
    waiting = next;
  }
  return {
    cells,
    touching(minX, minY, maxX, maxY) {
      const found: number[] = [];
      const search = (node: Node): void => {
        if (node.x > maxX || node.y > maxY || node.x + node.side < minX || node.y + node.side < minY) return;
        if (node.cell >= 0) found.push(node.cell);
        node.quarters.forEach(search);
      };
      search(root);
      return found;
    },
  };
}

const QUARTERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

const near = { distance: 0, nx: 0, ny: 0 };

/** Whether an obstacle may touch a square: it is no farther from the middle than the corners are. */
export const isNear = (o: Obstacle, { x, y, side }: Square): boolean =>
  nearness(o, x + side / 2, y + side / 2, near).distance <= side * Math.SQRT1_2 + SKIN;

const contains = (o: Obstacle, { x, y, side }: Square): boolean =>
  QUARTERS.every(([dx, dy]) => nearness(o, x + dx * side, y + dy * side, near).distance < -DEEP);

/**
 * The greatest height within a square at which a point can lie on walkable ground of an obstacle, within the skin of it;
 * −Infinity when there is none. Ground are its faces that lean less than walkable, and of its corners as much.
 */
function standingOn(o: Obstacle, walkable: number, { x, y, side }: Square): number {
  let highest = -Infinity;
  const stand = (low: number, high: number): void => {
    if (low - SKIN <= y + side && high + SKIN >= y)
      highest = Math.max(highest, Math.min(high + SKIN, y + side));
  };
  const lean = Math.sqrt(1 - walkable * walkable);
  for (let i = 0; i < o.x.length; i++) {
    const [cx, cy, nx, ny] = [present(o.x[i]), present(o.y[i]), present(o.nx[i]), present(o.ny[i])];
    if (Math.abs(x + side / 2 - cx) <= side / 2 + o.radius * lean + SKIN)
      stand(cy + o.radius * walkable, cy + o.radius);
    if (ny < walkable) continue;
    // A face above another runs from right to left; its height changes evenly along it.
    const right = cx + o.radius * nx;
    const left = right - present(o.length[i]) * ny;
    const from = Math.max(x - SKIN, left);
    const to = Math.min(x + side + SKIN, right);
    if (from > to) continue;
    const heightAt = (at: number): number => cy + o.radius * ny + ((right - at) * nx) / ny;
    stand(Math.min(heightAt(from), heightAt(to)), Math.max(heightAt(from), heightAt(to)));
  }
  return highest;
}
