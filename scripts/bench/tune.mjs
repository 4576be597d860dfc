// Trying a moveset at many settings of its dials, as a sweep does on each of its threads.
import { readFileSync } from 'node:fs';
import { readMoveset } from '../../packages/core/dist/machine/index.js';
import { readTape, runTape } from '../../packages/core/dist/run/index.js';
import { createTrials } from '../../packages/core/dist/tune/index.js';
import { readCourse } from '../../packages/core/dist/world/index.js';
import { bestOf, isBrief, repeated, report } from './measure.mjs';

const example = (file) => readFileSync(new URL(`../../examples/${file}`, import.meta.url), 'utf8');

export function benchTuning() {
  const compiled = readMoveset(example('marram.yaml'));
  const { course } = readCourse(example('tide-mill.yaml'));
  const { tape } = readTape(example('ferry-crossing.yaml'));
  const trials = createTrials(compiled, [{ tape, course }]);
  let n = 0;
  const next = () => {
    n++;
    const { machine } = trials.turned({ trotSpeed: 4 + (n % 37) * 0.1, hopHeight: 1 + (n % 41) * 0.05 });
    trials.play(machine, 0);
  };
  // The code of the first setting is made fast before anything is measured.
  if (!isBrief) for (let i = 0; i < 200; i++) next();
  const again = () => trials.play(compiled.machine, 0);
  const reference = () => runTape(compiled.machine, course, tape);
  const [setting, play, whole] = bestOf(
    [repeated(8, 1, next), repeated(8, 1, again), repeated(1, 1, reference)],
    40,
  );
  report('a setting of two dials, compiled and the longest tape played', setting / 1e6, 'ms');
  report('settings a second on one thread', 1e9 / setting, 'runs/s', 'target: 500 on two');
  report('of it, the tape alone on a machine that is ready', play / setting, 'times as long');
  report('against the reference', whole / setting, 'times as fast');
}
