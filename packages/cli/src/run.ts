import { type Measures, runTape, type Session } from '@glenmark/core/run';
import { formatDiagnostic } from '@glenmark/core/model';
import { counted } from './check-report.js';
import { gather } from './gather.js';
import { UnreadableError } from './load.js';

export interface RunOptions {
  course: string[];
  tape: string[];
  rate: number | undefined;
  format: 'text' | 'json';
}

/** A tape that was played. */
interface Played {
  session: Session;
  tape: string;
  course: string;
}

/** `glenmark run`: plays a tape, or all tapes of folders and patterns; and 1 when an expectation fails. */
export function run(
  files: readonly string[],
  options: RunOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const { sets, isSeveral, warnings } = gather({ ...options, files });
  const faults: string[] = [];
  const played = sets.flatMap(({ moveset: { machine }, tapes }) =>
    tapes.flatMap(({ file, tape, course }): Played[] => {
      const { session, diagnostics } = runTape(machine, course, tape);
      if (session !== undefined) return [{ session, tape: tape.name, course: course.name }];
      faults.push(...diagnostics.map((d) => formatDiagnostic(file, d)));
      return [];
    }),
  );
  if (faults.length > 0) throw new UnreadableError(faults);
  if (played.length === 0)
    throw new UnreadableError([
      isSeveral ? 'None of these movesets has a tape.' : 'Say which tape to play with --tape.',
    ]);
  const isPlain = !isSeveral && played.length === 1;
  const print = { text: isPlain ? asText : asLines, json: isPlain ? asJson : asList };
  return {
    output: print[options.format](played),
    warnings,
    exitCode: played.every((p) => isAsExpected(p.session)) ? 0 : 1,
  };
}

const isAsExpected = ({ expectations }: Session): boolean => expectations.every((e) => e.passed);

const asJson = (played: readonly Played[]): string => JSON.stringify(asData(only(played).session));

/** All tapes as data: what each expects, what it comes to, and its digest. */
const asList = (played: readonly Played[]): string =>
  JSON.stringify({
    tapes: played.map(({ session: { trace, expectations, measures, digest }, tape, course }) => ({
      moveset: trace.machine.name,
      tape,
      course,
      rate: trace.machine.rate,
      ticks: trace.records.length,
      stopped: trace.stopped ?? null,
      expectations: expectations.map(({ text, passed, tick }) => ({ text, passed, tick })),
      measures,
      digest,
    })),
  });

/** A line for each tape, with what it expects in vain; and all of them together. */
function asLines(played: readonly Played[]): string {
  const lines = played.flatMap(({ session, tape, course }) => [
    `${isAsExpected(session) ? 'pass' : 'FAIL'}  ${session.trace.machine.name} plays “${tape}” on ${course}: ${session.expectations.filter((e) => e.passed).length}/${session.expectations.length} as expected`,
    ...session.expectations.filter((e) => !e.passed).map((e) => `      ${expectationWords(e)}`),
  ]);
  const failed = played.filter((p) => !isAsExpected(p.session)).length;
  return [
    ...lines,
    '',
    `${counted(played.length, 'tape')} played: ${failed === 0 ? 'all as expected' : `${failed} not as expected`}.`,
  ].join('\n');
}

const expectationWords = ({ text, passed, tick, seen }: Session['expectations'][number]): string =>
  passed ? text : `${text} (tick ${tick}${seen === undefined ? '' : `: ${seen}`})`;

const only = (played: readonly Played[]): Played => {
  const [first] = played;
  if (first === undefined) throw new RangeError('nothing was played');
  return first;
};

/** The stable JSON of a run: metres, seconds and ticks. */
function asData({ trace, expectations, measures, digest }: Session): unknown {
  const { machine, records } = trace;
  const name = (state: number): string => machine.states[state]!.name;
  return {
    rate: machine.rate,
    ticks: records.map(({ tick, body, leaves, stance, grounded }) => ({
      tick,
      ...body,
      states: Object.fromEntries(machine.lanes.map((lane, i) => [lane.name, name(leaves[i]!)])),
      stance: machine.stances[stance]!.name,
      grounded,
    })),
    taken: records.flatMap(({ tick, taken }) =>
      taken.map((t) => ({ tick, lane: machine.lanes[t.lane]!.name, from: name(t.from), to: name(t.to) })),
    ),
    expectations: expectations.map(({ text, passed, tick }) => ({ text, passed, tick })),
    measures,
    digest,
    stopped: trace.stopped ?? null,
  };
}

function asText(played: readonly Played[]): string {
  const { session, tape, course } = only(played);
  const { trace, expectations, measures, digest } = session;
  const { machine, records } = trace;
  const lines = [
    `${machine.name} plays “${tape}” on ${course}: ${records.length} ticks at ${machine.rate} a second`,
  ];
  if (trace.stopped !== undefined) lines.push(`stopped early: ${trace.stopped}`);
  lines.push('', 'crossings taken');
  for (const { tick, taken } of records) {
    for (const t of taken)
      lines.push(
        `  ${String(tick).padStart(6)}  ${machine.lanes[t.lane]!.name}: ${machine.states[t.from]!.name} → ${machine.states[t.to]!.name}`,
      );
  }
  lines.push('', 'expectations');
  for (const e of expectations) lines.push(`  ${e.passed ? 'pass' : 'FAIL'}  ${expectationWords(e)}`);
  if (expectations.length === 0) lines.push('  none');
  lines.push('', 'measures', ...measureLines(measures), '', `digest  ${digest}`);
  return lines.join('\n');
}

function measureLines(m: Measures): string[] {
  const line = (name: string, value: number, unit: string): string =>
    `  ${name.padEnd(18)}${value.toFixed(3).padStart(9)} ${unit}`;
  return [
    line('apex', m.apex, 'm'),
    line('lowest', m.lowest, 'm'),
    line('distance', m.distance, 'm'),
    line('reach', m.reach, 'm'),
    line('top speed', m.topSpeed, 'm/s'),
    line('longest airtime', m.longestAirtime, 's'),
    // What did not happen has no number.
    ...(Number.isNaN(m.timeToApex) ? [] : [line('time to apex', m.timeToApex, 's')]),
    ...(Number.isNaN(m.stopping) ? [] : [line('distance to stop', m.stopping, 'm')]),
    ...Object.entries(m.timeIn).map(([state, time]) => line(`in ${state}`, time, 's')),
  ];
}
