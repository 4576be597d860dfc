import type { Obstacle } from './obstacle.js';

/**
 * The broad phase: a list of obstacles with a grid over it, so that the few which a query may meet are found without
 * asking all. What moves, and what spans most of the grid, is kept apart and always asked.
 */
export interface Field {
  obstacles: readonly Obstacle[];
  /** minX, minY, maxX, maxY of each obstacle, one after the other. */
  boxes: Float64Array;
  /** The mover that each obstacle is, −1 for none. */
  movers: Int32Array;
  /** Obstacles asked in every query. */
  always: Int32Array;
  /**
   * The grid: its corner, the size of its cells (m), and the obstacles of cell c at `items[starts[c] … starts[c + 1]]`:
   * those that come within `reach` (m) to the right of it or above, so that a query no wider than that asks one cell.
   */
  x: number;
  y: number;
  cell: number;
  /** 1 / cell. */
  scale: number;
  reach: number;
  columns: number;
  rows: number;
  starts: Int32Array;
  items: Int32Array;
  /** The query in which each obstacle was last seen, so that one in several cells is found once. */
  seen: Float64Array;
  query: number;
  /** What the last query found: indexes of obstacles in ascending order, `count` of them. */
  found: number[];
  count: number;
}

/** A body moves less than this in most ticks (m). */
const REACH = 0.75;
const CELLS_EACH = 4;
const MAX_CELLS = 65_536;
/** An obstacle in more cells than this is asked always. */
const MAX_SPREAD = 512;

type Box = [minX: number, minY: number, maxX: number, maxY: number];

/** Lays a grid over obstacles; `moverOf` tells which mover an obstacle is, −1 for none. */
export function createField(obstacles: readonly Obstacle[], moverOf: (o: Obstacle) => number): Field {
  const boxes = Float64Array.from(obstacles.flatMap((o) => [o.minX, o.minY, o.maxX, o.maxY]));
  const movers = Int32Array.from(obstacles, moverOf);
  const fixed = [...obstacles.keys()].filter((i) => movers[i]! < 0);
  const low = (at: 0 | 1): number => fixed.reduce((m, i) => Math.min(m, boxes[4 * i + at]!), Infinity);
  const high = (at: 2 | 3): number => fixed.reduce((m, i) => Math.max(m, boxes[4 * i + at]!), -Infinity);
  const [x, y] = fixed.length === 0 ? [0, 0] : [low(0), low(1)];
  const [width, height] = fixed.length === 0 ? [1, 1] : [Math.max(high(2) - x, 1), Math.max(high(3) - y, 1)];
  const wanted = Math.min(Math.max(CELLS_EACH * fixed.length, 1), MAX_CELLS);
  // A long and low course is cut along its length: no cell is flatter than the course is high.
  const cell = Math.max(Math.sqrt((width * height) / wanted), Math.max(width, height) / wanted);
  const columns = Math.ceil(width / cell);
  const rows = Math.ceil(height / cell);
  const field: Field = {
    obstacles,
    boxes,
    movers,
    always: new Int32Array(0),
    x,
    y,
    cell,
    scale: 1 / cell,
    reach: REACH,
    columns,
    rows,
    starts: new Int32Array(columns * rows + 1),
    items: new Int32Array(0),
    seen: new Float64Array(obstacles.length),
    query: 0,
    found: [],
    count: 0,
  };
  const always = [...obstacles.keys()].filter((i) => movers[i]! >= 0);
  const placed: number[][] = [];
  for (const i of fixed) {
    const [minX, minY, maxX, maxY] = boxes.subarray(4 * i, 4 * i + 4) as unknown as Box;
    const c = cellsOf(field, minX - REACH, minY - REACH, maxX, maxY);
    if (c.length > MAX_SPREAD) always.push(i);
    else for (const at of c) (placed[at] ??= []).push(i);
  }
  field.always = Int32Array.from(always);
  for (let c = 0; c < columns * rows; c++) field.starts[c + 1] = field.starts[c]! + (placed[c]?.length ?? 0);
  field.items = Int32Array.from(placed.flat());
  return field;
}

/** The row or column of a place along one side of the grid; places outside count to the border. */
function cellAt(place: number, from: number, scale: number, count: number): number {
  const cell = (place - from) * scale;
  return cell < 1 ? 0 : cell >= count ? count - 1 : cell | 0;
}

function cellsOf(f: Field, minX: number, minY: number, maxX: number, maxY: number): number[] {
  const cells: number[] = [];
  const lastRow = cellAt(maxY, f.y, f.scale, f.rows);
  const lastColumn = cellAt(maxX, f.x, f.scale, f.columns);
  for (let r = cellAt(minY, f.y, f.scale, f.rows); r <= lastRow; r++)
    for (let c = cellAt(minX, f.x, f.scale, f.columns); c <= lastColumn; c++) cells.push(r * f.columns + c);
  return cells;
}

/**
 * Finds the obstacles whose boxes meet a box, movers where they are by their `offsets` (x0, y0, x1, y1, …). They are
 * then in `found`, in the order of the list whatever the grid; returns how many.
 */
export function find(
  f: Field,
  offsets: Float64Array,
  minX: number,
  minY: number,
  maxX: number,
  maxY: number,
): number {
  f.count = 0;
  const { always, boxes, items, starts, seen } = f;
  for (let k = 0; k < always.length; k++) {
    const i = always[k]!;
    const mover = f.movers[i]!;
    const ox = mover < 0 ? 0 : offsets[2 * mover]!;
    const oy = mover < 0 ? 0 : offsets[2 * mover + 1]!;
    const b = 4 * i;
    if (maxX - ox < boxes[b]! || minX - ox > boxes[b + 2]!) continue;
    if (maxY - oy < boxes[b + 1]! || minY - oy > boxes[b + 3]!) continue;
    keep(f, i);
  }
  const firstRow = cellAt(minY, f.y, f.scale, f.rows);
  const firstColumn = cellAt(minX, f.x, f.scale, f.columns);
  if (maxX - minX <= f.reach && maxY - minY <= f.reach) {
    // All that it may meet is in the cell of its lower left corner, and there each obstacle is once.
    const at = firstRow * f.columns + firstColumn;
    const end = starts[at + 1]!;
    for (let k = starts[at]!; k < end; k++) {
      const i = items[k]!;
      const b = 4 * i;
      if (maxX < boxes[b]! || minX > boxes[b + 2]! || maxY < boxes[b + 1]! || minY > boxes[b + 3]!) continue;
      keep(f, i);
    }
    return f.count;
  }
  const query = ++f.query;
  const lastRow = cellAt(maxY, f.y, f.scale, f.rows);
  const lastColumn = cellAt(maxX, f.x, f.scale, f.columns);
  for (let r = firstRow; r <= lastRow; r++) {
    for (let c = firstColumn; c <= lastColumn; c++) {
      const at = r * f.columns + c;
      const end = starts[at + 1]!;
      for (let k = starts[at]!; k < end; k++) {
        const i = items[k]!;
        const b = 4 * i;
        if (maxX < boxes[b]! || minX > boxes[b + 2]! || maxY < boxes[b + 1]! || minY > boxes[b + 3]!)
          continue;
        if (seen[i] === query) continue;
        seen[i] = query;
        keep(f, i);
      }
    }
  }
  return f.count;
}

/** Puts an obstacle among the found, at its place in the order. */
function keep(f: Field, i: number): void {
  const { found } = f;
  let k = f.count++;
  for (; k > 0 && found[k - 1]! > i; k--) found[k] = found[k - 1]!;
  found[k] = i;
}
