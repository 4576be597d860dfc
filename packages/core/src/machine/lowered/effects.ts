import { present } from '../../present.js';
import { LEAVING } from '../../tolerances.js';
import type { AuthorKind } from '../definition/author.js';
import type { Effect } from '../definition/machine.js';
import { termOf } from './expressions.js';
import * as at from './layout.js';
import { factAt, type Lowering, NOBODY, register, SEVERAL, writer, yields } from './lowering.js';
import type { Place, Statement, Term, Writable } from './program.js';
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
  number,
  operation,
  plus,
  set,
  times,
  when,
} from './terms.js';
import { keepWritten, takeBackOthers } from './yielding.js';

/** Who performs effects. */
export interface By {
  lane: number;
  kind: AuthorKind;
  who: Term;
  to: Term;
}

/** Effects, one after the other, as `perform` of the reference. */
export const perform = (lowering: Lowering, effects: readonly Effect[], by: By): Statement[] =>
  effects.flatMap((effect) => [...origin(lowering, effect), ...effectStatements(lowering, effect, by)]);

const origin = ({ origins }: Lowering, { path, text }: Effect): Statement[] =>
  origins ? [{ kind: 'tell', what: { kind: 'origin', path, text } }] : [];

function effectStatements(lowering: Lowering, effect: Effect, by: By): Statement[] {
  const { machine, layout } = lowering;
  switch (effect.kind) {
    case 'velocity':
      return velocity(lowering, effect, by);
    case 'variable': {
      const { kind, max } = present(machine.variables[effect.variable]);
      const now = field(layout.variables + effect.variable);
      const next = combined(effect.op, now, termOf(lowering, 'act', effect.value));
      const whole = operation('max', number(0), operation('min', number(max), operation('floor', next)));
      return [set(now, kind === 'count' ? whole : operation('bounded', next))];
    }
    case 'spend':
    case 'refill': {
      if (effect.what === 'cooldown') return charge(lowering, effect.kind, effect.index, by.lane);
      const now = field(layout.variables + effect.index);
      const { max } = present(machine.variables[effect.index]);
      const one = operation('max', number(0), minus(now, number(1)));
      return [set(now, effect.kind === 'refill' ? number(max) : one)];
    }
    case 'start': {
      const { ticks, again } = present(machine.timers[effect.timer]);
      const left = field(layout.timers + effect.timer);
      if (again === 'restart') return [set(left, number(ticks))];
      const isOver = compare(left, '<=', number(0));
      const extended = set(left, plus(left, number(ticks)));
      return when(isOver, [set(left, number(ticks))], again === 'extend' ? [extended] : []);
    }
    case 'stop':
      return [set(field(layout.timers + effect.timer), number(-1))];
    case 'face':
      return face(lowering, effect, by);
    case 'lock':
    case 'unlock':
      return [set(field(layout.unlocked + effect.ability), number(effect.kind === 'unlock' ? 1 : 0))];
    case 'raise':
      return [set(raised(lowering, effect.event), number(1))];
    case 'cast':
    case 'release':
      return [{ kind: 'world', act: effect.kind, index: effect.tether }];
    case 'drop':
      return [{ kind: 'world', act: 'drop', index: 0 }];
  }
}

/** Whether an event was raised in this tick. */
export const raised = (lowering: Lowering, event: number): Place =>
  register(lowering, `raised ${present(lowering.machine.events[event])}`);

const combined = (op: ':=' | '+=' | '-=', old: Term, value: Term): Term =>
  op === ':=' ? value : op === '+=' ? plus(old, value) : minus(old, value);

/**
 * Writes a channel: a lane that yields it writes only while no other has, and what such a lane wrote earlier is taken
 * back. `change` leaves the value that is told in the situation.
 */
export function write(
  lowering: Lowering,
  channel: Writable,
  by: By,
  { replaces, change, value }: { replaces: boolean; change: readonly Statement[]; value: Term },
): Statement[] {
  const { lane, kind, who, to } = by;
  const written: Statement[] = [
    ...takeBackOthers(lowering, channel, lane),
    ...change,
    ...keepWritten(lowering, channel, lane),
    ...noteWriter(lowering, channel, lane),
    { kind: 'tell', what: { kind: 'write', channel, lane, by: kind, who, to, replaces, value } },
  ];
  return yields(lowering, lane, channel) ? when(isFree(lowering, channel, lane), written) : written;
}

/** Notes that a lane has written a channel. */
export function noteWriter(lowering: Lowering, channel: Writable, lane: number): Statement[] {
  const by = writer(lowering, channel);
  return [set(by, choice(isFree(lowering, channel, lane), number(lane), number(SEVERAL)))];
}

/** Whether no other lane has written a channel in this tick. */
export function isFree(lowering: Lowering, channel: Writable, lane: number): Term {
  const by = writer(lowering, channel);
  return any(is(by, NOBODY), is(by, lane));
}

/**
 * An effect that writes one part of the velocity, as `putWritten` of the reference: a body that stands keeps to its
 * ground but for a vy that is upward and more than the ground rises.
 */
function velocity(
  lowering: Lowering,
  { channel, op, value }: Extract<Effect, { kind: 'velocity' }>,
  by: By,
): Statement[] {
  const [vx, vy] = [field(at.VX), field(at.VY)];
  const [nx, ny] = [field(at.GROUND_NX), field(at.GROUND_NY)];
  const own = channel === 'vx' ? vx : vy;
  const written = (old: Term): Term => operation('bounded', combined(op, old, local('value')));
  const along = (up: Term): Term => minus(times(vx, ny), times(up, nx));
  const put: Statement[] = [set(vx, times(local('along'), ny)), set(vy, negated(times(local('along'), nx)))];
  const onGround: Statement[] =
    channel === 'vx'
      ? [letBe('along', written(along(vy))), ...put]
      : [
          letBe('up', written(vy)),
          ...when(
            compare(local('up'), '>', plus(operation('max', vy, number(0)), number(LEAVING))),
            [set(vy, local('up'))],
            [letBe('along', along(local('up'))), ...put],
          ),
        ];
  const stands = all(
    isNot(field(at.GROUND), 0),
    compare(plus(times(vx, nx), times(vy, ny)), '<=', number(LEAVING)),
  );
  const change: Statement[] = [
    letBe('value', termOf(lowering, 'act', value)),
    ...when(stands, onGround, [set(own, written(own))]),
  ];
  return [
    { kind: 'block', body: write(lowering, channel, by, { replaces: op === ':=', change, value: own }) },
  ];
}

function face(lowering: Lowering, { way, slot }: Extract<Effect, { kind: 'face' }>, by: By): Statement[] {
  const facing = field(at.FACING);
  const turn = (to: Term): Statement[] =>
    write(lowering, 'facing', by, { replaces: true, change: [set(facing, to)], value: facing });
  if (way === 'left' || way === 'right') return turn(number(way === 'left' ? -1 : 1));
  const side = local('side');
  const sides = {
    turn: negated(facing),
    away: negated(field(at.WALL)),
    axis: factAt(lowering, 'act', slot),
  };
  // Which side that is is settled before another lane's turn is taken back.
  const body = [
    letBe('side', sides[way]),
    ...when(isNot(side, 0), turn(choice(compare(side, '<', number(0)), number(-1), number(1)))),
  ];
  return [{ kind: 'block', body }];
}

function charge(lowering: Lowering, kind: 'spend' | 'refill', index: number, lane: number): Statement[] {
  const { machine, layout } = lowering;
  const { charges, from, ticks } = present(machine.cooldowns[index]);
  const [now, clock] = [field(layout.charges + index), field(layout.clocks + index)];
  if (kind === 'refill') return [set(now, number(charges)), set(clock, number(0))];
  return [
    set(now, operation('max', number(0), minus(now, number(1)))),
    ...(from === 'exit'
      ? [set(field(layout.spentIn + index), field(layout.leaves + lane))]
      : when(is(clock, 0), [set(clock, number(ticks))])),
  ];
}
