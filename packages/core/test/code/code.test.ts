import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LANGUAGES, outlineOf } from '@glenmark/core/code';
import { readMoveset } from '@glenmark/core/machine';
import { kindOf, slugOf } from '@glenmark/core/model';
import { readTape, startOf, tapeInputs } from '@glenmark/core/run';
import { type Course, readCourse } from '@glenmark/core/world';
import { type RandomCase, randomCase } from '../random-moveset.js';
import { type Case, firstApart, missingFor, runCases } from './drivers.js';
import { record } from './record.js';

const EXAMPLES = fileURLToPath(new URL('../../../../examples/', import.meta.url));

/** A random moveset under a name of its own, with what it does. */
function randomCode({ moveset, course, inputs }: RandomCase, name: string): Case {
  const compiled = readMoveset(moveset, { rate: 60 });
  const { course: built } = readCourse(course);
  const machine = { ...compiled.machine!, name };
  const outline = outlineOf({ ...compiled, machine });
  return { outline, recorded: record(machine, built!, built!.spawns[0]!, inputs, outline) };
}

/** Every tape of the samples and of the mechanics, each with its moveset under a name of its own. */
function sampleCodes(): Case[] {
  return [EXAMPLES, join(EXAMPLES, 'mechanics')].flatMap((folder) => {
    const texts = readdirSync(folder)
      .filter((file) => file.endsWith('.yaml'))
      .map((file) => ({ file: basename(file, '.yaml'), text: readFileSync(join(folder, file), 'utf8') }));
    const of = (kind: string): typeof texts => texts.filter(({ text }) => kindOf(text) === kind);
    const movesets = of('moveset').map(({ file, text }) => {
      const compiled = readMoveset(text);
      return { names: [file, slugOf(compiled.machine!.name)], compiled };
    });
    const courses = of('course').map(({ file, text }) => ({ file, course: readCourse(text).course! }));
    const courseOf = (name: string): Course | undefined =>
      courses.find(({ file, course }) => file === slugOf(name) || slugOf(course.name) === slugOf(name))
        ?.course;
    return of('tape').flatMap(({ file, text }): Case[] => {
      const { tape, file: document } = readTape(text);
      const wanted = slugOf(document?.moveset ?? '');
      const moveset = movesets.find(({ names }) => names.includes(wanted));
      const course = courseOf(tape!.course);
      if (moveset === undefined || course === undefined)
        throw new Error(`${file} has no moveset or no course`);
      const { compiled } = moveset;
      const machine = { ...compiled.machine!, name: `Tape ${file}` };
      const outline = outlineOf({ ...compiled, machine });
      return [
        {
          outline,
          recorded: record(machine, course, startOf(tape!, course)!, tapeInputs(tape!, machine), outline),
        },
      ];
    });
  });
}

/** How many random movesets: other ones each time. Compiling them takes the time. */
const RUNS = Number(process.env['GLENMARK_RUNS'] ?? 100);

const seed = Math.floor(Math.random() * 2 ** 31);
let folder: string;
let random: Case[];
let samples: Case[];

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-code-'));
  random = fc.sample(randomCase, { numRuns: RUNS, seed }).map((found, n) => randomCode(found, `Random ${n}`));
  samples = sampleCodes();
});
afterAll(() => rmSync(folder, { recursive: true }));

describe.each(LANGUAGES)('a moveset in $title', (language) => {
  const missing = missingFor(language);
  if (missing !== undefined)
    process.stderr.write(`${language.title} is not tested: it needs Debian's packages ${missing}.\n`);

  it.skipIf(missing !== undefined)('does what the machine does, for every tape of the samples', () => {
    expect(samples.length).toBeGreaterThan(30);
    const got = runCases(language, samples, join(folder, `${language.id}-samples`), 2);
    expect(samples.flatMap((one, n) => firstApart(one, got[n]!) ?? [])).toEqual([]);
  });

  it.skipIf(missing !== undefined)('does what the machine does, for random movesets', () => {
    const got = runCases(language, random, join(folder, language.id), 0);
    const apart = random.flatMap((one, n) => firstApart(one, got[n]!) ?? []);
    expect(apart, `seed ${seed}`).toEqual([]);
  });
});
