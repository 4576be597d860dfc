// A tick as generated C++ in a game, and as the fast machine decides it: both without a world to speak of.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LANGUAGES, outlineOf } from '../../packages/core/dist/code/index.js';
import { createFast, readMoveset, startFast } from '../../packages/core/dist/machine/index.js';
import { move } from '../../packages/core/dist/machine/running/move.js';
import { beginTick } from '../../packages/core/dist/machine/running/senses.js';
import { readGameLog } from '../../packages/core/dist/run/index.js';
import { buildWorld, readCourse } from '../../packages/core/dist/world/index.js';
import { root } from '../build.mjs';
import { bestOf, isBrief, report } from './measure.mjs';

const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');

/** Nanoseconds of a tick in the stand-in game, and the log of that; undefined where there is no compiler. */
function playedInGame(compiled) {
  if (spawnSync('g++', ['--version'], { stdio: 'ignore' }).error !== undefined) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-bench-'));
  try {
    const outline = outlineOf(compiled);
    const cpp = LANGUAGES.find(({ id }) => id === 'cpp');
    writeFileSync(join(folder, cpp.file(outline)), cpp.print(outline));
    const make = (from, to) =>
      execFileSync('g++', [
        '-std=c++17',
        '-O2',
        '-ffp-contract=off',
        '-I',
        folder,
        join(root, from),
        '-o',
        join(folder, to),
      ]);
    make('scripts/bench/game.cpp', 'bench');
    make('examples/game-loop/loop.cpp', 'loop');
    const run = (name, ...args) => execFileSync(join(folder, name), args, { encoding: 'utf8' });
    return { perTick: Number(run('bench', isBrief ? '1' : '20000').split(' ')[0]), log: run('loop') };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Steps 2 to 6 of the ticks of a log on the fast machine, each from the situation that it had there. */
function decisions({ machine }, log) {
  const world = buildWorld(readCourse(sample('game-loop/quay.yaml')).course, machine.stances, machine.casts);
  const fast = createFast(machine, world);
  const s = startFast(fast, { x: 1, y: 0, facing: 1 });
  const inputs = readGameLog(machine, log).log.inputs.map((input) => Float64Array.from(input));
  const run = (input) => {
    fast.takenCount = 0;
    fast.tiedCount = 0;
    beginTick(fast.senses, s);
    fast.run(s, fast.facts, input);
  };
  const before = inputs.map((input) => {
    const saved = s.slice();
    run(input);
    move(fast, s);
    return saved;
  });
  const work = () => {
    for (let i = 0; i < inputs.length; i++) {
      s.set(before[i]);
      run(inputs[i]);
    }
  };
  return Array.from({ length: 4 }, () => ({ count: inputs.length, work }));
}

export function benchCode() {
  const compiled = readMoveset(sample('courier.yaml'));
  const game = playedInGame(compiled);
  if (game === undefined) {
    process.stderr.write('No g++ here: generated code is not measured.\n');
    return;
  }
  const [own] = bestOf([decisions(compiled, game.log)], 400);
  report('a tick of the courier as C++ in the stand-in game', game.perTick, 'ns');
  report('the decisions and motion of the same tick on the fast machine', own, 'ns');
  report('the fast machine against the C++', own / game.perTick, 'times as long', 'target: at most 2');
}
