import type { Machine } from '@glenmark/core/machine';
import type { Session, Trace } from '@glenmark/core/run';
import { buildWorld, type Course, type World } from '@glenmark/core/world';

/**
 * A run as a worker sends it: without its world, which answers questions and cannot be sent, and without its machine,
 * which whoever asked has read from the same text.
 */
export type SentSession = Omit<Session, 'world' | 'trace'> & { trace: Omit<Trace, 'machine'> };

/** A run for sending. */
export function sent({ world: _, trace: { machine: __, ...trace }, ...rest }: Session): SentSession {
  return { ...rest, trace };
}

/** A run that was sent, of a machine on a course; in the world of the run before where that is the same. */
export function received(
  { trace, ...rest }: SentSession,
  machine: Machine,
  course: Course,
  before?: Session,
): Session {
  const isSame = before?.trace.machine === machine && before.world.course === course;
  const world: World = isSame
    ? before.world
    : buildWorld(course, machine.stances, machine.casts, { plain: true });
  return { ...rest, world, trace: { machine, ...trace } };
}
