import { locate, type Source } from '../../model/index.js';
import { CATALOGUE, type Code } from '../catalogue/catalogue.js';
import { levelOf } from './level.js';
import type { Finding } from '../sentences/finding.js';

/** The file that findings are about, for their places. */
export interface ReportSubject {
  file: string;
  source: Source;
}

/** What a SARIF log tells of one moveset. */
export interface SarifSubject extends ReportSubject {
  findings: readonly Finding[];
  /** What the check could not decide, and what it noticed beside. */
  notes?: readonly string[];
  /** Whether a finding was known before: it has to be told from those that are new. */
  isKnown?: (finding: Finding) => boolean;
}

/** Findings as a SARIF 2.1.0 log (OASIS, 2020): a run a moveset, a rule a code, a result a finding at its place. */
export const toSarif = (subjects: readonly SarifSubject[]): unknown => ({
  $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
  version: '2.1.0',
  runs: subjects.map(runOf),
});

function runOf({ findings, file, source, notes = [], isKnown }: SarifSubject): unknown {
  const codes = [...new Set(findings.map((f) => f.code))].sort();
  return {
    tool: { driver: { name: 'Glenmark', rules: codes.map(ruleOf) } },
    invocations: [
      {
        executionSuccessful: true,
        toolExecutionNotifications: notes.map((text) => ({ level: 'warning', message: { text } })),
      },
    ],
    columnKind: 'utf16CodeUnits',
    results: findings.map((finding) => {
      const { line, column } = locate(source, finding.path, { key: true });
      return {
        ruleId: finding.code,
        ruleIndex: codes.indexOf(finding.code),
        level: levelOf(finding),
        message: { text: [finding.sentence, ...finding.reason].join('\n') },
        locations: [
          {
            physicalLocation: {
              artifactLocation: { uri: encodeURI(file.replaceAll('\\', '/')) },
              region: { startLine: line, startColumn: column },
            },
            ...(finding.state === ''
              ? {}
              : {
                  logicalLocations: [
                    { name: finding.state, fullyQualifiedName: `${finding.lane}.${finding.state}` },
                  ],
                }),
          },
        ],
        partialFingerprints: { 'glenmark/v1': finding.fingerprint },
        properties: { certainty: finding.certainty },
        ...(finding.accepted === undefined
          ? {}
          : { suppressions: [{ kind: 'inSource', justification: finding.accepted }] }),
        ...(isKnown === undefined ? {} : { baselineState: isKnown(finding) ? 'unchanged' : 'new' }),
      };
    }),
  };
}

const ruleOf = (code: Code) => {
  const { name, what, repair } = CATALOGUE[code];
  return {
    id: code,
    name: name.replace(/(^|[ -])(\w)/g, (_, __, letter: string) => letter.toUpperCase()),
    shortDescription: { text: name },
    fullDescription: { text: what },
    help: { text: `${what} ${repair}` },
  };
};
