import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createScouting, type ScoutingReport } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { readCourse } from '@glenmark/core/world';
import { createPool, share } from '@glenmark/threads';
import { afterAll, describe, expect, it } from 'vitest';

const example = (file: string): string =>
  readFileSync(new URL(`../../../examples/${file}`, import.meta.url), 'utf8');
const moveset = example('courier.yaml');
const courseText = example('mill-yard.yaml');
const machine = readMoveset(moveset).machine!;
const course = readCourse(courseText).course!;
const WORKER = new URL('../dist/worker.js', import.meta.url);

const folder = mkdtempSync(join(tmpdir(), 'glenmark-threads-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A worker that dies when it has answered so many shares, each time that one is begun. */
function mortal(shares: number): URL {
  const file = join(folder, `mortal-${shares}.mjs`);
  writeFileSync(
    file,
    `import { parentPort } from 'node:worker_threads';
import ${JSON.stringify(WORKER.href)};
let left = ${shares};
const post = parentPort.postMessage.bind(parentPort);
parentPort.postMessage = (reply) => {
  if (--left < 0) throw new Error('out of memory');
  post(reply);
};\n`,
  );
  return pathToFileURL(file);
}

async function scouted(
  workers: number,
  file = WORKER,
): Promise<{ report: ScoutingReport; deaths: string[] }> {
  const scouting = createScouting(machine, [course], { findings: [], traps: [] }, { seed: 2, share });
  const deaths: string[] = [];
  const pool = createPool({
    workers,
    moveset,
    courses: [courseText],
    arenas: scouting.arenas,
    died: (reason) => deaths.push(reason),
    file,
  });
  try {
    await scouting.advance({ situations: 2500, expand: pool.expand });
  } finally {
    await pool.close();
  }
  return { report: scouting.report(), deaths };
}

describe('worker threads that scout together', () => {
  it('come to the same report however many they are, and as one thread does alone', async () => {
    const alone = createScouting(machine, [course], { findings: [], traps: [] }, { seed: 2 });
    await alone.advance({ situations: 2500 });
    const expected = alone.report();
    for (const workers of [1, 3]) {
      const { report, deaths } = await scouted(workers);
      expect(report).toEqual(expected);
      expect(deaths).toEqual([]);
    }
  });

  it('are replaced when they die, and the report is the same', async () => {
    const { report } = await scouted(2);
    const { report: after, deaths } = await scouted(2, mortal(2));
    expect(after).toEqual(report);
    expect(deaths.length).toBeGreaterThan(1);
    expect(new Set(deaths)).toEqual(new Set(['out of memory']));
  });

  it('say so when every one that is begun dies', async () => {
    await expect(scouted(2, mortal(0))).rejects.toThrow('a scouting worker died 3 times: out of memory');
  });
});
