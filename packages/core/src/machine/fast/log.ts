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

/** Which lanes wrote a channel in this tick. */
const NOBODY = -1;
const SEVERAL = -2;

/** The writes of a tick in order, in lists that are used again; `count` of their entries are filled. */
export interface Log {
  /** Whether the lists are kept at all; who wrote a channel always is, for the lanes that yield it. */
  on: boolean;
  vx: number;
  vy: number;
  facing: number;
  stance: number;
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

export const createLog = (on: boolean): Log => ({
  on,
  vx: NOBODY,
  vy: NOBODY,
  facing: NOBODY,
  stance: NOBODY,
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
  // Zones are no lane.
  if (lane >= 0) {
    if (channel === 'vx') log.vx = log.vx === NOBODY || log.vx === lane ? lane : SEVERAL;
    else if (channel === 'vy') log.vy = log.vy === NOBODY || log.vy === lane ? lane : SEVERAL;
    else if (channel === 'facing') log.facing = log.facing === NOBODY || log.facing === lane ? lane : SEVERAL;
    else if (channel === 'stance') log.stance = log.stance === NOBODY || log.stance === lane ? lane : SEVERAL;
  }
  if (!log.on) return;
  const i = log.count++;
  log.channel[i] = channel;
  log.lane[i] = lane;
  log.by[i] = by;
  log.who[i] = who;
  log.to[i] = to;
  log.replaces[i] = replaces;
  log.value[i] = value;
}

/** Forgets the writes of the last tick. */
export function clearLog(log: Log): void {
  log.count = 0;
  log.vx = NOBODY;
  log.vy = NOBODY;
  log.facing = NOBODY;
  log.stance = NOBODY;
}

/** Whether another lane has written a channel in this tick. Nobody writes to gravity itself. */
export function isWrittenByAnother(log: Log, channel: Channel, lane: number): boolean {
  if (channel === 'gravity') return false;
  const by = log[channel];
  return by !== NOBODY && by !== lane;
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
