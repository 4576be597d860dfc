/**
 * Where what is in the kernel's memory. TypeScript lays it out (`src/world/kernel/layout.ts` has the same numbers) and
 * both sides read and write it. Addresses are in bytes; everything at the head is a double.
 */

/** The body: x, y, vx, vy. */
export const BODY: usize = 64;
/** The last touch: t, nx, ny, and the solid, −1 for none. */
export const TOUCH: usize = 96;
/** The last cast: distance, nx, ny, and the solid, −1 for none. */
export const HIT: usize = 128;
/** What tells one arrangement of the world from another: its version, and that of the platforms alone. */
export const VERSIONS: usize = 160;
/** What the contacts are to the body: ground, steep (−1 none), wall, ceiling. */
export const SORTED: usize = 176;
/** The contacts: their count, the least distance, and where, in which stance and arrangement they were looked for. */
export const CONTACTS: usize = 208;
/** The platforms that the body drops through: how many, then which. */
export const DROPPED: usize = 256;

/** Lists of fields: of the stances, of the zones as each stance meets them, of the shapes that are cast. */
export let stances: usize = 0;
export let zones: usize = 0;
export let casts: usize = 0;
/** Of each solid its mover (−1 none), whether it is a one-way platform, and its tag: four whole numbers, one unused. */
export let solids: usize = 0;
/** Where each mover is now, where it was before the last step of `carry`: x and y of each. */
export let offsets: usize = 0;
export let before: usize = 0;
/** Of the contacts the normals and distances, as doubles, and the solids, as whole numbers. */
export let contactNx: usize = 0;
export let contactNy: usize = 0;
export let contactDistance: usize = 0;
export let contactSolid: usize = 0;
/** For each stance where the boxes of its movers' paths begin, and how many there are. */
export let paths: usize = 0;
/** Where the zones that the body is in are listed. */
export let inside: usize = 0;

/** Says where the tables are. To be called once, when they are filled. */
export function begin(
  stanceFields: usize,
  zoneFields: usize,
  castFields: usize,
  solidTable: usize,
  moverOffsets: usize,
  offsetsBefore: usize,
  contacts: usize,
  contactRoom: i32,
  moverPaths: usize,
  zoneList: usize,
): void {
  stances = stanceFields;
  zones = zoneFields;
  casts = castFields;
  solids = solidTable;
  offsets = moverOffsets;
  before = offsetsBefore;
  contactNx = contacts;
  contactNy = contacts + 8 * <usize>contactRoom;
  contactDistance = contacts + 16 * <usize>contactRoom;
  contactSolid = contacts + 24 * <usize>contactRoom;
  paths = moverPaths;
  inside = zoneList;
}

export function moverOf(solid: i32): i32 {
  return load<i32>(solids + ((<usize>solid) << 4));
}

export function isOneWay(solid: i32): bool {
  return load<i32>(solids + ((<usize>solid) << 4) + 4) != 0;
}

export function tagOf(solid: i32): i32 {
  return load<i32>(solids + ((<usize>solid) << 4) + 8);
}

/** The offset of the mover that a solid may be. */
export function offsetX(solid: i32): f64 {
  const mover = moverOf(solid);
  return mover < 0 ? 0 : load<f64>(offsets + ((<usize>mover) << 4));
}

export function offsetY(solid: i32): f64 {
  const mover = moverOf(solid);
  return mover < 0 ? 0 : load<f64>(offsets + ((<usize>mover) << 4) + 8);
}
