import type { Machine } from '../../machine/index.js';
import type { Survey } from '../../scout/index.js';
import { type Coverage, coverageOf, type Step } from '../coverage.js';
import type { Finding } from '../sentences/finding.js';
import { type Ground, isRefuted } from './ground.js';
import { confirmTraps } from './traps.js';
import { unreached } from './unreached.js';

export interface ScoutingReport {
  findings: Finding[];
  situations: number;
  ticks: number;
  coverage: Coverage;
}

/** The crossings that a search saw taken, each once. */
export const stepsOf = (survey: Pick<Survey, 'sightingsFrom'>): Step[] =>
  survey.sightingsFrom(0).flatMap(({ event }) => (event.kind === 'taken' ? [event] : []));

/**
 * Puts together what searches saw: `found` with witnesses on the way, `zones` that they did not come to, traps that are
 * confirmed now, and what was not come to at all.
 */
export function reportOf(
  machine: Machine,
  { onCourses, known }: Ground,
  surveys: readonly Survey[],
  { found, zones }: { found: readonly Finding[]; zones: readonly Finding[] },
): ScoutingReport {
  const findings = [...onCourses.filter((f) => !isRefuted(f, surveys)), ...found];
  for (const survey of surveys) findings.push(...confirmTraps(survey, [...known, ...findings]));
  const told = new Set(known.map((f) => f.fingerprint));
  return {
    findings: [
      ...findings,
      ...zones.filter((f) => !told.has(f.fingerprint)),
      ...unreached(machine, surveys, [...known, ...findings]),
    ],
    situations: surveys.reduce((n, s) => n + s.progress().situations, 0),
    ticks: surveys.reduce((n, s) => n + s.progress().ticks, 0),
    coverage: coverageOf(machine, surveys.flatMap(stepsOf)),
  };
}
