import { present } from '../present.js';
import type { Parting } from './compare.js';
import { APART, GRID_SLACK } from '../tolerances.js';
import { tickAtEnd } from './tape.js';
import type { Trace } from './trace.js';

/**
 * A run at another tick rate on the ticks of this one: at each tick the last record that is not later. What it holds in
 * ticks is as it was counted there.
 */
export function retimed(other: Trace, own: Trace): Trace {
  const ratio = other.machine.rate / own.machine.rate;
  const length = Math.floor(other.records.length / ratio + GRID_SLACK);
  const records = Array.from({ length }, (_, tick) => {
    return { ...present(other.records[tickAtEnd(tick, ratio)]), tick };
  });
  return { ...other, records };
}

/**
 * Where two runs at different rates part: the first tick at which a lane is in a state that the other is not in within
 * a tick of the slower rate, or the bodies are more than 0.1 m apart. `b` is on the ticks of `a`.
 */
export function partingInTime(a: Trace, b: Trace): Parting | undefined {
  const slack = Math.ceil(a.machine.rate / Math.min(a.machine.rate, b.machine.rate)) + 1;
  const length = Math.min(a.records.length, b.records.length);
  for (let tick = 0; tick < length; tick++) {
    const [one, other] = [present(a.records[tick]), present(b.records[tick])];
    const near = b.records.slice(Math.max(0, tick - slack), tick + slack + 1);
    const what = a.machine.lanes.flatMap((lane, i) => {
      const leaf = present(one.leaves[i]);
      if (near.some((r) => r.leaves[i] === leaf)) return [];
      const name = (state: number): string => present(a.machine.states[state]).name;
      return [`${lane.name}: ${name(leaf)} and ${name(present(other.leaves[i]))}`];
    });
    const [dx, dy] = [one.body.x - other.body.x, one.body.y - other.body.y];
    const far = Math.sqrt(dx * dx + dy * dy);
    if (far > APART) what.push(`the bodies are ${far.toFixed(2)} m apart`);
    if (what.length > 0) return { tick, what };
  }
  return undefined;
}
