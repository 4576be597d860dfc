import { TETHER_SLACK } from '../../tolerances.js';
import * as at from './layout.js';
import type { Lowering } from './lowering.js';
import { type Rule, told, valueOf, work } from './motion.js';
import type { Statement, Term } from './program.js';
import {
  all,
  choice,
  compare,
  field,
  is,
  letBe,
  local,
  minus,
  number,
  operation,
  plus,
  sense,
  set,
  times,
  when,
} from './terms.js';

/** On a line: reeled to the centre of the anchors, or climbing with a limit sideways. */
export function hang(lowering: Lowering, rule: Rule): Statement[] {
  const { tether } = rule.motion;
  if (tether === undefined) return [];
  const { vx, vy } = work;
  const { dt: seconds, gravity } = lowering.machine;
  const dt = number(seconds);
  const [x, centreX, centreY, middle] = [field(at.X), sense('centreX'), sense('centreY'), sense('middle')];
  const put = (channel: 'vx' | 'vy', value: Term): Statement[] => [
    set(work[channel], value),
    ...told(lowering, channel, rule, 'tether', true),
  ];
  const [far, speed, limit] = [local('far'), local('speed'), local('limit')];
  if (tether.reel !== undefined) {
    const [dx, dy] = [local('dx'), local('dy')];
    const part = (d: Term): Term => choice(is(far, 0), number(0), times(operation('/', d, far), speed));
    return when(sense('hangs'), [
      letBe('dx', minus(centreX, x)),
      letBe('dy', minus(centreY, middle)),
      letBe('far', operation('sqrt', plus(times(dx, dx), times(dy, dy)))),
      letBe('speed', operation('min', valueOf(lowering, tether.reel), operation('/', far, dt))),
      ...put('vx', part(dx)),
      ...put('vy', part(dy)),
    ]);
  }
  const climb = put('vy', valueOf(lowering, tether.climb));
  const { sideways } = tether;
  if (sideways === undefined) return when(sense('hangs'), climb);
  const limitAt = (y: Term): Term =>
    'length' in sideways
      ? valueOf(lowering, sideways.length)
      : times(operation('max', number(0), minus(centreY, y)), number(sideways.tangent));
  const [out, inwards, next] = [local('out'), local('inwards'), local('next')];
  const fallen = plus(times(inwards, field(at.VX)), times(number(gravity), dt));
  // Caught beyond the limit: it swings in, as fast as it would fall, and is not put there at once.
  const swung: Statement[] = [
    letBe('inwards', choice(compare(out, '<', number(0)), number(1), number(-1))),
    letBe('speed', operation('max', number(0), times(inwards, vx), fallen)),
    ...put('vx', times(inwards, operation('min', speed, operation('/', minus(far, limit), dt)))),
  ];
  const kept: Statement[] = [
    letBe(
      'next',
      operation('max', minus(centreX, limit), operation('min', plus(centreX, limit), plus(x, times(vx, dt)))),
    ),
    ...put('vx', operation('/', minus(next, x), dt)),
  ];
  const isBeyond = all(
    compare(far, '>', limit),
    compare(far, '>', plus(limitAt(middle), number(TETHER_SLACK))),
  );
  return when(sense('hangs'), [
    ...climb,
    letBe('limit', limitAt(plus(middle, times(vy, dt)))),
    letBe('out', minus(x, centreX)),
    letBe('far', operation('abs', out)),
    ...when(isBeyond, swung, kept),
  ]);
}
