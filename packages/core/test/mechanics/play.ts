import { expect } from 'vitest';
import type { Trace } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { machineOf, movesetText, playInputs } from '../helpers.js';
import { firstDifference } from '../together.js';

/** The tick rates at which a mechanic is held to its closed form. */
export const RATES = [30, 50, 60, 120, 144];

/** A slope of an angle that rises to the right of x = 0 (or falls, when negative), with level ground before it. */
export function slope(degrees: number, length = 60): Course {
  const rise = Math.tan((degrees * Math.PI) / 180) * length;
  const deep = Math.min(0, rise) - 5;
  const { course, diagnostics } = readCourse(`glenmark: 1
kind: course
name: Slope
solids:
  - { points: [[-60 m, ${deep} m], [0 m, ${deep} m], [0 m, 0 m], [-60 m, 0 m]] }
  - { points: [[0 m, ${deep} m], [${length} m, ${deep} m], [${length} m, ${rise} m], [0 m, 0 m]] }
spawns: { start: { at: [-1 m, 0 m] } }
`);
  if (course === undefined) throw new Error(diagnostics.map((d) => d.message).join());
  return course;
}

/** The steepness of the slopes that say nothing else (degrees). */
export const SLOPE = 30;
/** A place on the slope, well away from its foot. */
export const on = (degrees: number, x: number) => ({
  x,
  y: Math.tan((degrees * Math.PI) / 180) * x + 0.02,
  facing: 1 as const,
});

/** A moveset of one state. */
export const oneState = (state: string, extra = ''): string =>
  movesetText({ states: `      S: { stance: tall, ${state} }`, initial: 'S', extra });

/** Speed along the slope after a tick, and whether the body stood on it in every tick from one on. */
export const along = (trace: Trace, t: number): number => {
  const { vx, vy } = trace.records[t]!.body;
  return Math.sign(vx || vy) * Math.sqrt(vx * vx + vy * vy);
};

export const stands = (trace: Trace, from = 1): boolean => trace.records.slice(from).every((r) => r.grounded);

/** Plays the same on both machines, which must agree. */
export function both(
  text: string,
  course: Course,
  ticks: number,
  rate: number,
  input: (t: number) => Record<string, number>,
  at?: { x: number; y: number; facing: 1 | -1 },
): Trace {
  const machine = machineOf(text, rate);
  const inputs = Array.from({ length: ticks }, (_, t) => machine.controls.map((c) => input(t)[c.name] ?? 0));
  expect(firstDifference(machine, course, at ?? course.spawns[0]!, inputs, true)).toBeUndefined();
  return playInputs(machine, course, ticks, input, at);
}
