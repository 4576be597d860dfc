import { type Machine, slotOf } from '../../machine/index.js';
import type { PlainFact } from '../../notation/index.js';
import type { TickRecord } from '../../run/index.js';
import type { Finding } from '../catalogue.js';

/** A fault as a run shows it: a finding before it is known which tape is its witness. */
export type Sign = Omit<Finding, 'certainty' | 'witness'> & { tick: number };

/** Looks for one kind of fault in what a run recorded; each fault once, at the first tick that shows it. */
export type Detector = (machine: Machine, records: readonly TickRecord[]) => Sign[];

/** The first sign of each fault. */
export function once(signs: readonly Sign[]): Sign[] {
  const seen = new Set<string>();
  return signs.filter(({ fingerprint }) => !seen.has(fingerprint) && seen.add(fingerprint));
}

/** A sign as a finding, with the tape that shows it. */
export const witnessedBy = ({ tick, ...sign }: Sign, witness: { tape: string; text?: string }): Finding => ({
  ...sign,
  certainty: 'witnessed',
  reason: [
    `Tape “${witness.tape}”, tick ${tick}: ${sign.reason[0] ?? sign.sentence}`,
    ...sign.reason.slice(1),
  ],
  witness: { ...witness, tick },
});

/** A fact as the lanes decided on it in a tick. */
export const factOf = (machine: Machine, record: TickRecord, fact: PlainFact): number =>
  record.facts[slotOf(machine.facts, fact)]!;

/** Whether the controls were the same in two ticks. */
export const sameInput = (a: TickRecord, b: TickRecord): boolean => a.input.every((v, i) => v === b.input[i]);
