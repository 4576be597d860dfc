import type { Machine } from '@glenmark/core/machine';
import { castShape, contactList, contactsAt, fits, type World, zonesAt } from '@glenmark/core/world';

/** What a body set down somewhere would meet: each stance that fits, contacts, probes, zones. Lengths in metres. */
export interface Standing {
  x: number;
  y: number;
  stances: { name: string; fits: boolean }[];
  /** The first stance that fits, or the first of all; its outline is what is drawn. */
  stance: number;
  contacts: { nx: number; ny: number }[];
  probes: { name: string; x: number; y: number; x2: number; y2: number; hit: boolean }[];
  zones: string[];
}

/** Sets the body of a moveset down in a world made for it, with its feet at a place, facing right. */
export function standAt(machine: Machine, world: World, x: number, y: number): Standing {
  const named = machine.stances.map((s, index) => ({ ...s, index })).filter((s) => !s.hidden);
  const stances = named.map((s) => ({ name: s.name, index: s.index, fits: fits(world, s.index, x, y) }));
  const stance = (stances.find((s) => s.fits) ?? stances[0]!).index;
  const found: number[] = [];
  const count = zonesAt(world, stance, x, y, found);
  return {
    x,
    y,
    stances,
    stance,
    contacts: contactList(contactsAt(world, stance, x, y)).map(({ nx, ny }) => ({ nx, ny })),
    probes: machine.probes.map((probe) => {
      const way = 'aim' in probe.direction ? { x: 1, y: 0 } : probe.direction;
      const [px, py] = [x + probe.x, y + probe.y];
      const hit = castShape(world, probe.cast, probe.sees, px, py, way.x, way.y, probe.reach);
      const reach = hit.distance;
      return { name: probe.name, x: px, y: py, x2: px + way.x * reach, y2: py + way.y * reach, hit: hit.hit };
    }),
    zones: found.slice(0, count).map((i) => world.course.zones[i]!.tag),
  };
}
