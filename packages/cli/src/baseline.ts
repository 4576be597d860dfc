import type { Finding } from '@glenmark/core/findings';
import { textOf, UnreadableError } from './load.js';

/** What an earlier check found, by moveset: what is in it is known. */
export interface Baseline {
  has(moveset: string, finding: Finding): boolean;
  /** How many findings of a moveset are in it and not among these. */
  goneFrom(moveset: string, findings: readonly Finding[]): number;
}

/** A moveset of a report, as far as a baseline reads it. */
interface Reported {
  moveset: string;
  findings: readonly { fingerprint: string; accepted: string | null }[];
}

/** Reads the JSON that an earlier `glenmark check --format json` printed, of one moveset or of several. */
export function readBaseline(file: string): Baseline {
  const reports = reportsIn(file);
  const known = new Map<string, Set<string>>();
  for (const { moveset, findings } of reports)
    // What was accepted is no debt: when nobody accepts it any more, it is new.
    known.set(moveset, new Set(findings.filter((f) => f.accepted === null).map((f) => f.fingerprint)));
  return {
    has: (moveset, { fingerprint }) => known.get(moveset)?.has(fingerprint) === true,
    goneFrom(moveset, findings) {
      const now = new Set(findings.map((f) => f.fingerprint));
      return [...(known.get(moveset) ?? [])].filter((fingerprint) => !now.has(fingerprint)).length;
    },
  };
}

function reportsIn(file: string): Reported[] {
  const text = textOf(file);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new UnreadableError([`${file}: no JSON: ${(error as Error).message}`]);
  }
  const { movesets } = (value ?? {}) as { movesets?: unknown };
  const reports = Array.isArray(movesets) ? (movesets as unknown[]) : [value];
  if (!reports.every(isReported))
    throw new UnreadableError([`${file}: expected what 'glenmark check --format json' printed`]);
  return reports;
}

function isReported(value: unknown): value is Reported {
  const { moveset, findings } = (value ?? {}) as Partial<Reported>;
  return (
    typeof moveset === 'string' &&
    Array.isArray(findings) &&
    findings.every(
      (f: unknown) =>
        typeof (f as { fingerprint?: unknown } | null)?.fingerprint === 'string' &&
        'accepted' in (f as object),
    )
  );
}
