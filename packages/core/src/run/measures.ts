import type { Trace } from './trace.js';

/** What people compare of two runs. Metres, seconds, metres a second. */
export interface Measures {
  ticks: number;
  /** Highest and lowest that the feet came, from where the run began. */
  apex: number;
  lowest: number;
  /** From the start to the end, and the farthest from the start, sideways. */
  distance: number;
  reach: number;
  topSpeed: number;
  longestAirtime: number;
  /** Per state, how long the run was in it. */
  timeIn: Record<string, number>;
}

export function measure(trace: Trace): Measures {
  const { machine, records, start } = trace;
  const result: Measures = {
    ticks: records.length,
    apex: 0,
    lowest: 0,
    distance: 0,
    reach: 0,
    topSpeed: 0,
    longestAirtime: 0,
    timeIn: {},
  };
  const timeIn = machine.states.map(() => 0);
  let air = 0;
  for (const { body, grounded, leaves } of records) {
    result.apex = Math.max(result.apex, body.y - start.y);
    result.lowest = Math.min(result.lowest, body.y - start.y);
    result.distance = body.x - start.x;
    result.reach = Math.max(result.reach, Math.abs(body.x - start.x));
    result.topSpeed = Math.max(result.topSpeed, Math.sqrt(body.vx * body.vx + body.vy * body.vy));
    air = grounded ? 0 : air + 1;
    result.longestAirtime = Math.max(result.longestAirtime, air * machine.dt);
    for (const leaf of leaves) timeIn[leaf]!++;
  }
  for (const state of machine.states) {
    if (state.members.length === 0) result.timeIn[state.name] = timeIn[state.index]! * machine.dt;
  }
  return result;
}
