import { type Control, slotOf, type StateKind } from '@glenmark/core/machine';
import type { FactName } from '@glenmark/core/notation';
import type { TickRecord, Trace } from '@glenmark/core/run';

/** A named tick of a tape. */
export interface Mark {
  name: string;
  tick: number;
}

/** A stretch of ticks; `to` is the first that is not in it. */
export interface Stretch {
  from: number;
  to: number;
}

export interface Bar extends Stretch {
  value: number;
}

export interface Band extends Stretch {
  state: string;
  kind: StateKind;
}

/** A row of the score below the controls: states, a level that goes up and down, or what was so and when. */
export type Row = { name: string } & (
  | { kind: 'bands'; bands: Band[] }
  | { kind: 'level'; low: number; full: number; steps: number[] }
  | { kind: 'spots'; spots: Spot[] }
);

/** Something that was so for a while; `track` is where in the row it is drawn: 0 above, 1 in the middle, 2 below. */
export interface Spot extends Stretch {
  track: 0 | 1 | 2;
  text: string;
}

/** The groups of rows that can be shown or left out, in the order in which they are drawn. */
export const GROUPS = ['lanes', 'clocks', 'variables', 'events', 'contacts', 'probes'] as const;
export type Group = (typeof GROUPS)[number];

/** What the score draws of a run: rows on one time axis. Pure data, made once a run. */
export interface ScoreRows {
  ticks: number;
  rate: number;
  controls: { name: string; kind: Control['kind']; bars: Bar[] }[];
  groups: Record<Group, Row[]>;
}

/** The rows of a run, or of a part of one: ticks are counted from the first record. */
export function scoreRows({ machine, records }: Pick<Trace, 'machine' | 'records'>): ScoreRows {
  const level = (name: string, full: number, of: (r: TickRecord) => number): Row => {
    const steps = records.map(of);
    return { name, kind: 'level', low: Math.min(0, ...steps), full, steps };
  };
  const fact = (name: FactName, of?: string): ((r: TickRecord) => number) => {
    const slot = slotOf(machine.facts, name, of);
    return (r) => r.facts[slot]!;
  };
  const spots = (text: string, track: Spot['track'], of: (r: TickRecord) => number): Spot[] =>
    stretches(records, of)
      .filter((s) => s.value !== 0)
      .map(({ from, to }) => ({ from, to, track, text }));
  return {
    ticks: records.length,
    rate: machine.rate,
    controls: machine.controls.map(({ name, kind }, c) => ({
      name,
      kind,
      bars: stretches(records, (r) => r.input[c]!).filter((b) => b.value !== 0),
    })),
    groups: {
      lanes: machine.lanes.map((lane, i) => ({
        name: lane.name,
        kind: 'bands',
        bands: stretches(records, (r) => r.leaves[i]!).map(({ from, to, value }) => ({
          from,
          to,
          state: machine.states[value]!.name,
          kind: machine.states[value]!.kind,
        })),
      })),
      clocks: [
        ...machine.timers.map((timer, i) => level(timer.name, timer.ticks, (r) => Math.max(0, r.timers[i]!))),
        ...machine.cooldowns.map((cooldown, i) =>
          level(cooldown.name, cooldown.charges, (r) => r.charges[i]!),
        ),
      ],
      variables: machine.variables.map((v, i) => {
        const max =
          v.kind === 'number'
            ? Math.max(1e-9, ...records.map((r) => r.variables[i]!))
            : v.kind === 'count'
              ? v.max
              : 1;
        return level(v.name, max, (r) => r.variables[i]!);
      }),
      // An event is a fact in the tick after the one that raised it, which is when lanes can act on it.
      events: machine.events.map((event) => ({
        name: event,
        kind: 'spots',
        spots: spots(event, 1, fact('event', event)),
      })),
      contacts: [
        {
          name: $localize`touches`,
          kind: 'spots',
          spots: [
            ...spots($localize`ceiling`, 0, fact('ceiling')),
            ...spots($localize`wall on the left`, 1, (r) => Number(fact('wall')(r) < 0)),
            ...spots($localize`wall on the right`, 1, (r) => Number(fact('wall')(r) > 0)),
            ...spots($localize`ground`, 2, fact('grounded')),
          ],
        },
      ],
      probes: machine.probes.map((probe) => ({
        name: probe.name,
        kind: 'spots',
        spots: spots($localize`${probe.name} hits`, 1, fact('probe', probe.name)),
      })),
    },
  };
}

/** Whether a row is the same from the first tick to the last. */
export function isQuiet(row: Row, ticks: number): boolean {
  if (row.kind === 'level') return row.steps.every((v) => v === row.steps[0]);
  if (row.kind === 'spots') return row.spots.every((s) => s.from === 0 && s.to === ticks);
  return false;
}

/** What a row holds at a tick, in a few letters. */
export function valueAt(row: Row, tick: number): string {
  if (row.kind === 'level') return String(Number((row.steps[tick] ?? 0).toPrecision(4)));
  const held = (s: Stretch): boolean => s.from <= tick && tick < s.to;
  if (row.kind === 'bands' || row.spots.some((s) => s.track !== 1)) return '';
  return row.spots.some(held) ? $localize`yes` : '';
}

/** Runs of ticks in which a value stays the same. */
function stretches(records: readonly TickRecord[], of: (r: TickRecord) => number): Bar[] {
  const bars: Bar[] = [];
  records.forEach((record, i) => {
    const value = of(record);
    const last = bars[bars.length - 1];
    if (last !== undefined && last.value === value) last.to = i + 1;
    else bars.push({ from: i, to: i + 1, value });
  });
  return bars;
}

/** The ticks at which any lane took a crossing: where the ghosts stand. */
export const crossingTicks = (records: readonly TickRecord[]): number[] =>
  records.filter((r) => r.taken.length > 0).map((r) => r.tick);
