import { LEVEL } from '../../tolerances.js';
import type { FactRef } from '../../notation/index.js';
import { castShape, fits, type World } from '../../world/index.js';
import type { Machine, Probe } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';
import type { Layout, Program } from '../lowered/index.js';
import * as at from '../lowered/layout.js';
import { anchorShift } from '../reference/situation.js';
import { putCatch } from '../reference/tether.js';
import { putUnitVector, slopeDegrees } from '../trigonometry.js';

/** What a program asks of the world and of the body's shape. */
export interface Senses {
  machine: Machine;
  world: World;
  layout: Layout;
  /** What is kept for a tick: the facts by slot, then the program's registers. */
  facts: Float64Array;
  /** Answers a fact that is asked for, by slot; undefined for all others. */
  asked: ((s: Float64Array) => number)[];
  /** The tick in which each fact was asked last, counted by `now` over all situations. */
  stamps: Float64Array;
  now: number;
  /** The situation that facts are asked of in this tick. */
  situation: Float64Array;
  /** Which way the body faced when the tick began. */
  facing: number;
  /** Finds a fact that is asked for, unless that was done in this tick. */
  ask: (slot: number) => void;
}

export function createSenses(
  machine: Machine,
  world: World,
  layout: Layout,
  { asked, facts, registers }: Program,
): Senses {
  const senses: Senses = {
    machine,
    world,
    layout,
    facts: new Float64Array(facts.length + registers.length),
    asked: [],
    stamps: new Float64Array(facts.length),
    now: 0,
    situation: new Float64Array(layout.size),
    facing: 1,
    ask: (slot) => {
      if (senses.stamps[slot] === senses.now) return;
      senses.stamps[slot] = senses.now;
      senses.facts[slot] = senses.asked[slot]!(senses.situation);
    },
  };
  const casts = new Map(machine.probes.map((probe) => [probe.name, createCast(senses, probe)]));
  for (const { slot, ref } of asked) senses.asked[slot] = answer(senses, ref, casts);
  return senses;
}

/** Begins a tick: nothing has been asked in it. */
export function beginTick(senses: Senses, s: Float64Array): void {
  senses.now++;
  // Only what differs is stored: storing a reference costs more than comparing it.
  if (senses.situation !== s) senses.situation = s;
  senses.facing = s[at.FACING]!;
}

/** How a fact is found that is asked for. */
function answer(
  senses: Senses,
  { fact, of, tag }: FactRef,
  casts: ReadonlyMap<string, Cast>,
): (s: Float64Array) => number {
  const { machine, world, layout } = senses;
  const probe = casts.get(of ?? '');
  switch (fact) {
    case 'slope':
      return slope;
    case 'fits': {
      const stance = machine.stances.findIndex(({ name, step }) => name === of && !step);
      return (s) => {
        const now = s[at.STANCE]!;
        const shift = anchorShift(machine, now, stance);
        return Number(stance === now || fits(world, stance, s[at.X]!, s[at.Y]! + shift));
      };
    }
    case 'inside': {
      const zones = world.course.zones.flatMap((z, i) => (z.tag === of ? [layout.zones + i] : []));
      return (s) => {
        for (let i = 0; i < zones.length; i++) if ((s[zones[i]!]! & at.INSIDE) !== 0) return 1;
        return 0;
      };
    }
    case 'probe':
      return (s) => Number(probe!(s).hit);
    case 'distance':
      return (s) => probe!(s).distance;
    case 'angle':
      return (s) => {
        const { hit, nx, ny } = probe!(s);
        return hit ? slopeDegrees(nx, ny) : 0;
      };
    case 'hits':
      return (s) => {
        const { hit, solid } = probe!(s);
        return Number(hit && world.course.solids[solid]!.tag === tag);
      };
    case 'catches': {
      const tether = machine.tethers.find(({ name }) => name === of)!;
      const hold = { x: 0, y: 0, mover: -1 };
      return (s) => {
        putMiddle(machine, s, hold);
        return Number(putCatch(machine, world, tether, senses.facts, hold));
      };
    }
    default:
      throw new RangeError(`nobody answers the fact ${fact}`);
  }
}

interface Hit {
  distance: number;
  hit: boolean;
  nx: number;
  ny: number;
  solid: number;
}

type Cast = (s: Float64Array) => Hit;

const unit = { x: 0, y: 0 };

/** Casts a probe, once a tick for all its facts. */
function createCast(senses: Senses, probe: Probe): Cast {
  const { machine, world } = senses;
  const aim = 'aim' in probe.direction ? slotOf(machine.facts, 'aim', probe.direction.aim) : -1;
  const hit = { distance: 0, hit: false, nx: 0, ny: 0, solid: -1 };
  let last = -1;
  return (s) => {
    if (last === senses.now) return hit;
    last = senses.now;
    if ('aim' in probe.direction) putUnitVector(senses.facts[aim]!, unit);
    else {
      unit.x = probe.direction.x * senses.facing;
      unit.y = probe.direction.y;
    }
    const x = s[at.X]! + probe.x * senses.facing;
    const y = s[at.Y]! + probe.y;
    const met = castShape(world, probe.cast, probe.sees, x, y, unit.x, unit.y, probe.reach);
    hit.distance = met.distance;
    hit.hit = met.hit;
    hit.nx = met.nx;
    hit.ny = met.ny;
    hit.solid = met.solid;
    return hit;
  };
}

const slope = (s: Float64Array): number =>
  s[at.GROUND] === 0 ? 0 : slopeDegrees(s[at.GROUND_NX]!, s[at.GROUND_NY]!);

/** The senses that a printed program calls by name. */
export function sensesByName({ machine, layout }: Senses) {
  const centre = { x: 0, y: 0 };
  const middle = (s: Float64Array): number => s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
  return {
    /** How fast the body goes down a slope; 0 on level ground and aloft. */
    downward: (s: Float64Array): number =>
      s[at.GROUND] !== 0 && s[at.GROUND_NX] !== 0 && slope(s) > LEVEL ? s[at.VX]! * s[at.GROUND_NX]! : 0,
    aimX: (_: Float64Array, degrees: number): number => {
      putUnitVector(degrees, unit);
      return unit.x;
    },
    aimY: (_: Float64Array, degrees: number): number => {
      putUnitVector(degrees, unit);
      return unit.y;
    },
    tetherLength: (s: Float64Array): number =>
      putCentre(layout, s, centre) ? Math.sqrt((centre.x - s[at.X]!) ** 2 + (centre.y - middle(s)) ** 2) : 0,
    hangs: (s: Float64Array): boolean => putCentre(layout, s, centre),
    centreX: (): number => centre.x,
    centreY: (): number => centre.y,
    middle,
  };
}

/** How far above the feet the middle of a stance is (m). */
const middleOfStance = (machine: Machine, stance: number): number => {
  const { bottom, top } = machine.stances[stance]!;
  return (bottom + top) / 2;
};

/** The middle of the body: where lines are held. */
export function putMiddle(machine: Machine, s: Float64Array, into: { x: number; y: number }): void {
  into.x = s[at.X]!;
  into.y = s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
}

/** The centre of all anchors that hold, into `centre`; false when none does. */
function putCentre(layout: Layout, s: Float64Array, centre: { x: number; y: number }): boolean {
  let count = 0;
  for (let i = 0; i < layout.anchors.length; i++) count += s[layout.anchors[i]!]!;
  if (count === 0) return false;
  centre.x = 0;
  centre.y = 0;
  for (let i = 0; i < layout.anchors.length; i++) {
    const first = layout.anchors[i]! + 1;
    for (let k = 0; k < s[first - 1]!; k++) {
      centre.x += s[first + 3 * k]!;
      centre.y += s[first + 3 * k + 1]!;
    }
  }
  centre.x /= count;
  centre.y /= count;
  return true;
}
