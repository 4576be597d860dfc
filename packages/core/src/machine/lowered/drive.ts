import type { Drive } from '../definition/machine.js';
import type { Lowering } from './lowering.js';
import { along, keeps, putAlong, type Rule, told, valueOf, work } from './motion.js';
import type { Statement, Term } from './program.js';
import {
  all,
  choice,
  compare,
  is,
  letBe,
  local,
  minus,
  negated,
  not,
  number,
  operation,
  plus,
  set,
  times,
  truthLocal,
  when,
} from './terms.js';

/** The drive of a state: sideways along the ground or aloft, or in two axes seen from above. */
export function drive(lowering: Lowering, rule: Rule): Statement[] {
  const { drive: rules, directions } = rule.motion;
  if (rules === undefined) return [];
  const { vx, vy, heldX, heldY } = work;
  const [keepsX, keepsY] = [keeps(lowering, rule.lane, 'vx'), keeps(lowering, rule.lane, 'vy')];
  const { instant } = rules;
  if (lowering.machine.plane === 'side') {
    const speed = instant ? [letBe('speed', valueOf(lowering, rules.to))] : sideways(lowering, rules);
    const put = when(work.stands, putAlong(local('speed')), [set(vx, local('speed'))]);
    return when(all(keepsX, not(heldX)), [...speed, ...put, ...told(lowering, 'vx', rule, 'drive', instant)]);
  }
  const body = [
    ...inTwoAxes(lowering, rules, directions ?? 'free'),
    ...when(all(not(heldX), keepsX), [
      set(vx, local('toX')),
      ...told(lowering, 'vx', rule, 'drive', instant),
    ]),
    ...when(all(not(heldY), keepsY), [
      set(vy, local('toY')),
      ...told(lowering, 'vy', rule, 'drive', instant),
    ]),
  ];
  return [{ kind: 'block', body }];
}

/** The rates of a drive: what is not given is the one before. */
function ratesOf(lowering: Lowering, { gain, brake, turn }: Drive): [gain: Term, brake: Term, turn: Term] {
  const slower = brake ?? gain;
  return [valueOf(lowering, gain), valueOf(lowering, slower), valueOf(lowering, turn ?? slower)];
}

/** Leaves in `speed` what a speed sideways is after one tick, as `driven` of the reference. */
function sideways(lowering: Lowering, rules: Drive): Statement[] {
  const [gain, brake, turn] = ratesOf(lowering, rules);
  const dt = number(lowering.machine.dt);
  const [to, speed, excess, against] = [local('to'), local('speed'), local('excess'), truthLocal('against')];
  const { carry } = rules;
  const approached = (rate: Term): Statement => set(speed, operation('approach', speed, to, rate));
  const rate = choice(against, turn, choice(compare(excess, '>', number(0)), brake, gain));
  const plain = [approached(times(rate, dt))];
  const faded = (c: NonNullable<Drive['carry']>): Statement[] => {
    // Uphill a kept speed fades faster and downhill slower, by as much as the slope rises.
    const uphill = times(choice(work.stands, negated(work.nx), number(0)), operation('sign', speed));
    const share =
      c.slope === undefined
        ? number(1)
        : operation('max', number(0), plus(number(1), times(valueOf(lowering, c.slope), uphill)));
    return [approached(times(valueOf(lowering, c.fade), share, dt))];
  };
  return [
    letBe('to', valueOf(lowering, rules.to)),
    letBe('speed', choice(work.stands, along(), work.vx)),
    letBe('against', compare(times(speed, to), '<', number(0))),
    letBe('excess', minus(operation('abs', speed), operation('abs', to))),
    ...(carry === undefined
      ? plain
      : when(all(not(against), compare(excess, '>', valueOf(lowering, carry.above))), faded(carry), plain)),
  ];
}

const length = (x: Term, y: Term): Term => operation('sqrt', plus(times(x, x), times(y, y)));

/** Leaves in `toX` and `toY` what a velocity is after one tick, as `drivenAbove` of the reference. */
function inTwoAxes(lowering: Lowering, rules: Drive, directions: 'free' | '8' | '4'): Statement[] {
  const { vx, vy } = work;
  const [toX, toY] = [local('toX'), local('toY')];
  const aimed = [
    letBe('toX', valueOf(lowering, rules.to)),
    letBe('toY', valueOf(lowering, rules.toY)),
    ...withinDirections(directions),
  ];
  if (rules.instant) return aimed;
  const [gain, brake, turn] = ratesOf(lowering, rules);
  const [dot, excess, far, step] = [local('dot'), local('excess'), local('far'), local('step')];
  const { carry } = rules;
  const plain = choice(
    compare(dot, '<', number(0)),
    turn,
    choice(compare(excess, '>', number(0)), brake, gain),
  );
  const rate =
    carry === undefined
      ? plain
      : choice(
          all(compare(dot, '>=', number(0)), compare(excess, '>', valueOf(lowering, carry.above))),
          valueOf(lowering, carry.fade),
          plain,
        );
  const towards = (from: Term, d: Term): Term => plus(from, times(operation('/', d, far), step));
  return [
    ...aimed,
    letBe('dot', plus(times(vx, toX), times(vy, toY))),
    letBe('excess', minus(length(vx, vy), length(toX, toY))),
    letBe('step', times(rate, number(lowering.machine.dt))),
    letBe('dx', minus(toX, vx)),
    letBe('dy', minus(toY, vy)),
    letBe('far', length(local('dx'), local('dy'))),
    ...when(compare(far, '>', step), [
      set(toX, towards(vx, local('dx'))),
      set(toY, towards(vy, local('dy'))),
    ]),
  ];
}

/** Turns a wanted velocity in `toX` and `toY` into one of the ways that are allowed, as `putWithinDirections` does. */
function withinDirections(directions: 'free' | '8' | '4'): Statement[] {
  const [toX, toY] = [local('toX'), local('toY')];
  const [ax, ay, most, whole] = [local('ax'), local('ay'), local('most'), local('whole')];
  const scaled = (to: Term): Term => operation('/', times(to, most), whole);
  const diagonal = times(most, number(Math.SQRT1_2));
  const straight = when(compare(ax, '>=', ay), [set(toY, number(0))], [set(toX, number(0))]);
  const isStraight = compare(operation('min', ax, ay), '<', times(number(0.41421356237309503), most));
  const turned = {
    free: [set(toX, scaled(toX)), set(toY, scaled(toY))],
    '4': straight,
    // Straight when one axis is less than tan 22.5° of the other, else the diagonal.
    '8': when(isStraight, straight, [
      set(toX, times(operation('sign', toX), diagonal)),
      set(toY, times(operation('sign', toY), diagonal)),
    ]),
  }[directions];
  return [
    letBe('ax', operation('abs', toX)),
    letBe('ay', operation('abs', toY)),
    letBe('most', operation('max', ax, ay)),
    letBe('whole', length(ax, ay)),
    ...when(not(is(whole, 0)), turned),
  ];
}
