import { locate } from '../../model/index.js';
import { CATALOGUE, type Code, QUESTIONS, type Question } from '../catalogue/catalogue.js';
import { HELP } from '../catalogue/help.js';
import type { Undecided } from '../catalogue/undecided.js';
import type { Finding } from '../sentences/finding.js';
import type { ReportSubject } from './sarif.js';

/** What a report of findings needs to know of the check that came to them. */
export interface CheckedHow {
  /** Whether a finding makes the check fail. */
  isFailure: (finding: Finding) => boolean;
  /** What was played: a tape or a scouting, tapes at other rates, a scouting; and whether runs begin at spawns of a course. */
  played: Readonly<Record<'run' | 'rates' | 'scouting' | 'course', boolean>>;
  undecided: readonly Undecided[];
}

/** Why a code is not tested when what it needs was not played. */
const NOT_PLAYED = {
  run: 'Not tested: this needs a run, and neither a tape nor scouting was asked for.',
  rates: 'Not tested: this needs tapes at other tick rates (`--rates`).',
  scouting: 'Not tested: this needs scouting (`--scout`).',
  course: 'Not tested: this needs a course (`--course`), and runs that begin at its spawns.',
};

/** What a JUnit report tells of one moveset. */
export interface JUnitSubject extends ReportSubject {
  /** The moveset's name. */
  name: string;
  findings: readonly Finding[];
  how: CheckedHow;
}

/**
 * Findings as JUnit XML: a suite for each question of each moveset, and in it a test case for each code of the catalogue. A
 * finding that makes the check fail is a failure, one that does not is a passed case that says it; an accepted one, and a
 * code that nothing was played for, is skipped. What was not decided is a suite of skipped cases.
 */
export function toJUnit(subjects: readonly JUnitSubject[]): string {
  const isOne = subjects.length === 1;
  const suites = subjects.flatMap((subject) =>
    suitesOf(subject).map(({ title, cases }) => ({
      title: isOne ? title : `${subject.name}: ${title}`,
      cases,
    })),
  );
  const all = suites.flatMap((s) => s.cases);
  const count = (cases: readonly Case[], kind: Case['kind']): number =>
    cases.filter((c) => c.kind === kind).length;
  const counts = (cases: readonly Case[]): string =>
    `tests="${cases.length}" failures="${count(cases, 'failure')}" errors="0" skipped="${count(cases, 'skipped')}"`;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="${escaped(subjects.map((s) => s.name).join(', '))}" tests="${all.length}" failures="${count(all, 'failure')}" errors="0">`,
    ...suites.flatMap(({ title, cases }) => [
      `  <testsuite name="${escaped(title)}" ${counts(cases)}>`,
      ...cases.map((c) => c.xml),
      '  </testsuite>',
    ]),
    '</testsuites>',
  ].join('\n');
}

function suitesOf({ findings, name, how, ...subject }: JUnitSubject): { title: string; cases: Case[] }[] {
  const suites = (Object.keys(QUESTIONS) as Question[]).map((question) => {
    const codes = (Object.keys(CATALOGUE) as Code[]).filter((code) => CATALOGUE[code].question === question);
    return {
      title: QUESTIONS[question],
      cases: codes.flatMap((code) => casesOf(code, findings, subject, { name, how })),
    };
  });
  if (how.undecided.length > 0)
    suites.push({ title: 'Not decided', cases: how.undecided.map((u) => undecidedCase(u, name)) });
  return suites;
}

interface Case {
  kind: 'passed' | 'failure' | 'skipped';
  xml: string;
}

const skipped = (head: string, message: string): Case => ({
  kind: 'skipped',
  xml: `${head}<skipped message="${escaped(message)}"/></testcase>`,
});

const undecidedCase = ({ lane, states, sentence }: Undecided, name: string): Case =>
  skipped(
    `    <testcase classname="${escaped(name)}" name="${escaped(`${lane}: ${states.join(', ')}`)}">`,
    sentence,
  );

function casesOf(
  code: Code,
  findings: readonly Finding[],
  { file, source }: ReportSubject,
  { name, how }: { name: string; how: CheckedHow },
): Case[] {
  const own = findings.filter((f) => f.code === code);
  const open = `    <testcase classname="${escaped(name)}" name="${escaped(`${code} ${CATALOGUE[code].name}`)}`;
  if (own.length === 0) {
    const { needs } = HELP[code];
    if (needs !== undefined && !how.played[needs]) return [skipped(`${open}">`, NOT_PLAYED[needs])];
    return [{ kind: 'passed', xml: `${open}"/>` }];
  }
  return own.map((f): Case => {
    const { line, column } = locate(source, f.path, { key: true });
    const head = `${open} ${escaped(f.state === '' ? String(f.path.at(-1)) : f.state)}" file="${escaped(file)}" line="${line}">`;
    if (f.accepted !== undefined) return skipped(head, f.accepted);
    const lines = [...f.reason, `${file}:${line}:${column}`];
    if (!how.isFailure(f)) {
      const text = [`${f.certainty}: ${f.sentence}`, ...lines].join('\n');
      return { kind: 'passed', xml: `${head}<system-out>${escaped(text)}</system-out></testcase>` };
    }
    return {
      kind: 'failure',
      xml: `${head}<failure type="${f.certainty}" message="${escaped(f.sentence)}">${escaped(lines.join('\n'))}</failure></testcase>`,
    };
  });
}

/** Text in XML; what no XML may hold is left out. */
const escaped = (text: string): string =>
  text
    // eslint-disable-next-line no-control-regex -- these are what XML 1.0 forbids
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"\n]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? '&#10;');
