import { present } from '../../present.js';
import { LEAVING } from '../../tolerances.js';
import type { Expression } from '../../notation/index.js';
import type { AuthorKind } from '../definition/author.js';
import type { Channel, GravityRule, Motion } from '../definition/machine.js';
import { moves } from '../reference/motion.js';
import { byLeaf } from './act.js';
import { leavesIn } from './decide.js';
import { drive } from './drive.js';
import { isFree, noteWriter } from './effects.js';
import { termOf, truthOf } from './expressions.js';
import { hang } from './hang.js';
import * as at from './layout.js';
import { type Lowering, yields } from './lowering.js';
import type { Statement, Term } from './program.js';
import {
  all,
  any,
  choice,
  compare,
  field,
  is,
  isNot,
  letBe,
  local,
  minus,
  negated,
  not,
  number,
  operation,
  plus,
  sense,
  set,
  switchOn,
  times,
  truthLocal,
  when,
} from './terms.js';
import { isYielded, takeBack, yielding } from './yielding.js';

/**
 * Step 6, as `applyMotion` of the reference: zones, then the rules of the active states in lane order, turn the velocity
 * into this tick's. It works on locals: `vx`, `vy`, whether they are held, the lane whose gravity rule counts (`pull`),
 * whether the body stands, the ground's normal (`nx`, `ny`), and what lanes keep of the channels that they yield.
 */
export function motion(lowering: Lowering): Statement[] {
  const { machine } = lowering;
  const { vx, vy, nx, ny, stands } = work;
  const isEven = machine.integration === 'semi-implicit';
  const rules = (make: (rule: Rule) => Statement[]): Statement[] =>
    machine.lanes.flatMap(({ index: lane }) =>
      byLeaf(lowering, lane, (leaf) => make({ lane, leaf, motion: present(machine.states[leaf]).motion })),
    );
  const blows: Statement = { kind: 'world', act: 'blow', index: 0 };
  return [
    ...takeBackMoved(lowering),
    letBe('vx', field(at.VX)),
    letBe('vy', field(at.VY)),
    ...(isEven ? [] : [letBe('fromX', vx), letBe('fromY', vy)]),
    letBe('heldX', any()),
    letBe('heldY', any()),
    letBe('pull', number(-1)),
    ...machine.lanes.flatMap(({ index }) => keepsOf(lowering, index)),
    ...rules(({ lane, motion: { gravity } }) =>
      gravity === undefined ? [] : when(keeps(lowering, lane, 'gravity'), [set(local('pull'), number(lane))]),
    ),
    letBe('nx', field(at.GROUND_NX)),
    letBe('ny', field(at.GROUND_NY)),
    letBe(
      'stands',
      all(isNot(field(at.GROUND), 0), compare(plus(times(vx, nx), times(vy, ny)), '<=', number(LEAVING))),
    ),
    ...lift(lowering, rules),
    ...when(isNot(field(at.IN_ZONES), 0), [blows]),
    ...rules((rule) => [...hold(lowering, rule), ...drive(lowering, rule), ...push(lowering, rule)]),
    ...(machine.gravity === 0 ? [] : when(all(not(stands), not(work.heldY)), fall(lowering))),
    ...when(
      all(not(stands), isNot(field(at.STEEP), 0)),
      rules((rule) => slip(lowering, rule)),
    ),
    ...rules((rule) => [...hang(lowering, rule), ...drag(lowering, rule)]),
    set(field(at.VX), operation('bounded', vx)),
    set(field(at.VY), operation('bounded', vy)),
    ...(isEven ? [] : travel(lowering)),
  ];
}

/** What the body moves by, where it is not the velocity that the rules gave it: see `Integration`. */
const travel = ({ machine, layout }: Lowering): Statement[] =>
  [field(at.VX), field(at.VY)].map((after, i) => {
    const before = i === 0 ? work.fromX : work.fromY;
    const by = machine.integration === 'explicit' ? before : times(plus(before, after), number(0.5));
    return set(field(layout.travel + i), operation('bounded', by));
  });

/** The rules of a lane's active state. */
export interface Rule {
  lane: number;
  leaf: number;
  motion: Motion;
}

/** The locals that every rule works on. */
export const work = {
  vx: local('vx'),
  vy: local('vy'),
  /** The velocity before the rules, where it is asked for; what a rule sets counts from there. */
  fromX: local('fromX'),
  fromY: local('fromY'),
  heldX: truthLocal('heldX'),
  heldY: truthLocal('heldY'),
  stands: truthLocal('stands'),
  nx: local('nx'),
  ny: local('ny'),
};

/** What is read of an expression while the body moves; a number where there is none. */
export const valueOf = (lowering: Lowering, e: Expression | undefined, otherwise = 0): Term =>
  e === undefined ? number(otherwise) : termOf(lowering, 'move', e);

/** Gives a body on the ground a speed along it; a held part stays as it is. */
export const putAlong = (speed: Term): Statement[] => [
  set(work.vx, times(speed, work.ny)),
  ...when(not(work.heldY), [set(work.vy, negated(times(speed, work.nx)))]),
];

/** The speed along the ground; the surface's tangent to the right is (ny, −nx). */
export const along = (): Term => minus(times(work.vx, work.ny), times(work.vy, work.nx));

/** Tells that a rule has written a channel; who it was is noted only where some lane yields the channel. */
export function told(
  lowering: Lowering,
  channel: 'vx' | 'vy',
  { lane, leaf }: Pick<Rule, 'lane' | 'leaf'>,
  by: AuthorKind,
  replaces: boolean,
): Statement[] {
  const value = work[channel];
  return [
    ...(lane >= 0 && isYielded(lowering, channel) ? noteWriter(lowering, channel, lane) : []),
    {
      kind: 'tell',
      what: { kind: 'write', channel, lane, by, who: number(leaf), to: number(-1), replaces, value },
    },
    ...(replaces && lowering.machine.integration !== 'semi-implicit' ? fromHere(channel) : []),
  ];
}

/** What a rule has set counts from the start of the tick; a speed along the ground is both parts. */
const fromHere = (channel: 'vx' | 'vy'): Statement[] =>
  channel === 'vy'
    ? [set(work.fromY, work.vy)]
    : [set(work.fromX, work.vx), ...when(all(work.stands, not(work.heldY)), [set(work.fromY, work.vy)])];

/** Whether a lane keeps a channel in this tick: always, unless it yields it. */
export const keeps = (lowering: Lowering, lane: number, channel: Channel): Term =>
  yields(lowering, lane, channel) ? truthLocal(keepsName(lowering, lane, channel)) : all();

/** The local for that, such as `legsKeepsGravity`. */
const keepsName = ({ machine }: Lowering, lane: number, channel: Channel): string =>
  `${present(machine.lanes[lane]).name}Keeps${channel.charAt(0).toUpperCase()}${channel.slice(1)}`;

/** What is settled before any rule writes: which of the channels that it yields a lane keeps in this tick. */
const keepsOf = (lowering: Lowering, lane: number): Statement[] =>
  (['vx', 'vy', 'gravity'] as const)
    .filter((channel) => yields(lowering, lane, channel))
    .map((channel) => {
      // Nobody writes to gravity itself.
      const free = channel === 'gravity' ? all() : isFree(lowering, channel, lane);
      return letBe(
        keepsName(lowering, lane, channel),
        all(not(movedByAnother(lowering, lane, channel)), free),
      );
    });

/** Whether the active state of another lane moves a channel. Of lanes that all yield it, the first one keeps it. */
function movedByAnother({ machine, layout }: Lowering, lane: number, channel: Channel): Term {
  const others = machine.lanes.filter(
    ({ index, yields }) => index !== lane && (index < lane || !yields.includes(channel)),
  );
  return any(
    ...others.flatMap(({ index }) =>
      leavesIn(machine, index)
        .filter((leaf) => moves(present(machine.states[leaf]).motion, channel, machine.plane === 'above'))
        .map((leaf) => is(field(layout.leaves + index), leaf)),
    ),
  );
}

/** A lane takes back what its effects wrote to a channel that it yields, where another lane's state moves it. */
const takeBackMoved = (lowering: Lowering): Statement[] =>
  (['vx', 'vy'] as const).flatMap((channel) =>
    lowering.machine.lanes
      .filter(({ index }) => yields(lowering, index, channel))
      .flatMap(({ index }) =>
        when(
          all(is(yielding(lowering, channel), index), movedByAnother(lowering, index, channel)),
          takeBack(lowering, channel),
        ),
      ),
  );

/** A body that pushes and winds lift more strongly than gravity holds it down does not stand. */
function lift(lowering: Lowering, rules: (make: (rule: Rule) => Statement[]) => Statement[]): Statement[] {
  const { machine } = lowering;
  const [lifted, holds, weight] = [local('lift'), truthLocal('holdsVy'), local('weight')];
  const pushes = rules(({ lane, motion: { push } }) =>
    push?.y === undefined
      ? []
      : when(keeps(lowering, lane, 'vy'), [set(lifted, plus(lifted, valueOf(lowering, push.y)))]),
  );
  const held = rules(({ lane, motion: { hold } }) =>
    hold?.vy === undefined ? [] : when(keeps(lowering, lane, 'vy'), [set(holds, all())]),
  );
  const weights = machine.lanes.map(({ index }) => ({
    of: index,
    body: byLeaf(lowering, index, (leaf) => {
      const rule = present(machine.states[leaf]).motion.gravity;
      const scaled = (r: GravityRule): Term => times(number(machine.gravity), scaleOf(lowering, r));
      return rule === undefined ? [] : [set(weight, scaled(rule))];
    }),
  }));
  const inZones = isNot(field(at.IN_ZONES), 0);
  return when(pushes.length === 0 ? all(work.stands, inZones) : work.stands, [
    letBe('lift', choice(inZones, sense('windUp'), number(0))),
    letBe('holdsVy', any()),
    ...pushes,
    ...when(compare(lifted, '>', number(0)), [
      ...held,
      letBe('weight', number(machine.gravity)),
      ...switchOn(local('pull'), weights),
      set(work.stands, any(holds, compare(lifted, '<=', weight))),
    ]),
  ]);
}

/** The scale of gravity for the present vy. */
function scaleOf(lowering: Lowering, { rising, falling, cut }: GravityRule): Term {
  const plain = valueOf(lowering, rising, 1);
  const up =
    cut === undefined
      ? plain
      : choice(truthOf(lowering, 'move', cut.when), termOf(lowering, 'move', cut.scale), plain);
  return choice(compare(work.vy, '>', number(0)), up, valueOf(lowering, falling, 1));
}

function hold(lowering: Lowering, rule: Rule): Statement[] {
  const { vx, vy, heldX, heldY, stands } = work;
  const { lane, motion } = rule;
  if (motion.hold === undefined) return [];
  const [holdX, holdY] = [motion.hold.vx, motion.hold.vy];
  const keepsY = keeps(lowering, lane, 'vy');
  const sideways = (e: Expression): Statement[] => {
    // A state that holds both means the velocity itself; one that holds vx alone means a speed along the ground.
    const isAlong = all(stands, not(heldY), ...(holdY === undefined ? [] : [not(keepsY)]));
    return when(keeps(lowering, lane, 'vx'), [
      letBe('speed', termOf(lowering, 'move', e)),
      ...when(isAlong, putAlong(local('speed')), [set(vx, local('speed'))]),
      set(heldX, all()),
      ...told(lowering, 'vx', rule, 'hold', true),
    ]);
  };
  const upward = (e: Expression): Statement[] =>
    when(keepsY, [
      set(vy, termOf(lowering, 'move', e)),
      set(heldY, all()),
      ...told(lowering, 'vy', rule, 'hold', true),
    ]);
  return [
    ...(holdX === undefined ? [] : [{ kind: 'block' as const, body: sideways(holdX) }]),
    ...(holdY === undefined ? [] : upward(holdY)),
  ];
}

function push(lowering: Lowering, rule: Rule): Statement[] {
  const { push: pushes } = rule.motion;
  if (pushes === undefined) return [];
  const { vx, vy, heldX, heldY, nx, stands } = work;
  const dt = number(lowering.machine.dt);
  const [ax, ay, a] = [local('ax'), local('ay'), local('a')];
  const [keepsX, keepsY] = [keeps(lowering, rule.lane, 'vx'), keeps(lowering, rule.lane, 'vy')];
  // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
  const onGround: Statement[] = [
    letBe('a', plus(ax, times(valueOf(lowering, pushes.downhill), nx))),
    ...when(all(isNot(a, 0), not(heldX), keepsX), [
      letBe('speed', plus(along(), times(a, dt))),
      ...putAlong(local('speed')),
      ...told(lowering, 'vx', rule, 'push', false),
    ]),
  ];
  const aloft: Statement[] = [
    letBe('ay', valueOf(lowering, pushes.y)),
    ...when(all(isNot(ax, 0), not(heldX), keepsX), [
      set(vx, plus(vx, times(ax, dt))),
      ...told(lowering, 'vx', rule, 'push', false),
    ]),
    ...when(all(isNot(ay, 0), not(heldY), keepsY), [
      set(vy, plus(vy, times(ay, dt))),
      ...told(lowering, 'vy', rule, 'push', false),
    ]),
  ];
  const body = [letBe('ax', valueOf(lowering, pushes.x)), ...when(stands, onGround, aloft)];
  return [{ kind: 'block', body }];
}

/** Gravity, once a tick, by the rule of the last lane that has one; as it is when none has. */
function fall(lowering: Lowering): Statement[] {
  const { machine } = lowering;
  const { vy } = work;
  const [g, dt] = [number(machine.gravity), number(machine.dt)];
  const none = { lane: -1, leaf: -1 };
  const scaled = (scale: Term): Statement[] =>
    lowering.origins ? [{ kind: 'tell', what: { kind: 'gravity', scale } }] : [];
  const plain = [
    ...scaled(number(1)),
    set(vy, minus(vy, times(g, dt))),
    ...told(lowering, 'vy', none, 'gravity', false),
  ];
  const cases = machine.lanes.map(({ index: lane }) => ({
    of: lane,
    body: byLeaf(lowering, lane, (leaf) => {
      const rule = present(machine.states[leaf]).motion.gravity;
      if (rule === undefined) return [];
      const most = valueOf(lowering, rule.terminal);
      return [
        ...scaled(scaleOf(lowering, rule)),
        set(vy, minus(vy, times(g, scaleOf(lowering, rule), dt))),
        ...(rule.terminal === undefined ? [] : [set(vy, operation('max', vy, negated(most)))]),
        ...told(lowering, 'vy', { lane, leaf }, 'gravity', false),
      ];
    }),
  }));
  return switchOn(local('pull'), cases, plain);
}

/** On what is too steep to walk, `slip` adds a pull down the surface to whatever the body does. */
function slip(lowering: Lowering, rule: Rule): Statement[] {
  const pull = rule.motion.ground?.slip;
  if (pull === undefined) return [];
  const { vx, vy, heldX, heldY } = work;
  const [steepX, steepY] = [field(at.STEEP_NX), field(at.STEEP_NY)];
  const a = local('a');
  const dt = number(lowering.machine.dt);
  const body = [
    letBe('a', times(valueOf(lowering, pull), dt, operation('sign', steepX))),
    ...when(not(heldX), [set(vx, plus(vx, times(a, steepY))), ...told(lowering, 'vx', rule, 'slip', false)]),
    ...when(not(heldY), [set(vy, minus(vy, times(a, steepX))), ...told(lowering, 'vy', rule, 'slip', false)]),
  ];
  return [{ kind: 'block', body }];
}

/** Exponential damping by what is left of a speed after a tick. On the ground vy is the upward part of the speed along it. */
function drag(lowering: Lowering, rule: Rule): Statement[] {
  if (rule.motion.drag === undefined) return [];
  const { vx, vy, heldX, heldY, stands } = work;
  const rate = times(valueOf(lowering, rule.motion.drag), number(lowering.machine.dt));
  const factor = local('factor');
  const body = [
    letBe('factor', operation('decay', rate)),
    ...when(not(heldX), [set(vx, times(vx, factor)), ...told(lowering, 'vx', rule, 'drag', false)]),
    ...when(all(not(heldY), not(all(stands, heldX))), [
      set(vy, times(vy, factor)),
      ...when(not(stands), told(lowering, 'vy', rule, 'drag', false)),
    ]),
  ];
  return [{ kind: 'block', body }];
}
