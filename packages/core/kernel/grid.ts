import { offsets } from './memory';

/**
 * A field in memory, as `src/world/spatial-grid.ts` has it. Whole numbers: how many obstacles are always asked, columns,
 * rows, then addresses: of the boxes, movers, the always asked, starts, items, seen, obstacles, found. Doubles: x, y,
 * scale, reach, and the number of the query.
 */
const ALWAYS_COUNT: usize = 0;
const COLUMNS: usize = 4;
const ROWS: usize = 8;
const BOXES: usize = 12;
const MOVERS: usize = 16;
const ALWAYS: usize = 20;
const STARTS: usize = 24;
const ITEMS: usize = 28;
const SEEN: usize = 32;
const OBSTACLES: usize = 36;
const FOUND: usize = 40;
const X: usize = 48;
const Y: usize = 56;
const SCALE: usize = 64;
const REACH: usize = 72;
const QUERY: usize = 80;

/** The field at a place of a list of fields. */
export function fieldOf(list: usize, index: i32): usize {
  return load<u32>(list + ((<usize>index) << 2));
}

/** The obstacle that was found at a place among the found ones. */
export function foundAt(f: usize, k: i32): usize {
  const i = load<i32>(<usize>load<u32>(f, FOUND) + ((<usize>k) << 2));
  return obstacleAt(f, i);
}

export function obstacleAt(f: usize, i: i32): usize {
  return load<u32>(<usize>load<u32>(f, OBSTACLES) + ((<usize>i) << 2));
}

export function alwaysCount(f: usize): i32 {
  return load<i32>(f, ALWAYS_COUNT);
}

export function alwaysAt(f: usize, k: i32): i32 {
  return load<i32>(<usize>load<u32>(f, ALWAYS) + ((<usize>k) << 2));
}

export function moverAt(f: usize, i: i32): i32 {
  return load<i32>(<usize>load<u32>(f, MOVERS) + ((<usize>i) << 2));
}

/** A side of an obstacle's box: minX, minY, maxX, maxY. */
export function boxSide(f: usize, i: i32, side: i32): f64 {
  return load<f64>(<usize>load<u32>(f, BOXES) + ((<usize>(4 * i + side)) << 3));
}

function cellAt(place: f64, from: f64, scale: f64, count: i32): i32 {
  const cell = (place - from) * scale;
  return cell < 1 ? 0 : cell >= <f64>count ? count - 1 : <i32>cell;
}

export function find(f: usize, minX: f64, minY: f64, maxX: f64, maxY: f64): i32 {
  let count = 0;
  const found = <usize>load<u32>(f, FOUND);
  const boxes = <usize>load<u32>(f, BOXES);
  const always = alwaysCount(f);
  for (let k = 0; k < always; k++) {
    const i = alwaysAt(f, k);
    const mover = moverAt(f, i);
    const ox = mover < 0 ? 0 : load<f64>(offsets + ((<usize>mover) << 4));
    const oy = mover < 0 ? 0 : load<f64>(offsets + ((<usize>mover) << 4) + 8);
    const b = boxes + ((<usize>i) << 5);
    if (maxX - ox < load<f64>(b) || minX - ox > load<f64>(b, 16)) continue;
    if (maxY - oy < load<f64>(b, 8) || minY - oy > load<f64>(b, 24)) continue;
    count = keep(found, count, i);
  }
  const columns = load<i32>(f, COLUMNS);
  const rows = load<i32>(f, ROWS);
  const x = load<f64>(f, X);
  const y = load<f64>(f, Y);
  const scale = load<f64>(f, SCALE);
  const starts = <usize>load<u32>(f, STARTS);
  const items = <usize>load<u32>(f, ITEMS);
  const firstRow = cellAt(minY, y, scale, rows);
  const firstColumn = cellAt(minX, x, scale, columns);
  const reach = load<f64>(f, REACH);
  // What a small query may meet is in the one cell that its corner is in.
  if (maxX - minX <= reach && maxY - minY <= reach) {
    const at = starts + ((<usize>(firstRow * columns + firstColumn)) << 2);
    const end = load<i32>(at, 4);
    for (let k = load<i32>(at); k < end; k++) {
      const i = load<i32>(items + ((<usize>k) << 2));
      const b = boxes + ((<usize>i) << 5);
      if (maxX < load<f64>(b) || minX > load<f64>(b, 16) || maxY < load<f64>(b, 8) || minY > load<f64>(b, 24))
        continue;
      count = keep(found, count, i);
    }
    return count;
  }
  const query = load<f64>(f, QUERY) + 1;
  store<f64>(f, query, QUERY);
  const seen = <usize>load<u32>(f, SEEN);
  const lastRow = cellAt(maxY, y, scale, rows);
  const lastColumn = cellAt(maxX, x, scale, columns);
  for (let r = firstRow; r <= lastRow; r++) {
    for (let c = firstColumn; c <= lastColumn; c++) {
      const at = starts + ((<usize>(r * columns + c)) << 2);
      const end = load<i32>(at, 4);
      for (let k = load<i32>(at); k < end; k++) {
        const i = load<i32>(items + ((<usize>k) << 2));
        const b = boxes + ((<usize>i) << 5);
        if (
          maxX < load<f64>(b) ||
          minX > load<f64>(b, 16) ||
          maxY < load<f64>(b, 8) ||
          minY > load<f64>(b, 24)
        )
          continue;
        const stamp = seen + ((<usize>i) << 3);
        if (load<f64>(stamp) == query) continue;
        store<f64>(stamp, query);
        count = keep(found, count, i);
      }
    }
  }
  return count;
}

/** Puts an obstacle among the found, at its place in the order; gives how many there are now. */
function keep(found: usize, count: i32, i: i32): i32 {
  let at = found + ((<usize>count) << 2);
  for (; at > found && load<i32>(at - 4) > i; at -= 4) store<i32>(at, load<i32>(at - 4));
  store<i32>(at, i);
  return count + 1;
}
