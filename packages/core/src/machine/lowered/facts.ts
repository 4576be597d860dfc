import type { FactRef } from '../../notation/index.js';
import { slotOf } from '../definition/facts.js';
import { leavesOf, type Machine } from '../definition/machine.js';
import * as at from './layout.js';
import type { Layout } from './layout.js';
import type { Term } from './program.js';
import {
  all,
  any,
  choice,
  compare,
  element,
  field,
  input,
  is,
  isNot,
  minus,
  not,
  number,
  operation,
  plus,
  sense,
  times,
} from './terms.js';

/**
 * Where a fact comes from: found at the start of a tick from the controls and what the last move has left; the machine's
 * own, which its clocks change; or asked of the world, which is expensive.
 */
export type FactSource = { when: 'start' | 'own'; value: Term } | { when: 'asked' };

/** Where each fact of a machine comes from, by slot. Times in a state are counted up to the tick `now`. */
export function sourcesOf(machine: Machine, layout: Layout, now: Term): (FactSource | undefined)[] {
  const sources: (FactSource | undefined)[] = machine.facts.refs.map(() => undefined);
  const put =
    (when: 'start' | 'own') =>
    (ref: FactRef, value: Term): void => {
      sources[slotOf(machine.facts, ref.fact, ref.of, ref.tag)] = { when, value };
    };
  putControls(machine, layout, put('start'));
  putBody(machine, layout, put('start'));
  putOwn(machine, layout, now, put('own'));
  machine.facts.refs.forEach((ref, slot) => {
    if (ref !== undefined) sources[slot] ??= { when: 'asked' };
  });
  return sources;
}

type Put = (ref: FactRef, value: Term) => void;

function putControls(machine: Machine, layout: Layout, put: Put): void {
  machine.controls.forEach(({ kind, name }, i) => {
    const now = input(i);
    if (kind === 'axis') put({ fact: 'axis', of: name }, now);
    else if (kind === 'aim') {
      put({ fact: 'aim', of: name }, now);
      put({ fact: 'aimx', of: name }, sense('aimX', now));
      put({ fact: 'aimy', of: name }, sense('aimY', now));
    } else {
      const before = field(layout.input + i);
      put({ fact: 'held', of: name }, isNot(now, 0));
      put({ fact: 'pressed', of: name }, all(isNot(now, 0), is(before, 0)));
      put({ fact: 'released', of: name }, all(is(now, 0), isNot(before, 0)));
    }
  });
}

/** What the last move has left. */
function putBody(machine: Machine, layout: Layout, put: Put): void {
  // Seen from above there is nothing to fall through: the body always stands.
  const aloft = machine.plane === 'above' ? any() : is(field(at.GROUND), 0);
  const [x, y, vy] = [field(at.X), field(at.Y), field(at.VY)];
  put({ fact: 'grounded' }, not(aloft));
  put({ fact: 'airborne' }, aloft);
  put({ fact: 'rising' }, all(aloft, compare(vy, '>', number(0))));
  put({ fact: 'falling' }, all(aloft, compare(vy, '<', number(0))));
  put({ fact: 'steep' }, field(at.STEEP));
  put({ fact: 'ceiling' }, field(at.CEILING));
  put({ fact: 'cramped' }, field(at.CRAMPED));
  put({ fact: 'crushed' }, field(at.CRUSHED));
  put({ fact: 'wall' }, field(at.WALL));
  const pushes = machine.steering.map((axis) => compare(times(input(axis), field(at.WALL)), '>', number(0)));
  put({ fact: 'pushing' }, any(...pushes));
  put({ fact: 'x' }, x);
  put({ fact: 'y' }, y);
  put({ fact: 'height' }, minus(y, field(at.GROUND_Y)));
  put({ fact: 'airtime' }, times(field(at.AIR_TICKS), number(machine.dt)));
  put({ fact: 'downhill' }, compare(sense('downward'), '>', number(0)));
  put({ fact: 'uphill' }, compare(sense('downward'), '<', number(0)));
  const held = layout.anchors.map((first): Term => field(first));
  put({ fact: 'tethers' }, held.length === 0 ? number(0) : held.reduce(plus));
  put({ fact: 'tetherLength' }, sense('tetherLength'));
  machine.events.forEach((event, i) => put({ fact: 'event', of: event }, field(layout.events + i)));
}

/** What the machine itself decides: clocks, variables, states, velocity, facing. */
function putOwn(machine: Machine, layout: Layout, now: Term, put: Put): void {
  const dt = number(machine.dt);
  const [vx, vy] = [field(at.VX), field(at.VY)];
  const whole = operation('sqrt', plus(times(vx, vx), times(vy, vy)));
  const aloft = is(field(at.GROUND), 0);
  put({ fact: 'vx' }, vx);
  put({ fact: 'vy' }, vy);
  put({ fact: 'speed' }, machine.plane === 'above' ? whole : choice(aloft, operation('abs', vx), whole));
  put({ fact: 'facing' }, field(at.FACING));
  machine.variables.forEach(({ name }, i) =>
    put({ fact: 'variable', of: name }, field(layout.variables + i)),
  );
  machine.timers.forEach(({ name }, i) => {
    const left = field(layout.timers + i);
    put({ fact: 'running', of: name }, compare(left, '>', number(0)));
    put({ fact: 'done', of: name }, is(left, 0));
    put({ fact: 'left', of: name }, times(operation('max', left, number(0)), dt));
  });
  machine.cooldowns.forEach(({ name }, i) => {
    const charges = field(layout.charges + i);
    put({ fact: 'charges', of: name }, charges);
    put({ fact: 'ready', of: name }, compare(charges, '>', number(0)));
  });
  machine.abilities.forEach(({ name }, i) => put({ fact: 'unlocked', of: name }, field(layout.unlocked + i)));
  const since = (entered: Term): Term => times(minus(now, entered), dt);
  for (const { name, index, lane } of machine.states) {
    const isActive = any(...leavesOf(machine, index).map((leaf) => is(field(layout.leaves + lane), leaf)));
    put({ fact: 'in', of: name }, isActive);
    put({ fact: 'elapsed', of: name }, choice(isActive, since(field(layout.entered + index)), number(0)));
  }
  machine.lanes.forEach(({ name }, i) =>
    put({ fact: 'laneElapsed', of: name }, since(element(layout.entered, field(layout.leaves + i)))),
  );
}
