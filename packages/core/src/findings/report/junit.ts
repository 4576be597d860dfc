import { locate } from '../../model/index.js';
import { CATALOGUE, type Code, QUESTIONS, type Question } from '../catalogue/catalogue.js';
import type { Finding } from '../sentences/finding.js';
import type { ReportSubject } from './sarif.js';

/**
 * Findings as JUnit XML: a suite for each question, and in it a test case for each code of the catalogue, which fails
 * with what was found; an accepted finding is a skipped case.
 */
export function toJUnit(findings: readonly Finding[], subject: ReportSubject, name: string): string {
  const suites = (Object.keys(QUESTIONS) as Question[]).map((question) => {
    const codes = (Object.keys(CATALOGUE) as Code[]).filter((code) => CATALOGUE[code].question === question);
    const cases = codes.flatMap((code) => casesOf(code, findings, subject, name));
    return { question, cases };
  });
  const all = suites.flatMap((s) => s.cases);
  const count = (cases: readonly Case[], kind: Case['kind']): number =>
    cases.filter((c) => c.kind === kind).length;
  const counts = (cases: readonly Case[]): string =>
    `tests="${cases.length}" failures="${count(cases, 'failure')}" errors="0" skipped="${count(cases, 'skipped')}"`;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="${escaped(name)}" tests="${all.length}" failures="${count(all, 'failure')}" errors="0">`,
    ...suites.flatMap(({ question, cases }) => [
      `  <testsuite name="${escaped(QUESTIONS[question])}" ${counts(cases)}>`,
      ...cases.map((c) => c.xml),
      '  </testsuite>',
    ]),
    '</testsuites>',
  ].join('\n');
}

interface Case {
  kind: 'passed' | 'failure' | 'skipped';
  xml: string;
}

function casesOf(
  code: Code,
  findings: readonly Finding[],
  { file, source }: ReportSubject,
  name: string,
): Case[] {
  const own = findings.filter((f) => f.code === code);
  const open = `    <testcase classname="${escaped(name)}" name="${escaped(`${code} ${CATALOGUE[code].name}`)}`;
  if (own.length === 0) return [{ kind: 'passed', xml: `${open}"/>` }];
  return own.map((f): Case => {
    const { line, column } = locate(source, f.path, { key: true });
    const head = `${open} ${escaped(f.state === '' ? String(f.path.at(-1)) : f.state)}" file="${escaped(file)}" line="${line}">`;
    if (f.accepted !== undefined)
      return { kind: 'skipped', xml: `${head}<skipped message="${escaped(f.accepted)}"/></testcase>` };
    const text = [...f.reason, `${file}:${line}:${column}`].join('\n');
    return {
      kind: 'failure',
      xml: `${head}<failure type="${f.certainty}" message="${escaped(f.sentence)}">${escaped(text)}</failure></testcase>`,
    };
  });
}

/** Text in XML; what no XML may hold is left out. */
const escaped = (text: string): string =>
  text
    // eslint-disable-next-line no-control-regex -- these are what XML 1.0 forbids
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"\n]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? '&#10;');
