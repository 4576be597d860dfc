import { present } from '../present.js';
import type { Trace } from './trace.js';

/** Where two runs part: the first tick that differs, and what is different there, one plain line each. */
export interface Parting {
  tick: number;
  what: string[];
}

/**
 * The first tick at which two runs of the same moveset are not the same to the last bit, or undefined when one is the
 * beginning of the other. What somebody does (inputs) is reported before what comes of it.
 */
export function partingOf(a: Trace, b: Trace): Parting | undefined {
  const length = Math.min(a.records.length, b.records.length);
  for (let tick = 0; tick < length; tick++) {
    const what = differences(a, b, tick);
    if (what.length > 0) return { tick, what };
  }
  return undefined;
}

function differences(a: Trace, b: Trace, tick: number): string[] {
  const [one, other] = [present(a.records[tick]), present(b.records[tick])];
  const { machine } = a;
  const said = (name: string, x: number, y: number, unit: string): string[] =>
    Object.is(x, y) || x === y ? [] : [`${name}: ${number(x)}${unit} and ${number(y)}${unit}`];
  const state = (trace: Trace, leaf: number): string => present(trace.machine.states[leaf]).name;
  return [
    ...machine.controls.flatMap((c, i) => said(c.name, one.input[i] ?? 0, other.input[i] ?? 0, '')),
    ...machine.lanes.flatMap((lane, i) => {
      const [mine, theirs] = [
        state(a, present(one.leaves[i])),
        state(b, other.leaves[i] ?? present(one.leaves[i])),
      ];
      return mine === theirs ? [] : [`${lane.name}: ${mine} and ${theirs}`];
    }),
    ...said('x', one.body.x, other.body.x, ' m'),
    ...said('y', one.body.y, other.body.y, ' m'),
    ...said('vx', one.body.vx, other.body.vx, ' m/s'),
    ...said('vy', one.body.vy, other.body.vy, ' m/s'),
    ...machine.variables.flatMap((v, i) => said(v.name, one.variables[i] ?? 0, other.variables[i] ?? 0, '')),
  ];
}

/** Enough digits to see a difference, and no more. */
const number = (value: number): string => String(Number(value.toPrecision(6)));
