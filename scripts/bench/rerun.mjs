// An edit of a long tape: what comes before it is not played again.
import { readFileSync } from 'node:fs';
import { readMoveset } from '../../packages/core/dist/machine/index.js';
import { playOn } from '../../packages/core/dist/run/index.js';
import { buildWorld, readCourse } from '../../packages/core/dist/world/index.js';
import { bestOf, repeated, report } from './measure.mjs';

const example = (file) => readFileSync(new URL(`../../examples/${file}`, import.meta.url), 'utf8');

export function benchRerun() {
  const { machine } = readMoveset(example('marram.yaml'));
  const { course } = readCourse(example('tide-mill.yaml'));
  const world = buildWorld(course, machine.stances, machine.casts);
  const spawn = course.spawns[0];
  const TICKS = 10_000;
  // To and fro in the yard, with a hop now and then.
  const input = (tick) =>
    machine.controls.map(({ name }) =>
      name === 'move' ? (tick % 200 < 100 ? 1 : -1) : name === 'hop' ? Number(tick % 60 < 12) : 0,
    );
  const inputs = Array.from({ length: TICKS }, (_, tick) => input(tick));
  const changedAt = (tick) => inputs.map((row, i) => (i === tick ? row.map((v) => 1 - v) : row));
  const kept = playOn(machine, world, spawn, inputs, { sees: true });
  const early = changedAt(100);
  const late = changedAt(9_000);
  const play = (list, before) =>
    repeated(1, 1, () => playOn(machine, world, spawn, list, { sees: true, kept: before }));
  const [whole, near, far] = bestOf([play(inputs), play(early, kept), play(late, kept)], 8);
  report('a run of 10,000 ticks of Marram, for the score', whole / 1e6, 'ms');
  report('the same run after an edit at tick 100', near / whole, 'times');
  report('after an edit at tick 9,000', far / whole, 'times', 'target: under 0.15');
}
