import { beforeAll, describe, expect, it } from 'vitest';
import { CATALOGUE, type Finding } from '@glenmark/core/findings';

interface Shown {
  code: string;
  faulty: Finding[];
  sound: Finding[];
}

/** A script: it is plain JavaScript, as the reference is that it makes. */
const script = new URL('../../../scripts/examples.mjs', import.meta.url).pathname;

describe('the examples of the findings', () => {
  let examples: Shown[];
  beforeAll(async () => {
    const { findingExamples } = (await import(script)) as { findingExamples: () => Promise<Shown[]> };
    examples = await findingExamples();
  }, 120_000);

  it('are there for every code', () => {
    expect(examples.map((e) => e.code)).toEqual(Object.keys(CATALOGUE));
  });

  it.each(Object.keys(CATALOGUE))('%s is found in its example, and not in the sound twin', (code) => {
    const { faulty, sound } = examples.find((e) => e.code === code)!;
    expect(faulty.length).toBeGreaterThan(0);
    expect(sound).toEqual([]);
  });
});
