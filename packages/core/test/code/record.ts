import { type Fast, type Machine, place as at } from '@glenmark/core/machine';
import { createFast, startFast } from '@glenmark/core/machine';
import { type Course, buildWorld, placeMovers } from '@glenmark/core/world';
import { putCatch } from '../../src/machine/reference/tether.js';
import { move, placeDropped } from '../../src/machine/running/move.js';
import { beginTick } from '../../src/machine/running/senses.js';
import type { Member, Outline } from '@glenmark/core/code';

/** Zones that the generated code has room for. */
export const ZONES = 8;

/** What a game senses in each tick of a run, and what the machine makes of it: what generated code must make, too. */
export interface Recorded {
  /** Which way the body faces at the start. */
  facing: number;
  /** By tick: controls, senses, where tethers would hold, zones, velocity, anchors; see `columnsOf`. */
  given: number[][];
  /** By tick: what changes of a character, and the anchors. */
  expected: number[][];
}

/** A value that goes in before a tick, or comes out after it. */
export type Column =
  | { what: 'member'; member: Member }
  | { what: 'catch'; tether: number; part: 'x' | 'y' | 'on' }
  | { what: 'anchor'; tether: number; index: number; part: 'x' | 'y' | 'on' }
  | { what: 'zoneCount' }
  | { what: 'zone'; index: number; part: 'windX' | 'windY' | 'drag' };

const AXES = ['x', 'y', 'on'] as const;

/** Which values go into a tick of generated code, and which come out of it. */
export function columnsOf(outline: Outline): { given: Column[]; expected: Column[] } {
  const { used, members, machine, anchorPlaces } = outline;
  const member = (m: Member): Column => ({ what: 'member', member: m });
  const held = outline.cast.map((tether) => ({ tether, most: machine.tethers[tether]!.most }));
  const anchors = held.flatMap(({ tether, most }) =>
    Array.from({ length: most + 1 }, (_, index) =>
      AXES.map((part): Column => ({ what: 'anchor', tether, index, part })),
    ).flat(),
  );
  const counts = held.map(({ tether }) => member(members.fields.get(anchorPlaces[tether]!)!));
  const velocity = [at.VX, at.VY].map((place) => member(members.fields.get(place)!));
  return {
    given: [
      ...used.inputs.map(member),
      ...used.senses.map(member),
      ...held.flatMap(({ tether }) => AXES.map((part): Column => ({ what: 'catch', tether, part }))),
      { what: 'zoneCount' },
      ...Array.from({ length: ZONES }, (_, index) =>
        (['windX', 'windY', 'drag'] as const).map((part): Column => ({ what: 'zone', index, part })),
      ).flat(),
      ...velocity,
      ...counts,
      ...anchors,
    ],
    expected: [
      ...used.situation.filter((m) => isExpected(outline, m)).map(member),
      ...anchors.filter((a) => a.what === 'anchor' && a.part !== 'on'),
    ],
  };
}

/** What the machine has no number for: it keeps the first two elsewhere, and tells the others to nobody. */
const isExpected = ({ members }: Outline, m: Member): boolean =>
  ![at.AIR_TICKS, at.GROUND_Y, members.beyond.gravityScale, members.beyond.drops].some(
    (place) => members.fields.get(place) === m,
  );

/** Plays inputs on the fast machine and records both sides of its ticks. */
export function record(
  machine: Machine,
  course: Course,
  start: { x: number; y: number; facing: 1 | -1 },
  inputs: readonly (readonly number[])[],
  outline: Outline,
): Recorded {
  const world = buildWorld(course, machine.stances, machine.casts);
  const fast = createFast(machine, world, { allFacts: true });
  const s = startFast(fast, start);
  const { given, expected } = columnsOf(outline);
  const recorded: Recorded = { facing: start.facing, given: [], expected: [] };
  for (const input of inputs) {
    placeMovers(world, s[at.TICK]! * machine.dt);
    placeDropped(fast, s);
    beginTick(fast.senses, s);
    const sensed = sensesOf(fast, s, input, outline);
    recorded.given.push(given.map((c) => sensed(c)));
    beginTick(fast.senses, s);
    fast.takenCount = 0;
    fast.run(s, fast.facts, input);
    recorded.expected.push(expected.map((c) => valueAfter(fast, s, c, outline)));
    move(fast, s);
  }
  return recorded;
}

/** What a game would sense of a situation, by column. */
function sensesOf(
  fast: Fast,
  s: Float64Array,
  input: readonly number[],
  { members }: Outline,
): (column: Column) => number {
  const { machine, world, layout, facts, senses } = fast;
  // Probes and tethers are cast along the aim, which the program finds first.
  machine.controls.forEach(({ kind, name }, i) => {
    if (kind === 'aim') facts[machine.facts.slots.get(`aim(${name})`)!] = input[i]!;
  });
  const asked = new Map([...members.beyond.asked].map(([slot, place]) => [members.fields.get(place)!, slot]));
  const places = new Map([...members.fields].map(([place, member]) => [member, place]));
  const zones = world.course.zones;
  const isIn = (z: number): boolean => (s[layout.zones + z]! & at.INSIDE) !== 0;
  const blowing = zones.flatMap((zone, z) =>
    isIn(z) && (zone.wind !== undefined || zone.drag > 0)
      ? [{ windX: zone.wind?.x ?? 0, windY: zone.wind?.y ?? 0, drag: zone.drag }]
      : [],
  );
  const launch = zones.filter(
    (zone, z) => isIn(z) && zone.launch !== undefined && (s[layout.zones + z]! & at.LAUNCHED) === 0,
  );
  const last = launch[launch.length - 1]?.launch;
  const catches = machine.tethers.map((tether) => {
    const { bottom, top } = machine.stances[s[at.STANCE]!]!;
    const hold = { x: s[at.X]!, y: s[at.Y]! + (bottom + top) / 2, mover: -1 };
    return putCatch(machine, world, tether, facts, hold) ? hold : undefined;
  });
  const { bottom, top } = machine.stances[s[at.STANCE]!]!;
  const special = new Map<Member, number>([
    [members.fields.get(members.beyond.launched)!, Number(last !== undefined)],
    [members.fields.get(members.beyond.launchX)!, last?.x ?? 0],
    [members.fields.get(members.beyond.launchY)!, last?.y ?? 0],
    [members.fields.get(members.beyond.middle)!, s[at.Y]! + (bottom + top) / 2],
    ...machine.abilities.map(({ name }, i): [Member, number] => [
      members.fields.get(members.beyond.gives[i]!)!,
      Number(zones.some((zone, z) => isIn(z) && zone.unlocks === name)),
    ]),
  ]);
  return (column) => {
    switch (column.what) {
      case 'member': {
        const { member } = column;
        if (member.owner === 'inputs') return input[members.inputs.indexOf(member)]!;
        const slot = asked.get(member);
        if (slot !== undefined) {
          senses.ask(slot);
          return facts[slot]!;
        }
        return special.get(member) ?? s[places.get(member)!]!;
      }
      case 'catch': {
        const hold = catches[column.tether];
        return hold === undefined ? 0 : column.part === 'on' ? hold.mover : hold[column.part];
      }
      case 'anchor':
        return anchorIn(s, layout.anchors[column.tether]!, column);
      case 'zoneCount':
        return blowing.length;
      case 'zone':
        return blowing[column.index]?.[column.part] ?? 0;
    }
  };
}

const anchorIn = (
  s: Float64Array,
  first: number,
  { index, part }: { index: number; part: 'x' | 'y' | 'on' },
): number => (index < s[first]! ? s[first + 1 + 3 * index + AXES.indexOf(part)]! : 0);

/** What the machine has after its decisions, and before the move. */
function valueAfter({ layout }: Fast, s: Float64Array, column: Column, { members }: Outline): number {
  if (column.what === 'anchor') {
    const first = layout.anchors[column.tether]!;
    // What lies beyond the anchors that hold means nothing.
    return column.index < s[first]! ? anchorIn(s, first, column) : NaN;
  }
  if (column.what !== 'member') throw new RangeError(`a tick does not change ${column.what}`);
  const lane = members.beyond.laneSince.findIndex((place) => members.fields.get(place) === column.member);
  if (lane >= 0) return s[layout.entered + s[layout.leaves + lane]!]!;
  for (const [place, member] of members.fields)
    if (member === column.member && place < machineSize(layout)) return s[place]!;
  throw new RangeError(`nobody knows ${column.member.words}`);
}

const machineSize = ({ size }: { size: number }): number => size;
