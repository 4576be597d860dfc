import { contactsAt } from './queries.js';
import { type Contact, contactList, placeMovers, type World } from './world.js';

/** Where a body is and how it moves; feet in metres, velocity in metres a second. */
export interface Moving {
  x: number;
  y: number;
  vx: number;
  vy: number;
}

/** What counts as ground, and how the body keeps to it. `walkable` is the cosine of the steepest walkable angle. */
export interface GroundRule {
  walkable: number;
  /** How far the feet follow a ledge down (m), and the cosine of the sharpest edge that they follow the ground over. */
  snap: number;
  turn: number;
  /** How high a step the feet climb (m). */
  step: number;
}

/** The touched surfaces, sorted by what they are to the body. */
export interface Footing {
  contacts: Contact[];
  /** The flattest walkable surface, unless the body is leaving it. */
  ground: Contact | undefined;
  steep: Contact | undefined;
  /** −1 a wall to the left, 1 to the right, 0 none. */
  wall: -1 | 0 | 1;
  ceiling: boolean;
}

/** The same by numbers: which of the contacts are ground and steep (−1 none), and what else is touched. */
export interface Sorted {
  ground: number;
  steep: number;
  wall: -1 | 0 | 1;
  ceiling: boolean;
}

/** The cosine that every edge meets: the feet follow the ground over it however sharp it is. */
export const ANY_EDGE = -1;

/** Sorts what the body touches; seen from above there are only walls. The answer is used again by the next call. */
export const sortContacts = (
  world: World,
  stance: number,
  body: Moving,
  walkable: number,
  above: boolean,
): Sorted => world.geometry.sortContacts(stance, body, walkable, above);

/** What the body touches where it is, sorted, as a list that stays as it is. */
export function footingAt(
  world: World,
  stance: number,
  body: Moving,
  rule: Pick<GroundRule, 'walkable'>,
  above = false,
): Footing {
  const { ground, steep, wall, ceiling } = sortContacts(world, stance, body, rule.walkable, above);
  const contacts = contactList(contactsAt(world, stance, body.x, body.y));
  return { contacts, ground: contacts[ground], steep: contacts[steep], wall, ceiling };
}

/**
 * Moves a body for a time, `dt` seconds, in place. On ground it follows the surface and keeps its speed along it, and
 * snaps back down when the surface falls away by no more than `snap`; aloft it slides along what it hits.
 */
export const moveBody = (
  world: World,
  stance: number,
  body: Moving,
  ground: { nx: number; ny: number } | undefined,
  rule: GroundRule,
  dt: number,
): void => world.geometry.moveBody(stance, body, ground, rule, dt);

/** Moves a body seen from above: no ground, it slides along whatever it hits. */
export const slideBody = (world: World, stance: number, body: Moving, dt: number): void =>
  world.geometry.slideBody(stance, body, dt);

/**
 * Moves every mover on to a time (seconds) and the feet with them: whoever stands on one is carried, whoever is in its
 * way is pushed, both no further than the rest of the course lets them. `on` is the solid stood on, −1 for none.
 */
export function carryBody(
  world: World,
  stance: number,
  feet: { x: number; y: number },
  on: number,
  seconds: number,
): void {
  const { offsets, before } = world;
  if (offsets.length === 0) return;
  for (let i = 0; i < offsets.length; i++) before[i] = offsets[i]!;
  placeMovers(world, seconds);
  world.geometry.carry(stance, feet, on);
}
