import type { Control, Session, StateKind, TickRecord } from '@glenmark/core';

/** What the score draws of a run: rows on one time axis. Pure data, made once a run. */
export interface ScoreRows {
  ticks: number;
  rate: number;
  controls: { name: string; kind: Control['kind']; bars: Bar[] }[];
  lanes: { name: string; bands: Band[] }[];
  clocks: { name: string; full: number; steps: number[] }[];
}

export interface Bar {
  from: number;
  to: number;
  value: number;
}

export interface Band {
  from: number;
  to: number;
  state: string;
  kind: StateKind;
}

export function scoreRows({ trace }: Session): ScoreRows {
  const { machine, records } = trace;
  return {
    ticks: records.length,
    rate: machine.rate,
    controls: machine.controls.map(({ name, kind }, c) => ({
      name,
      kind,
      bars: stretches(records, (r) => r.input[c]!).filter((b) => b.value !== 0),
    })),
    lanes: machine.lanes.map((lane, i) => ({
      name: lane.name,
      bands: stretches(records, (r) => r.leaves[i]!).map(({ from, to, value }) => ({
        from,
        to,
        state: machine.states[value]!.name,
        kind: machine.states[value]!.kind,
      })),
    })),
    clocks: [
      ...machine.timers.map((timer, i) => ({
        name: timer.name,
        full: timer.ticks,
        steps: records.map((r) => Math.max(0, r.timers[i]!)),
      })),
      ...machine.cooldowns.map((cooldown, i) => ({
        name: cooldown.name,
        full: cooldown.charges,
        steps: records.map((r) => r.charges[i]!),
      })),
      ...machine.variables.flatMap((v, i) =>
        v.kind === 'number'
          ? []
          : [
              {
                name: v.name,
                full: v.kind === 'count' ? v.max : 1,
                steps: records.map((r) => r.variables[i]!),
              },
            ],
      ),
    ],
  };
}

/** Runs of ticks in which a value stays the same. */
function stretches(records: readonly TickRecord[], of: (r: TickRecord) => number): Bar[] {
  const bars: Bar[] = [];
  for (const record of records) {
    const value = of(record);
    const last = bars[bars.length - 1];
    if (last !== undefined && last.value === value) last.to = record.tick + 1;
    else bars.push({ from: record.tick, to: record.tick + 1, value });
  }
  return bars;
}

/** Polyline points of a clock's row: its level over time, as shares of the row's height. */
export function levelPath(
  steps: readonly number[],
  full: number,
  x: (tick: number) => number,
  height: number,
): string {
  let path = '';
  steps.forEach((value, tick) => {
    if (tick > 0 && value === steps[tick - 1]! && tick < steps.length - 1) return;
    const y = height * (1 - Math.min(1, value / full));
    path += `${tick === 0 ? 'M' : 'L'}${x(tick).toFixed(1)} ${(height * (1 - Math.min(1, (steps[tick - 1] ?? value) / full))).toFixed(1)}L${x(tick).toFixed(1)} ${y.toFixed(1)}`;
  });
  return path;
}

/** The ticks at which any lane took a crossing: where the ghosts stand. */
export const crossingTicks = (records: readonly TickRecord[]): number[] =>
  records.filter((r) => r.taken.length > 0).map((r) => r.tick);
