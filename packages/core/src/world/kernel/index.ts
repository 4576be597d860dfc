import type { CastHit, Geometry, Touch } from '../geometry.js';
import type { Moving, Sorted } from '../move.js';
import type { Arrangement, Contacts } from '../world.js';
import { HEAD, layOut, SEEN_LISTS, type Tables } from './layout.js';
import { MODULE } from './module.js';
import { type WasmModule, type WebAssemblyApi, webAssembly } from './webassembly.js';

/** What the kernel exports; its source is in `kernel/` at the root of this package. */
interface Kernel {
  begin(...addresses: number[]): void;
  sweep(stance: number, x: number, y: number, dx: number, dy: number, except: number): number;
  fits(stance: number, x: number, y: number): number;
  contactsAt(stance: number, x: number, y: number): number;
  zonesAt(stance: number, x: number, y: number): number;
  castShape(
    cast: number,
    seen: number,
    x: number,
    y: number,
    directionX: number,
    directionY: number,
    reach: number,
  ): void;
  isTouching(stance: number, x: number, y: number, solid: number): number;
  sortContacts(stance: number, walkable: number, above: number): void;
  moveBody(
    stance: number,
    stands: number,
    nx: number,
    ny: number,
    walkable: number,
    snap: number,
    turn: number,
    step: number,
    dt: number,
  ): void;
  slideBody(stance: number, dt: number): void;
  carry(stance: number, on: number): void;
}

/** WebAssembly with the compiled module; `undefined` before it is first asked for, `null` where none may run. */
let compiled: { api: WebAssemblyApi; module: WasmModule } | null | undefined;

function compile(): typeof compiled {
  if (webAssembly === undefined) return null;
  try {
    const bytes = Uint8Array.from(atob(MODULE), (c) => c.charCodeAt(0));
    return { api: webAssembly, module: new webAssembly.Module(bytes) };
  } catch {
    // A content security policy may forbid it: the plain geometry does the same.
    return null;
  }
}

/** The geometry of a world by the kernel, which gets a memory of its own; undefined where no WebAssembly may run. */
export function kernelGeometry(world: Arrangement): Geometry | undefined {
  if (compiled === undefined) compiled = compile();
  if (compiled === null || compiled === undefined) return undefined;
  const { api, module } = compiled;
  const tables = layOut(world, api);
  const { exports } = new api.Instance(module, { env: { memory: tables.memory } });
  const kernel = exports as Kernel;
  kernel.begin(...tables.begin);
  world.offsets = tables.offsets;
  world.before = tables.before;
  return geometryBy(kernel, tables, world);
}

function geometryBy(kernel: Kernel, tables: Tables, world: Arrangement): Geometry {
  const { head } = tables;
  const touch: Touch = { t: 1, nx: 0, ny: 0, solid: -1 };
  const hit: CastHit = { distance: 0, hit: false, nx: 0, ny: 0, solid: -1 };
  const sorted: Sorted = { ground: -1, steep: -1, wall: 0, ceiling: false };
  const contacts: Contacts = { ...tables.contacts, count: 0, minDistance: 0 };
  const seenBy = createSeen(tables);
  // Nothing was looked for yet.
  head[HEAD.contacts + 4] = -1;
  head[HEAD.versions] = -1;

  /** Tells the kernel which platforms are dropped through, and that movers have moved. */
  const arrange = (): void => {
    if (head[HEAD.versions] === world.version) return;
    head[HEAD.versions] = world.version;
    head[HEAD.versions + 1] = world.still;
    head[HEAD.dropped] = world.dropped.length;
    for (let i = 0; i < world.dropped.length; i++) head[HEAD.dropped + 1 + i] = world.dropped[i]!;
  };
  const putBody = (body: Moving): void => {
    head[HEAD.body] = body.x;
    head[HEAD.body + 1] = body.y;
    head[HEAD.body + 2] = body.vx;
    head[HEAD.body + 3] = body.vy;
  };
  const takeBody = (body: Moving): void => {
    body.x = head[HEAD.body]!;
    body.y = head[HEAD.body + 1]!;
    body.vx = head[HEAD.body + 2]!;
    body.vy = head[HEAD.body + 3]!;
  };
  const takeContacts = (): void => {
    contacts.count = head[HEAD.contacts]!;
    contacts.minDistance = head[HEAD.contacts + 1]!;
  };
  return {
    contacts,
    sweep(stance, x, y, dx, dy, except) {
      arrange();
      touch.t = kernel.sweep(stance, x, y, dx, dy, except);
      touch.nx = head[HEAD.touch + 1]!;
      touch.ny = head[HEAD.touch + 2]!;
      touch.solid = head[HEAD.touch + 3]!;
      return touch;
    },
    fits(stance, x, y) {
      arrange();
      return kernel.fits(stance, x, y) !== 0;
    },
    contactsAt(stance, x, y) {
      arrange();
      kernel.contactsAt(stance, x, y);
      takeContacts();
      return contacts;
    },
    zonesAt(stance, x, y, into) {
      const count = kernel.zonesAt(stance, x, y);
      for (let i = 0; i < count; i++) into[i] = tables.zones[i]!;
      return count;
    },
    castShape(cast, tags, x, y, directionX, directionY, reach) {
      arrange();
      kernel.castShape(cast, tags === undefined ? 0 : seenBy(tags), x, y, directionX, directionY, reach);
      hit.distance = head[HEAD.hit]!;
      hit.nx = head[HEAD.hit + 1]!;
      hit.ny = head[HEAD.hit + 2]!;
      hit.solid = head[HEAD.hit + 3]!;
      hit.hit = hit.solid >= 0;
      return hit;
    },
    isTouching(stance, x, y, solid) {
      arrange();
      return kernel.isTouching(stance, x, y, solid) !== 0;
    },
    sortContacts(stance, body, walkable, above) {
      arrange();
      putBody(body);
      kernel.sortContacts(stance, walkable, above ? 1 : 0);
      takeContacts();
      sorted.ground = head[HEAD.sorted]!;
      sorted.steep = head[HEAD.sorted + 1]!;
      const wall = head[HEAD.sorted + 2]!;
      sorted.wall = wall < 0 ? -1 : wall > 0 ? 1 : 0;
      sorted.ceiling = head[HEAD.sorted + 3] !== 0;
      return sorted;
    },
    moveBody(stance, body, ground, { walkable, snap, turn, step }, dt) {
      arrange();
      putBody(body);
      if (ground === undefined) kernel.moveBody(stance, 0, 0, 0, walkable, snap, turn, step, dt);
      else kernel.moveBody(stance, 1, ground.nx, ground.ny, walkable, snap, turn, step, dt);
      takeBody(body);
    },
    slideBody(stance, body, dt) {
      arrange();
      putBody(body);
      kernel.slideBody(stance, dt);
      takeBody(body);
    },
    carry(stance, feet, on) {
      arrange();
      head[HEAD.body] = feet.x;
      head[HEAD.body + 1] = feet.y;
      kernel.carry(stance, on);
      feet.x = head[HEAD.body]!;
      feet.y = head[HEAD.body + 1]!;
    },
  };
}

/** Makes a function that gives the address of a list of tags: a byte for each tag of the course, 1 where it is on it. */
function createSeen({ seen, seenAt, tags }: Tables): (list: readonly string[]) => number {
  const known = new Map<readonly string[], number>();
  return (list) => {
    const address = known.get(list);
    if (address !== undefined) return address;
    // More lists than there is room for are written anew.
    if (known.size === SEEN_LISTS) known.clear();
    const from = known.size * tags.length;
    tags.forEach((tag, i) => (seen[from + i] = list.includes(tag) ? 1 : 0));
    known.set(list, seenAt + from);
    return seenAt + from;
  };
}
