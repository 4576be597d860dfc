import { readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readTape, runTape, startOf, tapeInputs } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';
import { firstDifference } from './together.js';

const tapes = ['', 'mechanics/'].flatMap((folder) =>
  readdirSync(new URL(`../../../examples/${folder}`, import.meta.url))
    .filter((file) => file.endsWith('.yaml') && sample(folder + file).includes('\nkind: tape\n'))
    .map((file) => ({ name: folder + file, folder, file })),
);

describe('every sample tape meets its expectations, and the fast machine plays it to the last bit', () => {
  it.each(tapes)('$name', ({ folder, file }) => {
    const { tape, file: written } = readTape(sample(folder + file)) as Required<ReturnType<typeof readTape>>;
    const moveset = folder === '' ? `${written.moveset}.yaml` : file.replace('.tape', '');
    const machine = machineOf(sample(folder + moveset));
    const course = readCourse(sample(`${folder}${tape.course}.yaml`)).course!;
    const start = startOf(tape, course)!;
    expect(runTape(machine, course, tape).session!.expectations.filter((e) => !e.passed)).toEqual([]);
    for (const allFacts of [true, false])
      expect(firstDifference(machine, course, start, tapeInputs(tape, machine), allFacts)).toBeUndefined();
  });
});
