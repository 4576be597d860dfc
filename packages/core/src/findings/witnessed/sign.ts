import { present } from '../../present.js';
import { type Machine, slotOf, type Taken } from '../../machine/index.js';
import type { PlainFact } from '../../notation/index.js';
import type { TickRecord } from '../../run/index.js';
import type { Code } from '../catalogue/catalogue.js';
import {
  type Established,
  type Finding,
  restated,
  createFinding,
  type Witness,
} from '../sentences/finding.js';

/** A fault as a run shows it, before it is known which tape is its witness. */
export interface Sign {
  finding: Finding;
  tick: number;
}

/** Looks for one kind of fault in what a run recorded; each fault once, at the first tick that shows it. */
export type Detector = (machine: Machine, records: readonly TickRecord[]) => Sign[];

/** A sign of a fault at a tick. */
export const signAt = (tick: number, established: Seen): Sign => ({
  tick,
  finding: createFinding({ ...established, certainty: 'witnessed', witness: null }),
});

/** A fault but for its certainty and its witness, which all signs share. */
export type Seen = { [K in Code]: Omit<Extract<Established, { code: K }>, 'certainty' | 'witness'> }[Code];

/** The first sign of each fault. */
export function once(signs: readonly Sign[]): Sign[] {
  const seen = new Set<string>();
  return signs.filter(({ finding: { fingerprint } }) => !seen.has(fingerprint) && seen.add(fingerprint));
}

/** A sign as a finding, with the tape that shows it. */
export const witnessedBy = ({ finding, tick }: Sign, witness: Omit<Witness, 'tick'>): Finding =>
  restated(finding, { certainty: 'witnessed', witness: { ...witness, tick } });

/** A fact as the lanes decided on it in a tick. */
export const factOf = (machine: Machine, record: TickRecord, fact: PlainFact): number =>
  present(record.facts[slotOf(machine.facts, fact)]);

/** Whether the controls were the same in two ticks. */
export const sameInput = (a: TickRecord, b: TickRecord): boolean => a.input.every((v, i) => v === b.input[i]);

/** A crossing as it was taken: where a sign about it is reported. */
export const placeOfTaken = (machine: Machine, { lane, crossing, from, to }: Taken) => ({
  lane: present(machine.lanes[lane]).name,
  state: present(machine.states[to]).name,
  crossing: {
    from: present(machine.states[from]).name,
    to: present(machine.states[crossing.to]).name,
    index: crossing.index,
  },
  path: crossing.path,
});
