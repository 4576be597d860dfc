import { type Fast, SEVERAL } from '../machine/index.js';

const CHANNELS = ['vx', 'vy', 'facing', 'stance'] as const;

/** What happened in a tick that the scout takes note of. */
export type Event =
  | { kind: 'taken'; lane: number; crossing: number; from: number; to: number }
  | { kind: 'tie'; lane: number; leaf: number; crossings: number[] }
  | { kind: 'written'; channel: (typeof CHANNELS)[number]; leaves: number[] };

/** What came of one move, but for its numbers: mostly nothing; plain data that may come from a thread. */
export interface Result {
  /** Each sort of event; by default only the first time that the expander sees it. */
  events: readonly { tick: number; event: Event }[];
  /** How far open goals that leave the leaf at a mark are from their guards, where that is nearer than before. */
  distances: readonly { goal: number; distance: number; mark: number }[];
}

/** The events of a move as they come. */
export type Events = { tick: number; event: Event }[];

/**
 * Makes a function that adds what happened in the last tick of a situation to a list of events. Whoever listens notes the first of each
 * kind, so each is reported once, unless all are asked for.
 */
export function createLook(
  fast: Fast,
  tellsAll = false,
): (s: Float64Array, tick: number, events: Events) => void {
  const taken = fast.machine.lanes.map((lane) => new Uint8Array(lane.crossings.length));
  const writers = CHANNELS.map((channel) => fast.writers[channel]);
  const reported = new Set<string>();
  const note = (tick: number, event: Event, events: Events): void => {
    const label = labelOf(event);
    if (reported.has(label) && !tellsAll) return;
    reported.add(label);
    events.push({ tick, event });
  };
  return (s, tick, events) => {
    for (let i = 0; i < 4 * fast.takenCount; i += 4) {
      const [lane, crossing] = [fast.taken[i]!, fast.taken[i + 1]!];
      if (taken[lane]![crossing] !== 0 && !tellsAll) continue;
      taken[lane]![crossing] = 1;
      const [from, to] = [fast.taken[i + 2]!, fast.taken[i + 3]!];
      events.push({ tick, event: { kind: 'taken', lane, crossing, from, to } });
    }
    if (fast.tiedCount > 0) for (const tie of tiesOf(fast)) note(tick, tie, events);
    for (let i = 0; i < writers.length; i++)
      if (fast.facts[writers[i]!] === SEVERAL) note(tick, written(CHANNELS[i]!, fast, s), events);
  };
}

function tiesOf({ tied, tiedCount, taken, takenCount }: Fast): Event[] {
  const ties: Event[] = [];
  for (let i = 0; i < tiedCount;) {
    const lane = tied[i]!;
    const crossings: number[] = [];
    for (; i < tiedCount && tied[i] === lane; i += 2) crossings.push(tied[i + 1]!);
    // The lane has left by now: the state it tied in is where its first crossing comes from.
    let leaf = -1;
    for (let k = 4 * takenCount - 4; k >= 0; k -= 4) if (taken[k] === lane) leaf = taken[k + 2]!;
    ties.push({ kind: 'tie', lane, leaf, crossings });
  }
  return ties;
}

const written = (channel: (typeof CHANNELS)[number], { machine, layout }: Fast, s: Float64Array): Event => ({
  kind: 'written',
  channel,
  leaves: Array.from(s.subarray(layout.leaves, layout.leaves + machine.lanes.length)),
});

/** What all takings of a crossing are, as an event. */
export const takenLabel = (lane: number, crossing: number): string => `taken ${lane} ${crossing}`;

/** What makes two events the same sort of event. */
export function labelOf(event: Event): string {
  switch (event.kind) {
    case 'taken':
      return takenLabel(event.lane, event.crossing);
    case 'tie':
      return `tie ${event.lane} ${event.leaf} ${event.crossings.join()}`;
    case 'written':
      return `written ${event.channel} ${event.leaves.join()}`;
  }
}
