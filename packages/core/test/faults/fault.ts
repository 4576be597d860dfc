import { expect, it } from 'vitest';
import { type Code, type Finding, findAll, questionOf } from '@glenmark/core/findings';
import { machineOf } from '../helpers.js';

/** A faulty moveset, the smallest edit that makes it sound, and what must be said of it. */
export interface Fault {
  text: string;
  /** Texts of the moveset and what they are in the sound twin. */
  edits: Record<string, string>;
  code: Code;
  state?: string;
  /** Parts of the sentence, or of its reason. */
  says: string[];
}

/** All faults of a moveset but what is only untidy, and what is only suspected. */
export const faultsOf = (text: string): Finding[] =>
  findAll(machineOf(text), []).filter((f) => questionOf(f.code) !== 'tidy' && f.certainty !== 'suspected');

export function edited(text: string, edits: Record<string, string>): string {
  return Object.entries(edits).reduce((now, [from, to]) => {
    if (!now.includes(from)) throw new Error(`“${from}” is not in the moveset`);
    return now.replace(from, to);
  }, text);
}

/** That a fault is found without a run, once and with its cause, and nothing in its sound twin. */
export function itFinds(title: string, { text, edits, code, state, says }: Fault): void {
  it(title, () => {
    const found = faultsOf(text);
    expect(found.map((f) => f.code)).toEqual([code]);
    const [fault] = found;
    if (state !== undefined) expect(fault!.state).toBe(state);
    const words = [fault!.sentence, ...fault!.reason].join('\n');
    for (const part of says) expect(words).toContain(part);
    expect(
      faultsOf(edited(text, edits)).map((f) => f.sentence),
      'the sound twin',
    ).toEqual([]);
  });
}
