import { castShape, fits, type World } from '../world/index.js';
import { chainOf, type Machine } from './definition.js';
import { catchOf, centreOf, middleOf } from './tether.js';
import { slopeDegrees, unitVector } from './trigonometry.js';
import { leafElapsed } from './lanes.js';
import { anchorShift, type Situation } from './situation.js';

/** Ground flatter than this counts as level for `downhill` and `uphill` (degrees). */
export const LEVEL = 1;

/** Fills the facts that the world and the controls decide. `input` is one number a control, in file order. */
export function sense(
  machine: Machine,
  world: World,
  s: Situation,
  input: readonly number[],
  facts: Float64Array,
): void {
  const put = (key: string, value: number | boolean): void => {
    facts[machine.facts.slots.get(key)!] = Number(value);
  };
  machine.controls.forEach((control, i) => {
    const now = input[i] ?? 0;
    if (control.kind === 'axis') put(`axis(${control.name})`, now);
    else if (control.kind === 'aim') {
      const { x, y } = unitVector(now);
      put(`aim(${control.name})`, now);
      put(`aimx(${control.name})`, x);
      put(`aimy(${control.name})`, y);
    } else {
      const before = s.input[i]! !== 0;
      put(`held(${control.name})`, now !== 0);
      put(`pressed(${control.name})`, now !== 0 && !before);
      put(`released(${control.name})`, now === 0 && before);
    }
  });
  const { ground, steep, wall, ceiling } = s.footing;
  const { x, y, vx, vy } = s.body;
  // Seen from above there is nothing to fall through: the body always stands.
  const above = machine.plane === 'above';
  const grounded = above || ground !== undefined;
  const slope = ground !== undefined ? slopeDegrees(ground.nx, ground.ny) : 0;
  // Downhill is where the surface's normal leans to.
  const downward = ground !== undefined && slope > LEVEL ? vx * ground.nx : 0;
  put('grounded', grounded);
  put('airborne', !grounded);
  put('rising', !grounded && vy > 0);
  put('falling', !grounded && vy < 0);
  put('steep', steep !== undefined);
  put('ceiling', ceiling);
  put('cramped', s.wanted !== s.stance);
  put('downhill', downward > 0);
  put('uphill', downward < 0);
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  put('pushing', wall !== 0 && steering >= 0 && (input[steering] ?? 0) * wall > 0);
  put('wall', wall);
  put('x', x);
  put('y', y);
  put('height', y - s.groundY);
  put('slope', slope);
  put('airtime', s.airTicks * machine.dt);
  machine.stances.forEach((stance, i) => {
    if (stance.step) return;
    const room = i === s.stance || fits(world, i, x, y + anchorShift(machine, s.stance, i));
    put(`fits(${stance.name})`, room);
  });
  for (const probe of machine.probes) {
    const direction =
      'aim' in probe.direction
        ? unitVector(facts[machine.facts.slots.get(probe.direction.aim)!]!)
        : { x: probe.direction.x * s.facing, y: probe.direction.y };
    const hit = castShape(
      world,
      probe.cast,
      probe.sees,
      x + probe.x * s.facing,
      y + probe.y,
      direction.x,
      direction.y,
      probe.reach,
    );
    put(`probe(${probe.name})`, hit.hit);
    put(`distance(${probe.name})`, hit.distance);
    put(`angle(${probe.name})`, hit.hit ? slopeDegrees(hit.nx, hit.ny) : 0);
    for (const { tag } of machine.tagHits.filter((pair) => pair.probe === probe.name)) {
      put(`hits(${probe.name}, ${tag})`, hit.hit && world.course.solids[hit.solid]!.tag === tag);
    }
  }
  const centre = centreOf(s);
  const middle = middleOf(machine, s);
  put('crushed', s.crushed);
  put(
    'tethers',
    s.anchors.reduce((sum, held) => sum + held.length, 0),
  );
  put(
    'tetherLength',
    centre === undefined ? 0 : Math.sqrt((centre.x - middle.x) ** 2 + (centre.y - middle.y) ** 2),
  );
  for (const tether of machine.tethers)
    put(`catches(${tether.name})`, catchOf(machine, world, s, tether, facts) !== undefined);
  for (const key of machine.zoneTags)
    put(
      `inside(${key})`,
      s.zones.some((z) => world.course.zones[z]!.tag === key),
    );
  machine.events.forEach((event, i) => put(`event(${event})`, s.events[i]!));
  senseOwn(machine, s, facts);
}

/** Fills the facts that the machine itself decides: clocks, variables, states, velocity, facing. */
export function senseOwn(machine: Machine, s: Situation, facts: Float64Array): void {
  const put = (key: string, value: number | boolean): void => {
    facts[machine.facts.slots.get(key)!] = Number(value);
  };
  const { vx, vy } = s.body;
  put('vx', vx);
  put('vy', vy);
  put(
    'speed',
    s.footing.ground === undefined && machine.plane === 'side' ? Math.abs(vx) : Math.sqrt(vx * vx + vy * vy),
  );
  put('facing', s.facing);
  machine.variables.forEach((variable, i) => put(variable.name, s.variables[i]!));
  machine.timers.forEach((timer, i) => {
    const left = s.timers[i]!;
    put(`running(${timer.name})`, left > 0);
    put(`done(${timer.name})`, left === 0);
    put(`left(${timer.name})`, Math.max(left, 0) * machine.dt);
  });
  machine.cooldowns.forEach((cooldown, i) => {
    put(`charges(${cooldown.name})`, s.cooldowns[i]!.charges);
    put(`ready(${cooldown.name})`, s.cooldowns[i]!.charges > 0);
  });
  machine.abilities.forEach((ability, i) => put(`unlocked(${ability.name})`, s.unlocked[i]!));
  const active = new Set(s.leaves.flatMap((leaf) => chainOf(machine, leaf)));
  for (const state of machine.states) {
    put(`in(${state.name})`, active.has(state.index));
    put(`elapsed@${state.name}`, active.has(state.index) ? s.elapsed[state.index]! * machine.dt : 0);
  }
  machine.lanes.forEach((lane, i) => put(leafElapsed(lane), s.elapsed[s.leaves[i]!]! * machine.dt));
}
