import { present } from '../../present.js';
import { LEVEL } from '../../tolerances.js';
import type { FactName } from '../../notation/index.js';
import { castShape, fits, type World } from '../../world/index.js';
import { chainOf, type Machine } from '../definition/machine.js';
import { catchOf, centreOf, middleOf } from './tether.js';
import { slopeDegrees, unitVector } from '../trigonometry.js';
import { slotOf } from '../definition/facts.js';
import { anchorShift, type Situation } from './situation.js';

/** Fills the facts that the world and the controls decide. `input` is one number a control, in file order. */
export function sense(
  machine: Machine,
  world: World,
  s: Situation,
  input: readonly number[],
  facts: Float64Array,
): void {
  const put = (fact: FactName, value: number | boolean, of?: string, tag?: string): void => {
    facts[slotOf(machine.facts, fact, of, tag)] = Number(value);
  };
  machine.controls.forEach((control, i) => {
    const now = input[i] ?? 0;
    if (control.kind === 'axis') put('axis', now, control.name);
    else if (control.kind === 'aim') {
      const { x, y } = unitVector(now);
      put('aim', now, control.name);
      put('aimx', x, control.name);
      put('aimy', y, control.name);
    } else {
      const before = present(s.input[i]) !== 0;
      put('held', now !== 0, control.name);
      put('pressed', now !== 0 && !before, control.name);
      put('released', now === 0 && before, control.name);
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
  put('cramped', s.cramped);
  put('downhill', downward > 0);
  put('uphill', downward < 0);
  put(
    'pushing',
    machine.steering.some((axis) => (input[axis] ?? 0) * wall > 0),
  );
  put('wall', wall);
  put('x', x);
  put('y', y);
  put('height', y - s.groundY);
  put('slope', slope);
  put('airtime', s.airTicks * machine.dt);
  machine.stances.forEach((stance, i) => {
    if (stance.step) return;
    const room = i === s.stance || fits(world, i, x, y + anchorShift(machine, s.stance, i));
    put('fits', room, stance.name);
  });
  for (const probe of machine.probes) {
    const direction =
      'aim' in probe.direction
        ? unitVector(present(facts[slotOf(machine.facts, 'aim', probe.direction.aim)]))
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
    put('probe', hit.hit, probe.name);
    put('distance', hit.distance, probe.name);
    put('angle', hit.hit ? slopeDegrees(hit.nx, hit.ny) : 0, probe.name);
    for (const { tag } of machine.tagHits.filter((pair) => pair.probe === probe.name)) {
      put('hits', hit.hit && present(world.course.solids[hit.solid]).tag === tag, probe.name, tag);
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
    put('catches', catchOf(machine, world, s, tether, facts) !== undefined, tether.name);
  for (const tag of machine.zoneTags)
    put(
      'inside',
      s.zones.some((z) => present(world.course.zones[z]).tag === tag),
      tag,
    );
  machine.events.forEach((event, i) => put('event', present(s.events[i]), event));
  senseOwn(machine, s, facts);
}

/** Fills the facts that the machine itself decides: clocks, variables, states, velocity, facing. */
export function senseOwn(machine: Machine, s: Situation, facts: Float64Array): void {
  const put = (fact: FactName, value: number | boolean, of?: string, tag?: string): void => {
    facts[slotOf(machine.facts, fact, of, tag)] = Number(value);
  };
  const { vx, vy } = s.body;
  put('vx', vx);
  put('vy', vy);
  put(
    'speed',
    s.footing.ground === undefined && machine.plane === 'side' ? Math.abs(vx) : Math.sqrt(vx * vx + vy * vy),
  );
  put('facing', s.facing);
  machine.variables.forEach((variable, i) => put('variable', present(s.variables[i]), variable.name));
  machine.timers.forEach((timer, i) => {
    const left = present(s.timers[i]);
    put('running', left > 0, timer.name);
    put('done', left === 0, timer.name);
    put('left', Math.max(left, 0) * machine.dt, timer.name);
  });
  machine.cooldowns.forEach((cooldown, i) => {
    put('charges', present(s.cooldowns[i]).charges, cooldown.name);
    put('ready', present(s.cooldowns[i]).charges > 0, cooldown.name);
  });
  machine.abilities.forEach((ability, i) => put('unlocked', present(s.unlocked[i]), ability.name));
  const active = new Set(s.leaves.flatMap((leaf) => chainOf(machine, leaf)));
  for (const state of machine.states) {
    put('in', active.has(state.index), state.name);
    put('elapsed', active.has(state.index) ? present(s.elapsed[state.index]) * machine.dt : 0, state.name);
  }
  machine.lanes.forEach((lane, i) =>
    put('laneElapsed', present(s.elapsed[present(s.leaves[i])]) * machine.dt, lane.name),
  );
}
