import type { Session } from '@glenmark/core/run';
import { buildWorld, type Course, type World } from '@glenmark/core/world';
import type { Compared } from './compared';

/** A run as a worker sends it: a world answers questions, and only data can be sent. */
export type SentSession = Omit<Session, 'world'> & {
  /** The course that was run on; undefined when it is the one of the run before. */
  course: Course | undefined;
};

/** The same of what is compared. */
export type SentCompared = Omit<Compared, 'session'> & { session?: SentSession };

/** A run for sending; its course is left out when the receiver has its world already. */
export const sent = ({ world, ...rest }: Session, hasWorld = false): SentSession => ({
  ...rest,
  course: hasWorld ? undefined : world.course,
});

/** A run that was sent, with a world of its own, or that of the run before when that is the same. */
export function received({ course, ...rest }: SentSession, before?: World): Session {
  const { machine } = rest.trace;
  if (course !== undefined)
    return { ...rest, world: buildWorld(course, machine.stances, machine.casts, { plain: true }) };
  // A worker leaves the course out only when it has sent it before.
  return { ...rest, world: before! };
}
