// Whole ticks: input, sensing, clocks, lanes, motion, sweep; recording off.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  createFast,
  readMoveset,
  startFast,
  startSituation,
  step,
  tick,
} from '../../packages/core/dist/machine/index.js';
import { readTape, startOf, tapeInputs } from '../../packages/core/dist/run/index.js';
import { buildWorld, readCourse } from '../../packages/core/dist/world/index.js';
import { root } from '../build.mjs';
import { bestOf, repeated, report } from './measure.mjs';
import { largeMoveset, longCourse } from './movesets.mjs';
import { boxSweeps, kinematicSteps, rigidSteps } from './yardstick.mjs';

/** How often each slice of a fast piece is run. */
const ROUNDS = 300;

const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

/** Movesets with tapes on a course: what one round of ticks plays. */
function scene(moveset, course, tapes) {
  const { machine } = readMoveset(sample(moveset));
  const built = readCourse(sample(course)).course;
  const plays = tapes.map((file) => {
    const { tape } = readTape(sample(file));
    return {
      at: startOf(tape, built),
      inputs: tapeInputs(tape, machine).map((input) => Float64Array.from(input)),
    };
  });
  return { machine, course: built, plays };
}

/** Plays cut into slices of so many ticks; each begins where the one before it ended, and each play at its start. */
const slicesOf = (plays, length, begin, run) =>
  plays.flatMap(({ inputs }, play) =>
    Array.from({ length: Math.ceil(inputs.length / length) }, (_, i) => {
      const part = inputs.slice(i * length, (i + 1) * length);
      const work = () => {
        if (i === 0) begin(play);
        for (const input of part) run(input);
      };
      return { count: part.length, work };
    }),
  );

/** Ticks of the fast machine as a piece of work to measure. */
function fastTicks({ machine, course, plays }, options = {}) {
  const fast = createFast(machine, buildWorld(course, machine.stances, machine.casts, options));
  const starts = plays.map(({ at }) => startFast(fast, at));
  const s = starts[0].slice();
  return slicesOf(
    plays,
    200,
    (play) => s.set(starts[play]),
    (input) => step(fast, s, input),
  );
}

function referenceTicks({ machine, course, plays }) {
  const world = buildWorld(course, machine.stances, machine.casts);
  let s;
  return slicesOf(
    plays,
    4,
    (play) => (s = startSituation(machine, world, plays[play].at)),
    (input) => tick(machine, world, s, [...input]),
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

export async function benchTicks() {
  const demo = scene('marram.yaml', 'tide-mill.yaml', [
    'shaft-climb.yaml',
    'winch-swing.yaml',
    'draught-ride.yaml',
    'ferry-crossing.yaml',
  ]);
  const [perDemo, rigid, kinematic, box] = bestOf(
    [
      fastTicks(demo),
      rigidSteps(demo.course),
      await kinematicSteps(demo.course),
      await boxSweeps(demo.course),
    ],
    ROUNDS,
  );
  report('ticks of Marram, 3 lanes, in the tide mill', 1e9 / perDemo, 'ticks/s', 'target: 1,300,000');
  report('a rigid-body step of the same course', rigid, 'ns');
  report('a kinematic-controller step of the same course', kinematic, 'ns');
  report('a whole tick against a rigid-body step', rigid / perDemo, 'times', 'target: 8 times as fast');
  report(
    'a whole tick against a kinematic-controller step',
    kinematic / perDemo,
    'times',
    'target: 30 times as fast',
  );
  report('a whole tick against a bare sweep of a box', perDemo / box, 'times as long');
  const [quick, slow] = bestOf([fastTicks(demo), referenceTicks(demo)], 30);
  report('the fast machine against the reference', slow / quick, 'times');
  const courier = scene('courier.yaml', 'mill-yard.yaml', ['yard-crossing.yaml', 'culvert-slide.yaml']);
  const kite = scene('signal-kite.yaml', 'mill-yard.yaml', ['kite-up.yaml']);
  const eight = running(largeMoveset(8, 32, 64), 20);
  const perLane = bestOf(
    [kite, courier, eight].map((on) => fastTicks(on)),
    ROUNDS,
  );
  report('ticks of the signal kite, 1 lane', 1e9 / perLane[0], 'ticks/s');
  report('ticks of the courier, 2 lanes, in the mill yard', 1e9 / perLane[1], 'ticks/s');
  report('ticks of 8 lanes of 4 states', 1e9 / perLane[2], 'ticks/s');
  const courierText = sample('courier.yaml');
  const per = bestOf(
    [20, 200, 2000, 20_000].map((solids) => fastTicks(running(courierText, solids))),
    ROUNDS,
  );
  report('ticks of the courier among 20 solids', 1e9 / per[0], 'ticks/s');
  report('a tick among 200 solids against one among 20', per[1] / per[0], 'times');
  report('a tick among 2,000 solids against one among 20', per[2] / per[0], 'times');
  report('a tick among 20,000 solids against one among 20', per[3] / per[0], 'times', 'target: under 1.5');
  // Last, for code that has seen both geometries is slower with either.
  const [plain, again] = bestOf([fastTicks(demo, { plain: true }), rigidSteps(demo.course)], ROUNDS);
  report(
    'a whole tick without the kernel against one with it',
    plain / again / (perDemo / rigid),
    'times as long',
  );
  const fast = createFast(demo.machine, buildWorld(demo.course, demo.machine.stances, demo.machine.casts));
  const from = startFast(fast, demo.plays[0].at);
  const to = from.slice();
  const copy = (n) => {
    for (let i = 0; i < n; i++) to.set(from);
  };
  const [copied] = bestOf([repeated(10, 8000, copy)], ROUNDS);
  report(`copying a situation of ${from.byteLength} bytes`, copied, 'ns');
}
