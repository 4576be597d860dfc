import type { GroundRule, Moving, Sorted } from './move.js';
import type { Contacts } from './world.js';

/** A first touch: the share of the displacement made before it, the surface's outward unit normal, the solid; −1 none. */
export interface Touch {
  t: number;
  nx: number;
  ny: number;
  solid: number;
}

/** What a cast meets: how far it gets, and the surface there. */
export interface CastHit {
  distance: number;
  hit: boolean;
  nx: number;
  ny: number;
  solid: number;
}

/**
 * Questions to a world, and moving a body in it: what each means is said where the world offers it (`queries.ts`,
 * `move.ts`). There are two: `plain` is written to be read, and the kernel does the same some times faster. Answers are in
 * objects that the next question uses again.
 */
export interface Geometry {
  contacts: Contacts;
  sweep(stance: number, x: number, y: number, dx: number, dy: number, except: number): Touch;
  fits(stance: number, x: number, y: number): boolean;
  contactsAt(stance: number, x: number, y: number): Contacts;
  zonesAt(stance: number, x: number, y: number, into: number[]): number;
  castShape(
    cast: number,
    tags: readonly string[] | undefined,
    x: number,
    y: number,
    directionX: number,
    directionY: number,
    reach: number,
  ): CastHit;
  isTouching(stance: number, x: number, y: number, solid: number): boolean;
  sortContacts(stance: number, body: Moving, walkable: number, above: boolean): Sorted;
  moveBody(
    stance: number,
    body: Moving,
    ground: { nx: number; ny: number } | undefined,
    rule: GroundRule,
    dt: number,
  ): void;
  slideBody(stance: number, body: Moving, dt: number): void;
  /** Moves the body with the movers, which have moved from where they were before; `on` is the solid stood on. */
  carry(stance: number, feet: { x: number; y: number }, on: number): void;
}
