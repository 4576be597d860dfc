import type { Geometry } from '../geometry.js';
import type { Arrangement } from '../world.js';
import { carry } from './carry.js';
import { moveBody, slideBody, sortContacts } from './move.js';
import * as queries from './queries.js';

/**
 * The geometry written to be read: `queries` are questions about a place or a way, `move` moves a body for a tick, `carry`
 * moves it with the movers. It is the oracle of the kernel, and stands in where no WebAssembly may run.
 */
export function plainGeometry(arranged: Arrangement): Geometry {
  const contacts: queries.PlainContacts = {
    count: 0,
    nx: [],
    ny: [],
    distance: [],
    solid: [],
    minDistance: 0,
    x: NaN,
    y: NaN,
    stance: -1,
    version: -1,
  };
  const world: queries.Plain = Object.assign(arranged, { contacts });
  return {
    contacts,
    sweep: (stance, x, y, dx, dy, except) => queries.sweep(world, stance, x, y, dx, dy, except),
    fits: (stance, x, y) => queries.fits(world, stance, x, y),
    contactsAt: (stance, x, y) => queries.contactsAt(world, stance, x, y),
    zonesAt: (stance, x, y, into) => queries.zonesAt(world, stance, x, y, into),
    castShape: (cast, tags, x, y, directionX, directionY, reach) =>
      queries.castShape(world, cast, tags, x, y, directionX, directionY, reach),
    isTouching: (stance, x, y, solid) => queries.isTouching(world, stance, x, y, solid),
    sortContacts: (stance, body, walkable, above) => sortContacts(world, stance, body, walkable, above),
    moveBody: (stance, body, ground, rule, dt) => moveBody(world, stance, body, ground, rule, dt),
    slideBody: (stance, body, dt) => slideBody(world, stance, body, dt),
    carry: (stance, feet, on) => carry(world, stance, feet, on),
  };
}
