import { contactsAt, type Moving } from '../../world/index.js';
import * as at from '../lowered/layout.js';
import { MAX_DROPPED } from '../reference/situation.js';
import { putCatch } from '../reference/tether.js';
import { decay } from '../trigonometry.js';
import { type Log, note } from './log.js';
import { putMiddle, type Senses } from './senses.js';

/** What a printed program has the world do, by name: tethers, one-way platforms, zones. `body` has the velocity. */
export function actsByName(senses: Senses, log: Log | undefined, body: Moving) {
  const { world, layout } = senses;
  return { ...tetherActs(senses), ...zoneActs(senses, log, body), drop: (s: Float64Array) => void drop(s) };

  /** Begins to drop through the one-way platforms that are touched. */
  function drop(s: Float64Array): void {
    const { count, solid } = contactsAt(world, s[at.STANCE]!, s[at.X]!, s[at.Y]!);
    const first = layout.dropped;
    let n = 0;
    for (let i = 0; i < count && n < MAX_DROPPED; i++) {
      if (!world.course.solids[solid[i]!]!.oneWay || isAmong(s, first + 1, n, solid[i]!)) continue;
      s[first + 1 + n++] = solid[i]!;
    }
    if (n < s[first]!) s.fill(0, first + 1 + n, first + 1 + s[first]!);
    s[first] = n;
  }
}

function isAmong(s: Float64Array, first: number, count: number, value: number): boolean {
  for (let i = 0; i < count; i++) if (s[first + i] === value) return true;
  return false;
}

function tetherActs({ machine, world, layout, facts }: Senses) {
  const hold = { x: 0, y: 0, mover: -1 };
  return {
    /** Casts a tether and holds on to what it catches. */
    cast: (s: Float64Array, index: number): void => {
      const tether = machine.tethers[index]!;
      putMiddle(machine, s, hold);
      hold.mover = -1;
      if (putCatch(machine, world, tether, facts, hold))
        addAnchor(s, layout.anchors[index]!, tether.most, hold);
    },
    release: (s: Float64Array, index: number): void => {
      const first = layout.anchors[index]!;
      s.fill(0, first, first + 1 + 3 * s[first]!);
    },
  };
}

/** Holds on to what was caught; beyond the most, the oldest lets go. The same place again changes nothing. */
function addAnchor(
  s: Float64Array,
  first: number,
  max: number,
  { x, y, mover }: { x: number; y: number; mover: number },
): void {
  const count = s[first]!;
  for (let k = 0; k < count; k++) if (s[first + 1 + 3 * k] === x && s[first + 2 + 3 * k] === y) return;
  s[first + 1 + 3 * count] = x;
  s[first + 2 + 3 * count] = y;
  s[first + 3 + 3 * count] = mover;
  if (count < max) s[first] = count + 1;
  else {
    s.copyWithin(first + 1, first + 4, first + 4 + 3 * count);
    s.fill(0, first + 1 + 3 * count, first + 4 + 3 * count);
  }
}

function zoneActs({ machine, world, layout }: Senses, log: Log | undefined, body: Moving) {
  const { dt } = machine;
  const { zones } = world.course;
  // What each zone's drag leaves of a speed in one tick; the ability that it unlocks, −1 none.
  const factors = zones.map((zone) => (zone.drag > 0 ? decay(zone.drag * dt) : 1));
  const unlocks = zones.map((zone) => machine.abilities.findIndex((a) => a.name === zone.unlocks));
  const isIn = (s: Float64Array, zone: number): boolean => (s[layout.zones + zone]! & at.INSIDE) !== 0;
  const told = (
    channel: 'vx' | 'vy',
    kind: 'launch' | 'wind' | 'drag',
    zone: number,
    value: number,
  ): void => {
    if (log !== undefined) note(log, channel, -1, kind, zone, -1, kind === 'launch', value);
  };
  return {
    /** Zones that unlock do so when the body is in them. */
    pickUp: (s: Float64Array): void => {
      for (let i = 0; i < zones.length; i++)
        if (unlocks[i]! >= 0 && isIn(s, i)) s[layout.unlocked + unlocks[i]!] = 1;
    },
    /** A zone's launch is given in the tick after it was entered, and never twice in one stay. */
    launch: (s: Float64Array): void => {
      for (let i = 0; i < zones.length; i++) {
        const place = layout.zones + i;
        const state = s[place]!;
        const { launch: velocity } = zones[i]!;
        if (velocity === undefined || (state & at.INSIDE) === 0) {
          s[place] = state & ~at.LAUNCHED;
          continue;
        }
        s[place] = state | at.LAUNCHED;
        if ((state & at.LAUNCHED) !== 0) continue;
        s[at.VX] = velocity.x;
        s[at.VY] = velocity.y;
        told('vx', 'launch', i, velocity.x);
        told('vy', 'launch', i, velocity.y);
      }
    },
    /** What the winds of the zones that the body is in add up to upward (m/s²). */
    windUp: (s: Float64Array): number => {
      let up = 0;
      for (let i = 0; i < zones.length; i++) if (isIn(s, i)) up += zones[i]!.wind?.y ?? 0;
      return up;
    },
    /** Wind and drag of the zones that the body is in: along the ground with normal (nx, ny) when it stands. */
    blow: (s: Float64Array, stands: boolean, nx: number, ny: number): void => {
      for (let i = 0; i < zones.length; i++) {
        if (!isIn(s, i)) continue;
        const { wind } = zones[i]!;
        if (wind !== undefined && wind.x !== 0) {
          if (stands) {
            const along = body.vx * ny - body.vy * nx + wind.x * dt;
            body.vx = along * ny;
            body.vy = 0 - along * nx;
          } else body.vx += wind.x * dt;
          told('vx', 'wind', i, body.vx);
        }
        if (wind !== undefined && wind.y !== 0 && !stands) {
          body.vy += wind.y * dt;
          told('vy', 'wind', i, body.vy);
        }
        if (factors[i] === 1) continue;
        body.vx *= factors[i]!;
        body.vy *= factors[i]!;
        told('vx', 'drag', i, body.vx);
        if (!stands) told('vy', 'drag', i, body.vy);
      }
    },
  };
}
