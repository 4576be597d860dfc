import type { Course } from '../../world/index.js';
import type { Author, AuthorKind, Write } from '../definition/author.js';
import type { Channel } from '../definition/machine.js';

/** The writes of a tick in order, in lists that are used again; `count` of their entries are filled. */
export interface Log {
  count: number;
  channel: Channel[];
  lane: number[];
  kind: AuthorKind[];
  /** The state that writes, or the zone where no lane does; for `do` the state that was left, and in `to` the entered one. */
  who: number[];
  to: number[];
  replaces: boolean[];
  value: number[];
}

export const createLog = (): Log => ({
  count: 0,
  channel: [],
  lane: [],
  kind: [],
  who: [],
  to: [],
  replaces: [],
  value: [],
});

export function note(
  log: Log,
  channel: Channel,
  lane: number,
  kind: AuthorKind,
  who: number,
  to: number,
  replaces: boolean,
  value: number,
): void {
  const i = log.count++;
  log.channel[i] = channel;
  log.lane[i] = lane;
  log.kind[i] = kind;
  log.who[i] = who;
  log.to[i] = to;
  log.replaces[i] = replaces;
  log.value[i] = value;
}

/** Forgets what one lane wrote to a channel in this tick; nobody else has written it. */
export function withdraw(log: Log, channel: Channel, lane: number): void {
  let kept = 0;
  for (let i = 0; i < log.count; i++) {
    if (log.channel[i] === channel && log.lane[i] === lane) continue;
    log.channel[kept] = log.channel[i]!;
    log.lane[kept] = log.lane[i]!;
    log.kind[kept] = log.kind[i]!;
    log.who[kept] = log.who[i]!;
    log.to[kept] = log.to[i]!;
    log.replaces[kept] = log.replaces[i]!;
    log.value[kept] = log.value[i]!;
    kept++;
  }
  log.count = kept;
}

/** The writes as the reference machine records them. */
export const writesOf = (log: Log, course: Course): Write[] =>
  Array.from({ length: log.count }, (_, i) => ({
    channel: log.channel[i]!,
    author: authorOf(log, i, course),
    replaces: log.replaces[i]!,
    value: log.value[i]!,
  }));

function authorOf(log: Log, i: number, course: Course): Author {
  const kind = log.kind[i]!;
  const lane = log.lane[i]!;
  const who = log.who[i]!;
  // What no lane writes is a zone's, or gravity that no state says anything about.
  if (lane < 0 && who >= 0) return { kind, lane, state: -1, to: -1, zone: course.zones[who]!.name };
  return { kind, lane, state: who, to: log.to[i]! };
}
