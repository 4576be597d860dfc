import { present } from '../../../present.js';
import {
  allEffects,
  chainOf,
  type Crossing,
  DEFAULT_GROUND,
  type Effect,
  effectsBetween,
  leafFrom,
  type Machine,
} from '../../../machine/index.js';
import type { Expression } from '../../../notation/index.js';
import { boundOf, canHold, formulaOf, highestOf, lowestOf, truth } from '../../../solver/index.js';
import type { Course, GroundRule } from '../../../world/index.js';
import { sourcesOf, targetsOf } from '../guard.js';

/** How far a body rises. */
export interface Rise {
  /** Above what it last stood on, by everything that may happen before it stands again (m). */
  height: number;
  /** The greatest speed sideways (m/s) for which that holds: a slope, or the edge of something, turns it upward. */
  sideways: number;
}

/**
 * How far a body can rise on a course above what it last stood on, or undefined when nothing known bounds it.
 *
 * With upward speeds of at most v and a pull of at least g while it rises, a body comes no more than v²/2g higher. What
 * the ground throws it up with counts once. A launch whose guard asks for ground within some time may add what is risen
 * in that time at v. Every other launch adds a v²/2g of its own, as often as one flight can have it: as often as the
 * count holds that it spends, and only ground gives back; or once, where its lane comes back to it only from the ground.
 * A launch without such an end, a hold or a pull upward, a line to climb, winds as strong as gravity, and movers, have
 * no bound.
 */
export function riseOn(machine: Machine, course: Course): Rise | undefined {
  const pull = machine.plane === 'above' ? 0 : leastPull(machine) - strongestLift(machine, course);
  if (!(pull > 0) || course.movers.length > 0 || mayClimb(machine, course)) return undefined;
  const sideways = sidewaysOn(machine, course);
  // Moved by the velocity before each tick's pull, a body comes half a tick of its first speed higher, and rounding of ticks.
  const early = machine.integration === 'explicit' ? machine.dt : 0;
  const heightOf = (speed: number): number => (speed * speed) / (2 * pull) + speed * early;
  const launches = launchesOf(machine, heightOf);
  if (launches === undefined || sideways === undefined) return undefined;
  // Along the steepest walkable ground, as much of a speed as the sine of its angle is upward.
  const slanted =
    sideways * Math.max(...groundRulesOf(machine).map(({ walkable: c }) => Math.sqrt(1 - c * c)));
  const thrown = Math.max(0, ...course.zones.map((z) => z.launch?.y ?? 0));
  const fromGround = Math.max(slanted, thrown, launches.fromGround);
  const late = Math.max(fromGround, launches.fastest) * (launches.late + 2 * machine.dt);
  const step = Math.max(...groundRulesOf(machine).map((g) => g.step));
  const height = heightOf(fromGround) + launches.aloft + late + step;
  return Number.isFinite(height) ? { height, sideways } : undefined;
}

/** Everything that counts as ground in some state. */
export const groundRulesOf = (machine: Machine): GroundRule[] => [
  DEFAULT_GROUND,
  ...machine.states.flatMap(({ motion }) => (motion.ground === undefined ? [] : [motion.ground])),
];

/** The least that gravity pulls at what rises (m/s²); it may be negative. */
function leastPull(machine: Machine): number {
  const scales = machine.states.flatMap(({ motion: { gravity } }) =>
    gravity === undefined
      ? []
      : [
          lowestOf(machine, gravity.rising, 1),
          lowestOf(machine, gravity.cut?.scale, 1),
          // One that lifts what falls makes it rise again.
          lowestOf(machine, gravity.falling, 1) < 0 ? -1 : 1,
        ],
  );
  return machine.gravity * Math.min(1, ...scales);
}

/** The most that pushes of all lanes and winds of all zones lift together (m/s²). */
function strongestLift(machine: Machine, course: Course): number {
  const pushes = machine.lanes.map((lane) =>
    Math.max(0, ...lane.states.map((s) => highestOf(machine, present(machine.states[s]).motion.push?.y))),
  );
  const winds = course.zones.map((z) => Math.max(0, z.wind?.y ?? 0));
  return [...pushes, ...winds].reduce((sum, a) => sum + a, 0);
}

/** Whether something may carry the body upward that no pull slows: a hold, a line, a drag that speeds up. */
function mayClimb(machine: Machine, course: Course): boolean {
  const isCaught = machine.tethers.some(({ sees }) => course.anchors.some((a) => sees.includes(a.tag)));
  return machine.states.some(
    ({ motion }) =>
      (isCaught && motion.tether !== undefined) ||
      highestOf(machine, motion.hold?.vy) > 0 ||
      lowestOf(machine, motion.drag) < 0 ||
      lowestOf(machine, motion.ground?.slip) < 0,
  );
}

/** What throws the body upward. */
interface Launches {
  /** The fastest that needs ground (m/s), and how long ago the ground may have been (s). */
  fromGround: number;
  late: number;
  /** What all others of one flight add to its height (m), and the fastest of all (m/s). */
  aloft: number;
  fastest: number;
}

/** A crossing that a lane may take without having stood before, and how much higher its launch brings the body (m). */
interface Edge {
  from: number;
  to: number;
  adds: number;
}

function launchesOf(machine: Machine, heightOf: (speed: number) => number): Launches | undefined {
  const found: Launches = { fromGround: 0, late: 0, aloft: 0, fastest: 0 };
  const byCount = new Map<number, number>();
  const aloft: Effect[] = machine.states.flatMap(({ each }) => each);
  const upward = (effects: readonly Effect[]): number =>
    Math.max(0, ...effects.map((e) => speedOf(machine, e)));
  // What is done in every tick of a state, and lifts, has no end.
  if (upward(aloft) > 0) return undefined;
  for (const lane of machine.lanes) {
    for (const state of chainOf(machine, leafFrom(machine, lane.initial)))
      found.fromGround = Math.max(found.fromGround, upward(present(machine.states[state]).enter));
    const edges: Edge[] = [];
    for (const crossing of lane.crossings) {
      const since = sinceGround(machine, crossing.when);
      for (const from of sourcesOf(machine, crossing))
        for (const to of targetsOf(machine, crossing)) {
          const effects = effectsBetween(machine, from, crossing, to).map((e) => e.effect);
          const speed = upward(effects);
          found.fastest = Math.max(found.fastest, speed);
          if (since !== undefined) {
            found.late = Math.max(found.late, since);
            found.fromGround = Math.max(found.fromGround, speed);
            continue;
          }
          aloft.push(...effects);
          const count = speed > 0 ? countSpent(machine, crossing, effects) : undefined;
          edges.push({ from, to, adds: count === undefined ? heightOf(speed) : 0 });
          if (count !== undefined) byCount.set(count, Math.max(speed, byCount.get(count) ?? 0));
        }
    }
    found.aloft += mostAlong(edges);
  }
  for (const [count, speed] of byCount) {
    const { refill, max } = present(machine.variables[count]);
    const since = refill === undefined ? 0 : sinceGround(machine, refill);
    if (since === undefined || aloft.some((e) => givesBack(machine, e, count))) return undefined;
    found.late = Math.max(found.late, since);
    found.aloft += max * heightOf(speed);
  }
  return found;
}

/** The most that one way along edges adds; infinite when a launch leads back to itself. */
function mostAlong(edges: readonly Edge[]): number {
  const max = new Map<number, number>();
  const launches = edges.filter((e) => e.adds > 0).length;
  // Launches that are on no ring are passed once each, so what comes after has settled when each was looked at.
  const rounds = (launches + 1) * (edges.length + 1);
  for (let i = 0; i <= rounds; i++) {
    let settled = true;
    for (const { from, to, adds } of edges) {
      const total = adds + (max.get(to) ?? 0);
      if (total <= (max.get(from) ?? 0)) continue;
      max.set(from, total);
      settled = false;
    }
    if (settled) return Math.max(0, ...max.values());
  }
  return Infinity;
}

/** The greatest upward speed that an effect gives; 0 for one that only slows. */
function speedOf(machine: Machine, effect: Effect): number {
  if (effect.kind !== 'velocity' || effect.channel !== 'vy') return 0;
  const { op, value } = effect;
  if (op === ':=') return isNoFaster(machine, value) ? 0 : Math.max(0, highestOf(machine, value));
  const added = op === '+=' ? highestOf(machine, value) : -lowestOf(machine, value);
  return added > 0 ? Infinity : 0;
}

/** Whether a value is vy itself or a part of it, or not upward: what it is written to rises no faster than before. */
function isNoFaster(machine: Machine, e: Expression): boolean {
  if (highestOf(machine, e) <= 0) return true;
  if (e.kind === 'fact') return e.ref.fact === 'vy';
  if (e.kind === 'choice') return isNoFaster(machine, e.then) && isNoFaster(machine, e.otherwise);
  if (e.kind === 'function' && e.name === 'min') return e.args.some((arg) => isNoFaster(machine, arg));
  if (e.kind !== 'arithmetic' || (e.op !== '*' && e.op !== '/')) return false;
  const isShare = (by: Expression): boolean =>
    by.kind === 'constant' && by.value >= 0 && (e.op === '*' ? by.value <= 1 : by.value >= 1);
  return (
    (isNoFaster(machine, e.left) && isShare(e.right)) ||
    (e.op === '*' && isNoFaster(machine, e.right) && isShare(e.left))
  );
}

/** Whether an effect may make a count larger. */
const givesBack = (machine: Machine, effect: Effect, count: number): boolean =>
  effect.kind === 'refill'
    ? effect.what === 'count' && effect.index === count
    : effect.kind === 'variable' &&
      effect.variable === count &&
      !(effect.op === '-=' && lowestOf(machine, effect.value) >= 0);

/** The count that a crossing asks for and spends; undefined when there is none. */
function countSpent(machine: Machine, { when }: Crossing, effects: readonly Effect[]): number | undefined {
  const spends = effects.find(
    (e) =>
      e.kind === 'spend' &&
      e.what === 'count' &&
      when !== undefined &&
      !canHold(machine, [
        formulaOf(when),
        boundOf('variable', present(machine.variables[e.index]).name, '<', 1),
      ]),
  );
  return spends?.kind === 'spend' ? spends.index : undefined;
}

/** How long ago the body stood when a guard holds, at most (s); undefined when the guard does not say. */
function sinceGround(machine: Machine, e: Expression | undefined): number | undefined {
  if (e === undefined) return undefined;
  if (!canHold(machine, [formulaOf(e), truth('airborne')])) return 0;
  if (e.kind === 'memory') {
    const since = sinceGround(machine, e.of);
    return since === undefined ? undefined : since + (e.mode === 'within' ? e.ticks * machine.dt : 0);
  }
  if (e.kind !== 'logic') return undefined;
  const known = e.parts.map((part) => sinceGround(machine, part));
  const times = known.filter((t) => t !== undefined);
  if (e.op === 'and') return times.length === 0 ? undefined : Math.min(...times);
  return times.length < known.length ? undefined : Math.max(...times);
}

/** The greatest speed sideways that drives, holds, writes and zones give by themselves; undefined when nothing bounds it. */
function sidewaysOn(machine: Machine, course: Course): number | undefined {
  const sizeOf = (e: Expression | undefined): number =>
    Math.max(highestOf(machine, e), -lowestOf(machine, e));
  const written = allEffects(machine).map((e) =>
    e.kind !== 'velocity' || e.channel !== 'vx' || isKept(e.value)
      ? 0
      : e.op === ':='
        ? sizeOf(e.value)
        : Infinity,
  );
  const moved = machine.states.map(({ motion: { drive, hold, push } }) =>
    push?.x !== undefined || push?.downhill !== undefined
      ? Infinity
      : Math.max(sizeOf(drive?.to), isKept(hold?.vx) ? 0 : sizeOf(hold?.vx)),
  );
  const blown = course.zones.map((z) => ((z.wind?.x ?? 0) === 0 ? Math.abs(z.launch?.x ?? 0) : Infinity));
  const max = Math.max(0, ...written, ...moved, ...blown);
  return Number.isFinite(max) ? max : undefined;
}

/** Whether a value is vx itself: writing it changes nothing. */
const isKept = (e: Expression | undefined): boolean => e?.kind === 'fact' && e.ref.fact === 'vx';
