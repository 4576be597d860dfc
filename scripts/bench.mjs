// `npm run bench` (`-- --json` for lines of JSON): figures of this machine, measured in one run.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  buildWorld,
  findAll,
  readCourse,
  readMoveset,
  readTape,
  startSituation,
  tapeInputs,
  tick,
} from '../packages/core/dist/index.js';
import { root } from './build.mjs';

const json = process.argv.includes('--json');
const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

/** The median time of some runs, in milliseconds, after a few that warm up. */
function median(runs, work) {
  const times = [];
  for (let i = 0; i < runs + 3; i++) {
    const start = process.hrtime.bigint();
    work();
    if (i >= 3) times.push(Number(process.hrtime.bigint() - start) / 1e6);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

function report(name, value, unit, target) {
  process.stdout.write(
    json
      ? `${JSON.stringify({ name, value, unit, target })}\n`
      : `${name.padEnd(58)}${value.toFixed(value < 100 ? 2 : 0).padStart(12)} ${unit.padEnd(10)}${target ?? ''}\n`,
  );
}

/** A moveset of a given size: states in rings, guards that differ, everything declared and used. */
function largeMoveset(lanes, states, crossings) {
  const lines = [
    'glenmark: 1',
    'kind: moveset',
    'name: Large',
    'gravity: 30 m/s2',
    'dials:',
    ...Array.from({ length: 20 }, (_, i) => `  d${i}: { value: ${i + 1} m/s, min: 0 m/s, max: 50 m/s }`),
  ];
  lines.push(
    'controls:',
    '  move: { axis: { negative: [KeyA], positive: [KeyD] } }',
    '  hop: { button: [Space] }',
    'body:',
    '  stances:',
    '    tall: { shape: capsule, width: 0.7 m, height: 1.7 m }',
  );
  lines.push(
    'variables:',
    ...Array.from({ length: 8 }, (_, i) => `  f${i}: { flag: false }`),
    'timers:',
    '  t: { length: 0.5 s }',
    'lanes:',
  );
  for (let l = 0; l < lanes; l++) {
    const own = states / lanes;
    lines.push(`  - name: lane${l}`, `    initial: L${l}S0`, '    states:');
    for (let s = 0; s < own; s++)
      lines.push(
        `      L${l}S${s}: { stance: tall, enter: [start t, "f${s % 8} := true"], motion: { drive: { to: axis(move) * d${s % 20}, gain: 60 m/s2 } } }`,
      );
    lines.push('    crossings:');
    for (let c = 0; c < crossings / lanes; c++) {
      lines.push(
        `      - { from: L${l}S${c % own}, to: L${l}S${(c * 7 + 1) % own}, when: pressed(hop) within 0.1 s and vx > d${c % 20} and (f${c % 8} or done(t)) and not grounded, rank: ${c % 3}, do: ["vy := d${c % 20}"] }`,
      );
    }
  }
  return `${lines.join('\n')}\n`;
}

const large = largeMoveset(4, 60, 400);
const loaded = readMoveset(large);
if (loaded.machine === undefined) throw new Error(loaded.diagnostics[0].message);
report(
  'load a moveset of 60 states, 400 crossings, 4 lanes',
  median(15, () => readMoveset(large)),
  'ms',
);
report(
  'check it (structure and every guard)',
  median(15, () => findAll(loaded.machine, [])),
  'ms',
);
report(
  'load and check it',
  median(15, () => findAll(readMoveset(large).machine, [])),
  'ms',
  'target: under 150 ms',
);

const { machine } = readMoveset(sample('courier.yaml'));
const { course } = readCourse(sample('mill-yard.yaml'));
const { tape } = readTape(sample('yard-crossing.yaml'));
const world = buildWorld(course, machine.stances);
const inputs = tapeInputs(tape, machine);
const spawn = course.spawns.find((s) => s.name === tape.spawn);
const perTape = median(15, () => {
  const s = startSituation(machine, world, spawn);
  for (const input of inputs) tick(machine, world, s, input);
});
report(
  'whole ticks of the courier in the mill yard',
  (inputs.length / perTape) * 1000,
  'ticks/s',
  'the reference machine',
);
