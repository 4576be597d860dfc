import type { Obstacle } from '../obstacle.js';
import type { Field } from '../spatial-grid.js';
import type { Arrangement } from '../world.js';
import type { WasmMemory, WebAssemblyApi } from './webassembly.js';

/**
 * The kernel's memory, as `kernel/memory.ts`, `kernel/grid.ts` and `kernel/obstacle.ts` at the root of this package read
 * it. Addresses are in bytes, every table begins at a multiple of eight.
 */
export interface Tables {
  memory: WasmMemory;
  /** What the kernel's `begin` is told: where the tables are. */
  begin: readonly number[];
  /** The doubles at the head: body, touch, hit, versions, what was sorted, contacts, platforms dropped through. */
  head: Float64Array;
  offsets: Float64Array;
  before: Float64Array;
  contacts: { nx: Float64Array; ny: Float64Array; distance: Float64Array; solid: Int32Array };
  zones: Int32Array;
  /** For some lists of tags, whether each tag of the course is on it: a byte each. */
  seen: Uint8Array;
  seenAt: number;
  tags: readonly string[];
}

/** Places among the doubles at the head. */
export const HEAD = { body: 8, touch: 12, hit: 16, versions: 20, sorted: 22, contacts: 26, dropped: 32 };
const HEAD_DOUBLES = 64;
/** The head, and what the compiler keeps for itself after it. */
const HEAD_BYTES = 2048;

/** Lists of tags that are kept at once. */
export const SEEN_LISTS = 64;

const FIELD_BYTES = 88;
const CORNERS = 16;
const CORNER = 40;
const PAGE = 65_536;

/** Lays the fields of a world out in a memory of their own. */
export function layOut(
  { course, stances, zones, casts, paths, offsets }: Arrangement,
  api: WebAssemblyApi,
): Tables {
  let size = HEAD_BYTES;
  const take = (bytes: number): number => {
    const at = size;
    size += (bytes + 7) & ~7;
    return at;
  };
  const writers: ((view: DataView) => void)[] = [];
  const later = (write: (view: DataView) => void): void => void writers.push(write);
  const ints = (list: ArrayLike<number>): number => {
    const at = take(4 * list.length);
    later((view) => {
      for (let i = 0; i < list.length; i++) view.setInt32(at + 4 * i, list[i]!, true);
    });
    return at;
  };
  const doubles = (list: ArrayLike<number>): number => {
    const at = take(8 * list.length);
    later((view) => {
      for (let i = 0; i < list.length; i++) view.setFloat64(at + 8 * i, list[i]!, true);
    });
    return at;
  };
  const obstacle = (o: Obstacle): number => {
    const at = take(CORNERS + CORNER * o.x.length);
    later((view) => {
      view.setInt32(at, o.solid, true);
      view.setInt32(at + 4, o.x.length, true);
      view.setFloat64(at + 8, o.radius, true);
      for (let i = 0; i < o.x.length; i++)
        [o.x, o.y, o.nx, o.ny, o.length].forEach((list, k) =>
          view.setFloat64(at + CORNERS + CORNER * i + 8 * k, list[i]!, true),
        );
    });
    return at;
  };
  const field = (f: Field): number => {
    const at = take(FIELD_BYTES);
    const obstacles = ints(f.obstacles.map(obstacle));
    const addresses = [
      doubles(f.boxes),
      ints(f.movers),
      ints(f.always),
      ints(f.starts),
      ints(f.items),
      doubles(f.seen),
      obstacles,
      ints(f.obstacles.map(() => 0)),
    ];
    later((view) => {
      [f.always.length, f.columns, f.rows, ...addresses].forEach((n, i) =>
        view.setInt32(at + 4 * i, n, true),
      );
      [f.x, f.y, f.scale, f.reach, 0].forEach((n, i) => view.setFloat64(at + 48 + 8 * i, n, true));
    });
    return at;
  };
  const tags = [...new Set(course.solids.map(({ tag }) => tag))];
  const room = Math.max(1, ...stances.map(({ obstacles }) => obstacles.length));
  const lists = [stances, zones, casts].map((list) => ints(list.map(field)));
  const solids = ints(
    course.solids.flatMap(({ mover, oneWay, tag }) => [mover, Number(oneWay), tags.indexOf(tag), 0]),
  );
  const at = {
    offsets: take(8 * offsets.length),
    before: take(8 * offsets.length),
    contacts: take(28 * room),
  };
  const pathsAt = ints(paths.flatMap((boxes) => [doubles(boxes), boxes.length / 4]));
  const zonesAt = take(4 * course.zones.length);
  const seenAt = take(SEEN_LISTS * tags.length);
  const memory = new api.Memory({ initial: Math.ceil(size / PAGE) });
  const view = new DataView(memory.buffer);
  for (const write of writers) write(view);
  const doublesAt = (from: number, length: number): Float64Array =>
    new Float64Array(memory.buffer, from, length);
  return {
    memory,
    begin: [...lists, solids, at.offsets, at.before, at.contacts, room, pathsAt, zonesAt],
    head: doublesAt(0, HEAD_DOUBLES),
    offsets: doublesAt(at.offsets, offsets.length),
    before: doublesAt(at.before, offsets.length),
    contacts: {
      nx: doublesAt(at.contacts, room),
      ny: doublesAt(at.contacts + 8 * room, room),
      distance: doublesAt(at.contacts + 16 * room, room),
      solid: new Int32Array(memory.buffer, at.contacts + 24 * room, room),
    },
    zones: new Int32Array(memory.buffer, zonesAt, course.zones.length),
    seen: new Uint8Array(memory.buffer, seenAt, SEEN_LISTS * tags.length),
    seenAt,
    tags,
  };
}
