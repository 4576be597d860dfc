import {
  type ColumnApart,
  compareLog,
  type GameLogData,
  readGameLog,
  readTape,
  reasonsOf,
  runTape,
  type Session,
  tapeInputs,
  tapeText,
  type TickRecord,
} from '@glenmark/core/run';
import { formatDiagnostic } from '@glenmark/core/model';
import { courseReadings, movesetReadings, tapeReadings } from './readings';

/** A log of the game, and the tape that is shown: it says on which course, and from where, both begin. */
export interface LogAsked {
  moveset: string;
  movesetId: string;
  course: string;
  tape: string;
  log: { name: string; text: string };
}

/** What a log of the game comes to beside the model with the same inputs; or what is wrong with it, a sentence each. */
export interface LogCompared {
  wrong: string[];
  columns: ColumnApart[];
  first: { tick: number; columns: string[] } | undefined;
  ticks: number;
  reasons: string[];
  /** Columns that are nothing here, and controls that the log lacks. */
  unread: string[];
  resting: string[];
  /** Whether the tape that is shown has the inputs of the log: then both runs can be drawn over each other. */
  isShown: boolean;
  /** A tape with the inputs of the log. */
  tapeText: string;
  /** The game's run: the model's, with what the log says in its place. */
  session?: Session;
}

/** So many faults of a log are told at once: the next ones are mostly the same. */
const MOST_SAID = 5;

const failed = (wrong: string[]): LogCompared => ({
  wrong,
  columns: [],
  first: undefined,
  ticks: 0,
  reasons: [],
  unread: [],
  resting: [],
  isShown: false,
  tapeText: '',
});

/** Holds a log of the game against the model. */
export function logged({ moveset, movesetId, course, tape, log: { name, text } }: LogAsked): LogCompared {
  const [m, c, t] = [movesetReadings.of(moveset), courseReadings.of(course), tapeReadings.of(tape)];
  const { machine } = m;
  if (machine === undefined || c.course === undefined || t.tape === undefined)
    return failed([...m.diagnostics, ...c.diagnostics, ...t.diagnostics].map((d) => d.message));
  const shown = t.tape;
  const { log, diagnostics } = readGameLog(machine, text);
  if (log === undefined) return failed(diagnostics.slice(0, MOST_SAID).map((d) => formatDiagnostic(name, d)));
  const made = tapeText(machine, {
    name: name.replace(/\.\w+$/, '').slice(0, 100) || 'log',
    moveset: movesetId,
    course: shown.course,
    start: shown.start,
    facing: shown.facing,
    inputs: log.inputs,
    expect: [],
  });
  const { tape: played } = readTape(made);
  const { session, diagnostics: faults } =
    played === undefined ? { diagnostics: [] } : runTape(machine, c.course, played);
  if (session === undefined) return failed(faults.map((d) => d.message));
  const comparison = compareLog(session.trace, log);
  return {
    ...comparison,
    wrong: [],
    reasons: reasonsOf(session.trace, session.world, comparison),
    unread: log.unread,
    resting: log.resting,
    isShown: JSON.stringify(tapeInputs(shown, machine)) === JSON.stringify(log.inputs),
    tapeText: made,
    session: {
      ...session,
      trace: { ...session.trace, records: session.trace.records.map((r, tick) => asLogged(r, log, tick)) },
    },
  };
}

/** A tick of the model with the numbers and states that the log has of it. */
function asLogged(record: TickRecord, { columns }: GameLogData, tick: number): TickRecord {
  const body = { ...record.body };
  const leaves = [...record.leaves];
  for (const column of columns)
    if (column.kind === 'state')
      leaves[column.lane] = stateIn(column.states[tick] ?? [], leaves[column.lane]!);
    else {
      const value = column.values[tick] ?? NaN;
      if (column.is !== 'facing' && !Number.isNaN(value)) body[column.is] = value;
    }
  return { ...record, body, leaves };
}

/** Which state a log means: the model's own where that is one of those, else the first. */
const stateIn = (states: readonly number[], own: number): number =>
  states.includes(own) ? own : (states[0] ?? own);
