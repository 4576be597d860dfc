import { type Measures, runTape, type Session } from '@glenmark/core/run';
import { failWith, loadCourse, loadMoveset, loadTape } from './load.js';

export interface RunOptions {
  course: string;
  tape: string;
  rate: number | undefined;
  format: 'text' | 'json';
}

/** `glenmark run`: plays a tape, and 1 when an expectation fails. */
export function run(
  file: string,
  options: RunOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const { machine, warnings } = loadMoveset(file, options.rate);
  const { course, warnings: more } = loadCourse(options.course);
  const { tape } = loadTape(options.tape);
  const { session, diagnostics } = runTape(machine, course, tape);
  if (session === undefined) return failWith(options.tape, diagnostics);
  const output =
    options.format === 'json' ? JSON.stringify(asData(session)) : asText(session, tape.name, course.name);
  return {
    output,
    warnings: [...warnings, ...more],
    exitCode: session.expectations.every((e) => e.passed) ? 0 : 1,
  };
}

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

function asText({ trace, expectations, measures, digest }: Session, tape: string, course: string): string {
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
  for (const { text, passed, tick, seen } of expectations)
    lines.push(
      `  ${passed ? 'pass' : 'FAIL'}  ${text}${passed ? '' : ` (tick ${tick}${seen === undefined ? '' : `: ${seen}`})`}`,
    );
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
