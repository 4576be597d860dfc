import * as z from 'zod';
import type { Path } from '../../model/index.js';
import type { Certainty, Code } from '../catalogue/catalogue.js';
import { type CrossingPlace, crossingPlaceSchema, type Evidence, EVIDENCE } from '../catalogue/evidence.js';
import { fingerprintOf } from './fingerprint.js';
import { wordsOf } from './sentences.js';

/** Where a fault is. Lane and state are empty for what is declared beside the lanes. */
export interface Subject {
  lane: string;
  state: string;
  crossing: CrossingPlace | null;
  /** The place in the moveset. */
  path: Path;
}

/** Where something was seen: a tape and a tick of it; `text` is the tape itself when it was found by scouting. */
export interface Witness {
  tape: string;
  tick: number;
  text?: string;
}

/** A fault as it was established, before it is put into words. */
export type Established = {
  [K in Code]: Subject & { code: K; certainty: Certainty; evidence: Evidence[K]; witness: Witness | null };
}[Code];

export type EstablishedOf<K extends Code> = Extract<Established, { code: K }>;

/** One fault, once, in plain words, at a place, with evidence. */
export type Finding = Established & {
  sentence: string;
  /** The terms, writes or crossings that force it, one plain line each. */
  reason: string[];
  /** The same for the same fault whatever is edited elsewhere: made from subject and evidence. */
  fingerprint: string;
  /** Why the author accepts it; absent when nobody does. */
  accepted?: string;
};

export type FindingOf<K extends Code> = Extract<Finding, { code: K }>;

/** A finding in words. */
export const createFinding = (established: Established): Finding => ({
  ...established,
  ...wordsOf(established),
  fingerprint: fingerprintOf(established),
});

/** The same fault under another certainty, or with a witness: its words follow. */
export function restated(finding: Finding, change: { certainty: Certainty; witness?: Witness }): Finding {
  const { sentence: _, reason: __, fingerprint: ___, accepted, ...established } = finding;
  const again = createFinding({ ...established, ...change });
  return accepted === undefined ? again : { ...again, accepted };
}

const about = {
  certainty: z.enum(['proved', 'witnessed', 'suspected']),
  lane: z.string(),
  state: z.string(),
  crossing: crossingPlaceSchema.nullable(),
  path: z.array(z.union([z.string(), z.number()])),
  witness: z
    .strictObject({ tape: z.string(), tick: z.number().int(), text: z.string().optional() })
    .nullable(),
  sentence: z.string(),
  reason: z.array(z.string()),
  fingerprint: z.string(),
  accepted: z.string().optional(),
};

const schemaOf = <K extends Code>(code: K) =>
  z.strictObject({ code: z.literal(code), evidence: EVIDENCE[code], ...about });

/** A finding as it travels. */
export const findingSchema: z.ZodType<Finding> = z.discriminatedUnion('code', [
  schemaOf('IN1'),
  schemaOf('IN2'),
  schemaOf('IN3'),
  schemaOf('IN4'),
  schemaOf('IN5'),
  schemaOf('IN6'),
  schemaOf('OUT1'),
  schemaOf('OUT2'),
  schemaOf('OUT3'),
  schemaOf('OUT4'),
  schemaOf('OUT5'),
  schemaOf('OUT6'),
  schemaOf('AG1'),
  schemaOf('AG2'),
  schemaOf('AG3'),
  schemaOf('AG4'),
  schemaOf('AG5'),
  schemaOf('AG6'),
  schemaOf('RK1'),
  schemaOf('RK2'),
  schemaOf('RK3'),
  schemaOf('RK4'),
  schemaOf('RK5'),
  schemaOf('RK6'),
  schemaOf('RK7'),
  schemaOf('RK8'),
  schemaOf('RK9'),
  schemaOf('RK10'),
  schemaOf('RK11'),
  schemaOf('TD1'),
  schemaOf('TD2'),
  schemaOf('TD3'),
  schemaOf('TD4'),
  schemaOf('TD5'),
  schemaOf('TD6'),
  schemaOf('TD7'),
  schemaOf('TD8'),
]);

/** The JSON Schema (2020-12) of a finding, for programs that read reports. */
export const findingJsonSchema = (): Record<string, unknown> => ({
  title: 'Glenmark finding',
  ...(z.toJSONSchema(findingSchema, { reused: 'ref' }) as Record<string, unknown>),
});
