import { CATALOGUE, type Finding, type Question, QUESTIONS, questionOf } from '@glenmark/core/findings';
import { locate } from '@glenmark/core/model';
import type { Checked } from './checked.js';

/** Whether a finding was known before; undefined when there is nothing to compare with. */
export type IsKnown = ((finding: Finding) => boolean) | undefined;

/** What was found in a moveset, as data. */
export const checkedData = (
  { machine, findings, file, source, undecided, stale, scouting, repairs }: Checked,
  isKnown: IsKnown,
): unknown => ({
  moveset: machine.name,
  findings: findings.map((finding) => {
    const { path, accepted, ...reported } = finding;
    return {
      ...reported,
      place: { file, ...locate(source, path, { key: true }) },
      accepted: accepted ?? null,
      ...(isKnown === undefined ? {} : { known: isKnown(finding) }),
      repairs: repairs(finding),
    };
  }),
  undecided,
  staleAccepts: stale,
  scouting:
    scouting === undefined
      ? null
      : { situations: scouting.situations, ticks: scouting.ticks, coverage: scouting.coverage },
});

/** The repair that can be made by machine, or what usually helps. */
const repairOf = ({ repairs }: Checked, finding: Finding): string => {
  const [repair] = repairs(finding);
  return repair === undefined ? CATALOGUE[finding.code].repair : `${repair.title}.`;
};

/** What was found in a moveset, as lines to read; what was known before comes last. */
export function checkedText(checked: Checked, isKnown: IsKnown): string {
  const { machine, findings, file, source, undecided, scouting } = checked;
  const known = findings.filter((f) => f.accepted === undefined && isKnown?.(f) === true);
  const open = findings.filter((f) => f.accepted === undefined && !known.includes(f));
  const accepted = findings.filter((f) => f.accepted !== undefined);
  const what = isKnown === undefined ? 'finding' : 'new finding';
  const lines = [
    open.length === 0
      ? `${machine.name}: nothing ${isKnown === undefined ? '' : 'new '}found`
      : `${machine.name}: ${counted(open.length, what)}`,
  ];
  const tell = (finding: Finding, more: readonly string[]): void => {
    const { line, column } = locate(source, finding.path, { key: true });
    lines.push(`  ${finding.code.padEnd(5)}${finding.certainty.padEnd(11)}${finding.sentence}`);
    for (const text of more) lines.push(`${' '.repeat(18)}${text}`);
    lines.push(`${' '.repeat(18)}${file}:${line}:${column}`);
  };
  for (const question of Object.keys(QUESTIONS) as Question[]) {
    const group = open.filter((f) => questionOf(f.code) === question);
    if (group.length === 0) continue;
    lines.push('', QUESTIONS[question]);
    for (const finding of group) tell(finding, [...finding.reason, `Repair: ${repairOf(checked, finding)}`]);
  }
  if (known.length > 0) lines.push('', 'Known from the baseline');
  for (const finding of known) tell(finding, []);
  if (accepted.length > 0) lines.push('', 'Accepted');
  for (const finding of accepted) tell(finding, [`Accepted: ${finding.accepted}`]);
  if (undecided.length > 0) lines.push('', 'Not decided', ...undecided.map((u) => `  ${u.sentence}`));
  if (scouting !== undefined) {
    const { states, crossings, ofStates, ofCrossings } = scouting.coverage;
    lines.push(
      '',
      `Scouted ${scouting.situations.toLocaleString('en')} situations in ${scouting.ticks.toLocaleString('en')} ticks: ${states.length} of ${ofStates} states and ${crossings.length} of ${ofCrossings} crossings were used.`,
    );
  }
  return lines.join('\n');
}

/** A number of things, such as `3 findings`. */
export const counted = (count: number, thing: string): string => `${count} ${thing}${count === 1 ? '' : 's'}`;
