// Whole ticks: input, sensing, clocks, lanes, motion, sweep; recording off.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  buildWorld,
  lower,
  readCourse,
  readMoveset,
  readTape,
  startFast,
  startSituation,
  step,
  tapeInputs,
  tick,
} from '../../packages/core/dist/index.js';
import { root } from '../build.mjs';
import { best, report } from './measure.mjs';
import { largeMoveset, longCourse } from './movesets.mjs';

const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

/** Movesets with tapes on a course: what one round of ticks plays. */
function scene(moveset, course, tapes) {
  const { machine } = readMoveset(sample(moveset));
  const built = readCourse(sample(course)).course;
  const plays = tapes.map((file) => {
    const { tape } = readTape(sample(file));
    return {
      at: built.spawns.find((s) => s.name === tape.spawn),
      inputs: tapeInputs(tape, machine).map((input) => Float64Array.from(input)),
    };
  });
  return { machine, course: built, plays };
}

/** Nanoseconds a tick of the fast machine. */
function fastTick({ machine, course, plays }) {
  const fast = lower(machine, buildWorld(course, machine.stances, machine.casts));
  const starts = plays.map(({ at }) => startFast(fast, at));
  const s = starts[0].slice();
  const ticks = plays.reduce((sum, { inputs }) => sum + inputs.length, 0);
  const rounds = Math.ceil(60_000 / ticks);
  return best(rounds * ticks, () => {
    for (let r = 0; r < rounds; r++)
      plays.forEach(({ inputs }, i) => {
        s.set(starts[i]);
        for (const input of inputs) step(fast, s, input);
      });
  });
}

function referenceTick({ machine, course, plays }) {
  const world = buildWorld(course, machine.stances, machine.casts);
  const ticks = plays.reduce((sum, { inputs }) => sum + inputs.length, 0);
  return best(
    ticks,
    () => {
      for (const { at, inputs } of plays) {
        const s = startSituation(machine, world, at);
        for (const input of inputs) tick(machine, world, s, [...input]);
      }
    },
    4,
  );
}

/** A body that runs and hops along a course for two thousand ticks. */
function running(moveset, solids) {
  const { machine } = readMoveset(moveset);
  const { course } = readCourse(longCourse(solids));
  const at = course.spawns[0];
  const of = (name) => machine.controls.findIndex((c) => c.name === name);
  const inputs = Array.from({ length: 600 }, (_, t) => {
    const input = new Float64Array(machine.controls.length);
    // Back and forth, so that a short course and a long one are run alike.
    input[of('move')] = t % 120 < 60 ? 1 : -1;
    if (of('hop') >= 0) input[of('hop')] = t % 50 < 12 ? 1 : 0;
    return input;
  });
  return { machine, course, plays: [{ at, inputs }] };
}

/** Returns nanoseconds a tick of the demo, for the yardstick. */
export function benchTicks() {
  const demo = scene('marram.yaml', 'tide-mill.yaml', [
    'shaft-climb.yaml',
    'winch-swing.yaml',
    'draught-ride.yaml',
    'ferry-crossing.yaml',
  ]);
  const courier = scene('courier.yaml', 'mill-yard.yaml', ['yard-crossing.yaml', 'culvert-slide.yaml']);
  const kite = scene('signal-kite.yaml', 'mill-yard.yaml', ['kite-up.yaml']);
  const perDemo = fastTick(demo);
  const slow = referenceTick(demo);
  report('ticks of Marram, 3 lanes, in the tide mill', 1e9 / perDemo, 'ticks/s', 'target: 1,000,000');
  report('ticks of the courier, 2 lanes, in the mill yard', 1e9 / fastTick(courier), 'ticks/s');
  report('ticks of the signal kite, 1 lane', 1e9 / fastTick(kite), 'ticks/s');
  report('the fast machine against the reference', slow / perDemo, 'times');
  const eight = largeMoveset(8, 32, 64);
  report('ticks of 8 lanes of 4 states', 1e9 / fastTick(running(eight, 20)), 'ticks/s');
  const courierText = sample('courier.yaml');
  const per = [20, 200, 2000].map((solids) => fastTick(running(courierText, solids)));
  report('ticks of the courier among 20 solids', 1e9 / per[0], 'ticks/s');
  report('a tick among 200 solids against one among 20', per[1] / per[0], 'times');
  report('a tick among 2,000 solids against one among 20', per[2] / per[0], 'times', 'target: under 1.5');
  const fast = lower(demo.machine, buildWorld(demo.course, demo.machine.stances, demo.machine.casts));
  const from = startFast(fast, demo.plays[0].at);
  const to = from.slice();
  report(
    `copying a situation of ${from.byteLength} bytes`,
    best(1e6, (n) => {
      for (let i = 0; i < n; i++) to.set(from);
    }),
    'ns',
  );
  return { perDemo, course: demo.course };
}
