import type { World } from '../../world/index.js';
import type { Write } from '../act.js';
import type { Channel, Machine } from '../definition.js';

/** What of a state, or of a zone, writes. */
export type By =
  | 'do'
  | 'exit'
  | 'enter'
  | 'each'
  | 'stance'
  | 'drive'
  | 'hold'
  | 'push'
  | 'gravity'
  | 'slip'
  | 'tether'
  | 'drag'
  | 'zone launch'
  | 'zone wind'
  | 'zone drag';

/** The writes of a tick in order, in lists that are used again; `count` of their entries are filled. */
export interface Log {
  count: number;
  channel: Channel[];
  lane: number[];
  by: By[];
  /** The state or zone that writes; for `do` the state it comes from, and in `to` the one it leads to. */
  who: number[];
  to: number[];
  replaces: boolean[];
  value: number[];
}

export const createLog = (): Log => ({
  count: 0,
  channel: [],
  lane: [],
  by: [],
  who: [],
  to: [],
  replaces: [],
  value: [],
});

export function note(
  log: Log,
  channel: Channel,
  lane: number,
  by: By,
  who: number,
  to: number,
  replaces: boolean,
  value: number,
): void {
  const i = log.count++;
  log.channel[i] = channel;
  log.lane[i] = lane;
  log.by[i] = by;
  log.who[i] = who;
  log.to[i] = to;
  log.replaces[i] = replaces;
  log.value[i] = value;
}

/** Whether another lane has written a channel in this tick; zones are no lane. */
export function isWrittenByAnother(log: Log, channel: Channel, lane: number): boolean {
  for (let i = 0; i < log.count; i++)
    if (log.channel[i] === channel && log.lane[i] !== lane && log.lane[i]! >= 0) return true;
  return false;
}

/** The writes as the reference machine tells them. */
export const writesOf = (log: Log, machine: Machine, world: World): Write[] =>
  Array.from({ length: log.count }, (_, i) => ({
    channel: log.channel[i]!,
    lane: log.lane[i]!,
    author: authorOf(machine, world, log.by[i]!, log.who[i]!, log.to[i]!),
    replaces: log.replaces[i]!,
    value: log.value[i]!,
  }));

function authorOf(machine: Machine, world: World, by: By, who: number, to: number): string {
  if (by.startsWith('zone ')) return `${world.course.zones[who]!.name} ${by.slice(5)}`;
  if (who < 0) return by;
  const { name } = machine.states[who]!;
  return by === 'do' ? `${name} → ${machine.states[to]!.name} do` : `${name} ${by}`;
}
