import * as at from './layout.js';
import { NOBODY, type Lowering, procedure, register, writer, yields } from './lowering.js';
import type { Place, Statement, Term, Writable } from './program.js';
import { all, compare, field, isNot, number, set, when } from './terms.js';

/**
 * A lane that yields a channel takes back what it wrote there when another lane writes it later in the tick. For that
 * a tick keeps which lane it was, what was there before, and what it wrote.
 */
const kept = (lowering: Lowering, channel: Writable, name: string): Place =>
  register(lowering, `${name} ${channel}`);

/** The lane that yields a channel and has written it in this tick; −1 none. */
export const yielding = (lowering: Lowering, channel: Writable): Place => kept(lowering, channel, 'yielding');

/** Whether some lane yields a channel: else nothing need be kept of it. */
export const isYielded = ({ machine }: Lowering, channel: Writable): boolean =>
  machine.lanes.some((lane) => lane.yields.includes(channel));

/** Before a lane writes a channel: takes back what another lane wrote that yields it, and keeps what is there. */
export function takeBackOthers(lowering: Lowering, channel: Writable, lane: number): Statement[] {
  if (!isYielded(lowering, channel)) return [];
  const by = yielding(lowering, channel);
  const isOthers = all(compare(by, '>=', number(0)), isNot(by, lane));
  const before: [string, Term][] = [
    ['x before', field(at.VX)],
    ['y before', field(at.VY)],
    ['facing before', field(at.FACING)],
  ];
  return [
    ...when(isOthers, takeBack(lowering, channel)),
    ...(yields(lowering, lane, channel)
      ? when(
          isNot(by, lane),
          before.map(([name, value]) => set(kept(lowering, channel, name), value)),
        )
      : []),
  ];
}

/** After a lane that yields a channel has written it. */
export const keepWritten = (lowering: Lowering, channel: Writable, lane: number): Statement[] =>
  yields(lowering, lane, channel)
    ? [
        set(yielding(lowering, channel), number(lane)),
        set(kept(lowering, channel, 'x after'), field(at.VX)),
        set(kept(lowering, channel, 'y after'), field(at.VY)),
      ]
    : [];

/** As `takeBack` of the reference: undoes the write, as far as nothing else has written over it since. */
export const takeBack = (lowering: Lowering, channel: Writable): Statement[] =>
  procedure(lowering, `take back ${channel}`, () => {
    const of = (name: string): Place => kept(lowering, channel, name);
    const [vx, vy] = [field(at.VX), field(at.VY)];
    const isStill = (now: Place, name: string): Term => compare(now, '=', of(name));
    // On a slope a speed along the ground has a part upward.
    const undone: Record<Writable, Statement[]> = {
      vx: [set(vx, of('x before')), ...when(isStill(vy, 'y after'), [set(vy, of('y before'))])],
      vy: [...when(isStill(vx, 'x after'), [set(vx, of('x before'))]), set(vy, of('y before'))],
      facing: [set(field(at.FACING), of('facing before'))],
      stance: [],
    };
    return [
      ...undone[channel],
      { kind: 'tell', what: { kind: 'withdrawn', channel, lane: yielding(lowering, channel) } },
      set(yielding(lowering, channel), number(-1)),
      set(writer(lowering, channel), number(NOBODY)),
    ];
  });
