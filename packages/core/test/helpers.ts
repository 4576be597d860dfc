import { readdirSync, readFileSync } from 'node:fs';
import { type Machine, readMoveset } from '@glenmark/core/machine';
import { play, type Trace } from '@glenmark/core/run';
import { type Course, readCourse, buildWorld } from '@glenmark/core/world';

/** A sample's text. */
export const sample = (file: string): string =>
  readFileSync(new URL(`../../../examples/${file}`, import.meta.url), 'utf8');

/** Every sample document of a folder of the examples, by the name that `sample` takes. */
export const samplesIn = (folder: '' | 'mechanics/' | 'kits/'): string[] =>
  readdirSync(new URL(`../../../examples/${folder}`, import.meta.url))
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => folder + name);

/** A machine from text that must be right. */
export function machineOf(text: string, rate?: number): Machine {
  const { machine, diagnostics } = readMoveset(text, { rate });
  if (machine === undefined)
    throw new Error(diagnostics.map((d) => `${d.line}:${d.column} ${d.message}`).join('\n'));
  return machine;
}

export function courseOf(solids: string, spawn = '[0 m, 0 m]'): Course {
  const { course, diagnostics } = readCourse(
    `glenmark: 1\nkind: course\nname: Test\nsolids:\n${solids}\nspawns: { start: { at: ${spawn} } }\n`,
  );
  if (course === undefined) throw new Error(diagnostics.map((d) => d.message).join('\n'));
  return course;
}

/** A long flat floor at y = 0, cut into pieces so that every walk crosses seams. */
export const FLOOR = Array.from(
  { length: 20 },
  (_, i) => `  - { box: [[${i * 10 - 100} m, -1 m], [${i * 10 - 90} m, 0 m]] }`,
).join('\n');

/** A moveset with one lane, given its parts. */
export function movesetText(parts: {
  states: string;
  crossings?: string;
  initial: string;
  shape?: string;
  extra?: string;
  gravity?: string;
  lanes?: string;
}): string {
  return `glenmark: 1
kind: moveset
name: Test
gravity: ${parts.gravity ?? '30 m/s2'}
controls:
  move: { axis: { negative: [KeyA], positive: [KeyD] } }
  hop: { button: [Space] }
  dash: { button: [KeyF] }
body:
  stances:
    tall: { shape: ${parts.shape ?? 'capsule'}, width: 0.7 m, height: 1.7 m }
    low: { shape: ${parts.shape ?? 'capsule'}, width: 0.7 m, height: 0.8 m }
${parts.extra ?? ''}
lanes:
  - name: legs
    initial: ${parts.initial}
    states:
${parts.states}
    crossings:
${parts.crossings ?? '      []'}
${parts.lanes ?? ''}`;
}

/** Plays inputs by control name; anything not named is 0. */
export function playInputs(
  machine: Machine,
  course: Course,
  ticks: number,
  input: (tick: number) => Record<string, number>,
  at?: { x: number; y: number; facing: 1 | -1 },
): Trace {
  const world = buildWorld(course, machine.stances);
  const inputs = Array.from({ length: ticks }, (_, t) => machine.controls.map((c) => input(t)[c.name] ?? 0));
  return play(machine, world, at ?? course.spawns[0]!, inputs);
}

/** Names of the states of the first lane, tick by tick. */
export const statesOf = (trace: Trace, lane = 0): string[] =>
  trace.records.map((r) => trace.machine.states[r.leaves[lane]!]!.name);
