import { deserialize, serialize } from 'node:v8';
import { parentPort, workerData } from 'node:worker_threads';
import { deflateSync, inflateSync } from 'node:zlib';
import {
  coverageOf,
  createLeg,
  gather,
  type Gathered,
  groundOfShards,
  type LegResult,
  legsOf,
  mergedReport,
  proveAll,
  type ShardGround,
  startOfShards,
} from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { readCourse } from '@glenmark/core/world';
import type { LegAnswer, LegQuestion, SharedPlan } from './leg-work.js';

const port = parentPort!;
const stop = new Int32Array(workerData as SharedArrayBuffer);

/** The scouting that was worked at last: what to prove of it is proved once. */
let last: { key: string; plan: SharedPlan; ground: ShardGround; so: Gathered } | undefined;

function prepared({ key, plan }: LegQuestion): NonNullable<typeof last> {
  if (last?.key === key) return last;
  const { machine } = readMoveset(plan.moveset);
  if (machine === undefined) throw new Error('the moveset does not load');
  const courses = plan.courses.map((text, i) => {
    const { course } = readCourse(text);
    if (course === undefined) throw new Error(`course ${i + 1} does not load`);
    return course;
  });
  const { seed, grid, parts } = plan;
  const ground = groundOfShards(machine, courses, proveAll(machine), {
    seed,
    parts,
    ...(grid === undefined ? {} : { grid }),
  });
  const so = startOfShards(courses.length, ground.shards.length, plan.situations);
  last = { key, plan, ground, so };
  return last;
}

const packed = (result: LegResult): Uint8Array => deflateSync(serialize(result), { level: 1 });
const unpacked = (bytes: Uint8Array): LegResult => deserialize(inflateSync(bytes)) as LegResult;

/** How often it tells how far it is (ms). */
const TELL_EVERY = 500;

async function answer(question: LegQuestion): Promise<LegAnswer> {
  const at = prepared(question);
  for (const leg of question.results) at.so = gather(at.so, at.ground.shards, leg.map(unpacked));
  if (question.kind === 'report')
    return { kind: 'report', report: mergedReport(at.ground, at.so), legs: at.so.legs };
  const { machine, shards } = at.ground;
  const leg = createLeg(at.ground, question.shard, at.so);
  const situations = legsOf(at.plan.situations, shards.length)[at.so.legs]!;
  let told = Date.now();
  await leg.advance({
    situations,
    goesOn: () => Atomics.load(stop, 0) === 0,
    progress({ situations, ticks }) {
      if (Date.now() - told < TELL_EVERY) return;
      told = Date.now();
      port.postMessage({ kind: 'progress', situations, ticks } satisfies LegAnswer);
    },
  });
  if (Atomics.load(stop, 0) !== 0) return { kind: 'stopped', legs: at.so.legs };
  const result = leg.result();
  const steps = result.sightings.flatMap(({ event }) => (event.kind === 'taken' ? [event] : []));
  return {
    kind: 'leg',
    legs: at.so.legs,
    result: packed(result),
    shown: { findings: result.findings, coverage: coverageOf(machine, steps) },
    situations: result.situations,
    ticks: result.ticks,
  };
}

port.on('message', (question: LegQuestion) => {
  answer(question).then(
    (reply) => port.postMessage(reply),
    (error: unknown) => {
      // What was prepared may be why: the next one begins anew.
      last = undefined;
      port.postMessage({
        kind: 'failed',
        reason: error instanceof Error ? error.message : String(error),
      } satisfies LegAnswer);
    },
  );
});
