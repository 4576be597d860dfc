import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Machine, readMoveset } from '@glenmark/core/machine';
import { readCourse } from '@glenmark/core/world';
import { type RandomCase, randomCase } from './random-moveset.js';
import { firstDifference } from './together.js';

/** Cases that once told the two machines apart, shrunk; a new one is written here when it is found. */
const KEPT = fileURLToPath(new URL('kept/', import.meta.url));

function differenceIn(
  { moveset, course, inputs }: RandomCase,
  rate: number,
  allFacts: boolean,
): string | undefined {
  const read = readMoveset(moveset, { rate });
  const built = readCourse(course);
  if (read.machine === undefined || built.course === undefined)
    return [...read.diagnostics, ...built.diagnostics].map((d) => `${d.line}: ${d.message}`).join('; ');
  const machine: Machine = read.machine;
  const start = built.course.spawns[0]!;
  return firstDifference(machine, built.course, start, inputs, allFacts);
}

describe('random movesets, courses and inputs', () => {
  it('the fast machine does what the reference does, to the last bit', { timeout: 300_000 }, () => {
    const property = fc.property(
      randomCase,
      fc.constantFrom(30, 50, 60, 120, 144),
      fc.boolean(),
      (c, rate, all) => {
        expect(differenceIn(c, rate, all)).toBeUndefined();
      },
    );
    const result = fc.check(property, { numRuns: 600 });
    if (!result.failed) return;
    const [found, rate, all] = result.counterexample!;
    mkdirSync(KEPT, { recursive: true });
    writeFileSync(`${KEPT}${result.seed}.json`, `${JSON.stringify({ ...found, rate }, undefined, 1)}\n`);
    throw new Error(`kept as ${result.seed}.json: ${String(differenceIn(found, rate, all))}`);
  });

  const kept = existsSync(KEPT) ? readdirSync(KEPT) : [];
  it.each(kept)('the kept case %s', (file) => {
    const { rate, ...found } = JSON.parse(readFileSync(KEPT + file, 'utf8')) as RandomCase & { rate: number };
    for (const all of [true, false]) expect(differenceIn(found, rate, all)).toBeUndefined();
  });
});
