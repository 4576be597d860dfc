import { LEVEL } from '../../tolerances.js';
import { type FactRef, slotsIn } from '../../notation/index.js';
import { castShape, fits, type World } from '../../world/index.js';
import { leavesOf, type Machine } from '../definition/machine.js';
import { allExpressions } from '../definition/expressions.js';
import { slotOf } from '../definition/facts.js';
import { anchorShift } from '../reference/situation.js';
import { putCatch } from '../reference/tether.js';
import { putUnitVector, slopeDegrees } from '../trigonometry.js';
import * as at from './layout.js';
import { numberSource } from './source.js';

/** A fact that is cheap: its slot, and the source text that works it out from a situation `s` and the input. */
export interface Cheap {
  slot: number;
  source: string;
}

/**
 * The facts of a machine that something reads, by when they are worked out: the cheap ones of the world and the
 * controls at the start of a tick; the machine's own, which change within it, whenever asked for; the expensive ones (casts,
 * room, slopes) not before an expression comes to them.
 */
export interface Senses {
  machine: Machine;
  world: World;
  layout: at.Layout;
  eager: Cheap[];
  own: Cheap[];
  lazy: (((s: Float64Array) => number) | undefined)[];
  /** The lazy slots. */
  lazySlots: number[];
  /** The tick in which each lazy fact was worked out, counted by `now` over all situations. */
  stamps: Float64Array;
  now: number;
  /** Works out a lazy fact, unless that was done in this tick. */
  ask: (slot: number) => void;
  facts: Float64Array;
  /** The copy that effects write to, once there is one. */
  copy: Float64Array;
  situation: Float64Array;
  /** Which way the body faced when the tick began. */
  facing: number;
}

/** Prepares the facts that something reads; or all, as the reference fills them. */
export function createSenses(machine: Machine, world: World, layout: at.Layout, allFacts: boolean): Senses {
  const count = machine.facts.refs.length;
  const used = usedSlots(machine);
  const senses: Senses = {
    machine,
    world,
    layout,
    eager: [],
    own: [],
    lazy: Array.from({ length: count }, () => undefined),
    lazySlots: [],
    stamps: new Float64Array(count),
    now: 0,
    ask: (slot) => {
      if (senses.stamps[slot] === senses.now) return;
      senses.stamps[slot] = senses.now;
      const value = senses.lazy[slot]!(senses.situation);
      senses.facts[slot] = value;
      senses.copy[slot] = value;
    },
    facts: new Float64Array(count),
    copy: new Float64Array(count),
    situation: new Float64Array(layout.size),
    facing: 1,
  };
  const slotFor = ({ fact, of, tag }: FactRef): number => slotOf(machine.facts, fact, of, tag);
  const into = (list: Cheap[]) => (ref: FactRef, source: string) => {
    const slot = slotFor(ref);
    if (allFacts || used.has(slot)) list.push({ slot, source });
  };
  addEager(machine, world, layout, into(senses.eager));
  addOwn(machine, layout, into(senses.own));
  addLazy(senses, (ref, read) => {
    const slot = slotFor(ref);
    senses.lazy[slot] = read;
    senses.lazySlots.push(slot);
  });
  return senses;
}

type Add = (ref: FactRef, source: string) => void;

const truth = (condition: string): string => `(${condition} ? 1 : 0)`;

/** What the controls and the contacts decide. */
function addEager(machine: Machine, world: World, layout: at.Layout, add: Add): void {
  machine.controls.forEach(({ kind, name }, i) => {
    if (kind === 'axis') add({ fact: 'axis', of: name }, `input[${i}]`);
    else if (kind === 'aim') {
      add({ fact: 'aim', of: name }, `input[${i}]`);
      add({ fact: 'aimx', of: name }, `unitVector(input[${i}]).x`);
      add({ fact: 'aimy', of: name }, `unitVector(input[${i}]).y`);
    } else {
      const before = `s[${layout.input + i}]`;
      add({ fact: 'held', of: name }, truth(`input[${i}] !== 0`));
      add({ fact: 'pressed', of: name }, truth(`input[${i}] !== 0 && ${before} === 0`));
      add({ fact: 'released', of: name }, truth(`input[${i}] === 0 && ${before} !== 0`));
    }
  });
  // Seen from above there is nothing to fall through: the body always stands.
  const aloft = machine.plane === 'above' ? 'false' : `s[${at.GROUND}] === 0`;
  add({ fact: 'grounded' }, truth(`!(${aloft})`));
  add({ fact: 'airborne' }, truth(aloft));
  add({ fact: 'rising' }, truth(`${aloft} && s[${at.VY}] > 0`));
  add({ fact: 'falling' }, truth(`${aloft} && s[${at.VY}] < 0`));
  add({ fact: 'steep' }, `s[${at.STEEP}]`);
  add({ fact: 'ceiling' }, `s[${at.CEILING}]`);
  add({ fact: 'cramped' }, `s[${at.CRAMPED}]`);
  add({ fact: 'crushed' }, `s[${at.CRUSHED}]`);
  add({ fact: 'wall' }, `s[${at.WALL}]`);
  const pushes = machine.steering.map((axis) => `input[${axis}] * s[${at.WALL}] > 0`).join(' || ');
  add({ fact: 'pushing' }, pushes === '' ? '0' : truth(pushes));
  add({ fact: 'x' }, `s[${at.X}]`);
  add({ fact: 'y' }, `s[${at.Y}]`);
  add({ fact: 'height' }, `s[${at.Y}] - s[${at.GROUND_Y}]`);
  add({ fact: 'airtime' }, `s[${at.AIR_TICKS}] * ${numberSource(machine.dt)}`);
  add({ fact: 'downhill' }, truth('downward(s) > 0'));
  add({ fact: 'uphill' }, truth('downward(s) < 0'));
  add({ fact: 'tethers' }, layout.anchors.map((first) => `s[${first}]`).join(' + ') || '0');
  add({ fact: 'tetherLength' }, 'tetherLength(s)');
  for (const tag of machine.zoneTags) {
    const zones = world.course.zones.flatMap((z, i) => (z.tag === tag ? [`s[${layout.zones + i}]`] : []));
    add(
      { fact: 'inside', of: tag },
      zones.length === 0 ? '0' : truth(`((${zones.join(' | ')}) & ${at.INSIDE}) !== 0`),
    );
  }
  machine.events.forEach((event, i) => add({ fact: 'event', of: event }, `s[${layout.events + i}]`));
}

/** What the machine itself decides: clocks, variables, states, velocity, facing. `age` is the tick to count to. */
function addOwn(machine: Machine, layout: at.Layout, add: Add): void {
  const dt = numberSource(machine.dt);
  const [vx, vy] = [`s[${at.VX}]`, `s[${at.VY}]`];
  const whole = `Math.sqrt(${vx} * ${vx} + ${vy} * ${vy})`;
  add({ fact: 'vx' }, vx);
  add({ fact: 'vy' }, vy);
  add(
    { fact: 'speed' },
    machine.plane === 'above' ? whole : `(s[${at.GROUND}] === 0 ? Math.abs(${vx}) : ${whole})`,
  );
  add({ fact: 'facing' }, `s[${at.FACING}]`);
  machine.variables.forEach(({ name }, i) =>
    add({ fact: 'variable', of: name }, `s[${layout.variables + i}]`),
  );
  machine.timers.forEach(({ name }, i) => {
    const left = `s[${layout.timers + i}]`;
    add({ fact: 'running', of: name }, truth(`${left} > 0`));
    add({ fact: 'done', of: name }, truth(`${left} === 0`));
    add({ fact: 'left', of: name }, `Math.max(${left}, 0) * ${dt}`);
  });
  machine.cooldowns.forEach(({ name }, i) => {
    add({ fact: 'charges', of: name }, `s[${layout.charges + i}]`);
    add({ fact: 'ready', of: name }, truth(`s[${layout.charges + i}] > 0`));
  });
  machine.abilities.forEach(({ name }, i) =>
    add({ fact: 'unlocked', of: name }, `s[${layout.unlocked + i}]`),
  );
  for (const { name, index, lane } of machine.states) {
    const leaf = `s[${layout.leaves + lane}]`;
    const active = `(${leavesOf(machine, index)
      .map((l) => `${leaf} === ${l}`)
      .join(' || ')})`;
    add({ fact: 'in', of: name }, truth(active));
    add({ fact: 'elapsed', of: name }, `(${active} ? (age - s[${layout.entered + index}]) * ${dt} : 0)`);
  }
  machine.lanes.forEach((lane, i) =>
    add(
      { fact: 'laneElapsed', of: lane.name },
      `(age - s[${layout.entered} + s[${layout.leaves + i}]]) * ${dt}`,
    ),
  );
}

const unit = { x: 0, y: 0 };
const centre = { x: 0, y: 0 };

/** What the sources of cheap facts call. */
export const senseHelpers = ({ machine, layout }: Senses) => ({
  unitVector: (degrees: number): typeof unit => {
    putUnitVector(degrees, unit);
    return unit;
  },
  /** How fast the body goes down a slope; 0 on level ground and aloft. */
  downward: (s: Float64Array): number =>
    s[at.GROUND] !== 0 && s[at.GROUND_NX] !== 0 && slope(s) > LEVEL ? s[at.VX]! * s[at.GROUND_NX]! : 0,
  tetherLength: (s: Float64Array): number => {
    if (!putCentre(layout, s, centre)) return 0;
    const y = s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
    return Math.sqrt((centre.x - s[at.X]!) ** 2 + (centre.y - y) ** 2);
  },
});

const slope = (s: Float64Array): number =>
  s[at.GROUND] === 0 ? 0 : slopeDegrees(s[at.GROUND_NX]!, s[at.GROUND_NY]!);

/** What must be asked of the world: probes, room for stances, what tethers catch. A probe is cast once for all its facts. */
function addLazy(senses: Senses, lazy: (ref: FactRef, read: (s: Float64Array) => number) => void): void {
  const { machine, world } = senses;
  lazy({ fact: 'slope' }, slope);
  machine.stances.forEach((stance, i) => {
    if (stance.step) return;
    lazy({ fact: 'fits', of: stance.name }, (s) => {
      const now = s[at.STANCE]!;
      return Number(i === now || fits(world, i, s[at.X]!, s[at.Y]! + anchorShift(machine, now, i)));
    });
  });
  for (const probe of machine.probes) {
    const aim = 'aim' in probe.direction ? slotOf(machine.facts, 'aim', probe.direction.aim) : -1;
    const hit = { now: -1, distance: 0, hit: false, nx: 0, ny: 0, solid: -1 };
    const cast = (s: Float64Array): typeof hit => {
      if (hit.now === senses.now) return hit;
      hit.now = senses.now;
      if ('aim' in probe.direction) putUnitVector(senses.facts[aim]!, unit);
      else {
        unit.x = probe.direction.x * senses.facing;
        unit.y = probe.direction.y;
      }
      const x = s[at.X]! + probe.x * senses.facing;
      const met = castShape(
        world,
        probe.cast,
        probe.sees,
        x,
        s[at.Y]! + probe.y,
        unit.x,
        unit.y,
        probe.reach,
      );
      hit.distance = met.distance;
      hit.hit = met.hit;
      hit.nx = met.nx;
      hit.ny = met.ny;
      hit.solid = met.solid;
      return hit;
    };
    lazy({ fact: 'probe', of: probe.name }, (s) => Number(cast(s).hit));
    lazy({ fact: 'distance', of: probe.name }, (s) => cast(s).distance);
    lazy({ fact: 'angle', of: probe.name }, (s) => (cast(s).hit ? slopeDegrees(hit.nx, hit.ny) : 0));
    for (const { probe: name, tag } of machine.tagHits)
      if (name === probe.name)
        lazy({ fact: 'hits', of: name, tag }, (s) =>
          Number(cast(s).hit && world.course.solids[hit.solid]!.tag === tag),
        );
  }
  const hold = { x: 0, y: 0, mover: -1 };
  for (const tether of machine.tethers)
    lazy({ fact: 'catches', of: tether.name }, (s) => {
      hold.x = s[at.X]!;
      hold.y = s[at.Y]! + middleOfStance(machine, s[at.STANCE]!);
      return Number(putCatch(machine, world, tether, senses.facts, hold));
    });
}

/** How far above the feet the middle of a stance is (m). */
export const middleOfStance = (machine: Machine, stance: number): number => {
  const { bottom, top } = machine.stances[stance]!;
  return (bottom + top) / 2;
};

export function countAnchors(layout: at.Layout, s: Float64Array): number {
  let count = 0;
  for (let i = 0; i < layout.anchors.length; i++) count += s[layout.anchors[i]!]!;
  return count;
}

/** The centre of all anchors that hold, into `centre`; false when none does. */
export function putCentre(layout: at.Layout, s: Float64Array, centre: { x: number; y: number }): boolean {
  const count = countAnchors(layout, s);
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

/** Every slot that is read by an expression, or by the machine itself. */
function usedSlots(machine: Machine): Set<number> {
  const slots = new Set(allExpressions(machine).flatMap(slotsIn));
  for (const { name } of machine.abilities) slots.add(slotOf(machine.facts, 'unlocked', name));
  for (const { name, kind } of machine.controls) {
    if (kind === 'aim') slots.add(slotOf(machine.facts, 'aim', name));
    if (kind === 'axis') slots.add(slotOf(machine.facts, 'axis', name));
  }
  return slots;
}
