import { formatDiagnostic } from '../model/index.js';
import type { Machine, State } from '../machine/index.js';
import {
  type Parting,
  partingInTime,
  partingOf,
  retimed,
  runTape,
  type Session,
  type Tape,
  type Trace,
} from '../run/index.js';
import type { Course } from '../world/index.js';
import type { Rename } from './renames.js';

/** An expectation that is met on one of two revisions only. */
export interface ExpectationDifference {
  text: string;
  /** Whether the later revision meets it. */
  isMet: boolean;
}

/** What a tape does on two revisions. */
export interface Replay {
  tape: string;
  course: string;
  /** `same` to the last bit; `other`; `unplayable` on one of them or on both. */
  outcome: 'same' | 'other' | 'unplayable';
  /** Where the two runs part: the state of each lane there, on the earlier revision, and what is different. */
  parting: (Parting & { states: string[] }) | undefined;
  expectations: ExpectationDifference[];
  /** Where the feet were on the earlier and on the later revision, tick by tick, as x and y (m), when the runs part. */
  trails: { before: Float32Array; after: Float32Array } | undefined;
  /** Why it cannot be played, before and after. */
  wrong: { before: string[]; after: string[] };
}

/** Plays a tape on two revisions of a moveset. States, controls and the like are the same by their names, or by their new names. */
export function replayOn(
  before: Machine,
  after: Machine,
  { tape, course }: { tape: Tape; course: Course },
  renames: readonly Rename[] = [],
): Replay {
  const [one, other] = [runTape(before, course, tape), runTape(after, course, tape)];
  const replay = {
    tape: tape.name,
    course: course.name,
    expectations: [],
    parting: undefined,
    trails: undefined,
  };
  if (one.session === undefined || other.session === undefined) {
    const wrongOf = (run: typeof one): string[] =>
      run.session === undefined ? run.diagnostics.map((d) => formatDiagnostic(tape.name, d)) : [];
    return { ...replay, outcome: 'unplayable', wrong: { before: wrongOf(one), after: wrongOf(other) } };
  }
  const expectations = expectationsApart(one.session, other.session);
  const parting = partingBetween(one.session.trace, other.session.trace, renames);
  const isSame = parting === undefined && expectations.length === 0;
  return {
    ...replay,
    outcome: isSame ? 'same' : 'other',
    parting,
    expectations,
    trails: parting && { before: trailOf(one.session.trace), after: trailOf(other.session.trace) },
    wrong: { before: [], after: [] },
  };
}

const trailOf = ({ records }: Trace): Float32Array =>
  Float32Array.from(records.flatMap(({ body }) => [body.x, body.y]));

const expectationsApart = (one: Session, other: Session): ExpectationDifference[] =>
  other.expectations.flatMap(({ text, passed }, i) =>
    passed === one.expectations[i]?.passed ? [] : [{ text, isMet: passed }],
  );

function partingBetween(one: Trace, other: Trace, renames: readonly Rename[]): Replay['parting'] {
  const [a, b] = inSameTerms(one, other, renames);
  const isRetimed = a.machine.rate !== b.machine.rate;
  const later = isRetimed ? retimed(b, a) : b;
  const parting = isRetimed ? partingInTime(a, later) : (partingOf(a, later) ?? endApart(a, later));
  if (parting === undefined) return undefined;
  const record = a.records[parting.tick] ?? a.records[a.records.length - 1];
  const states = record?.leaves.map((leaf) => a.machine.states[leaf]?.name ?? '') ?? [];
  return { ...parting, states };
}

/** Two runs that are the same as far as they go, of which one ends earlier. */
function endApart(a: Trace, b: Trace): Parting | undefined {
  if (a.records.length === b.records.length) return undefined;
  const [short, which] = a.records.length < b.records.length ? [a, 'earlier'] : [b, 'later'];
  return {
    tick: short.records.length,
    what: [`the run on the ${which} revision stops here: ${short.stopped ?? 'the tape is over'}`],
  };
}

/**
 * Two runs with the states, controls, stances and variables of the later one under the places that they have in the earlier one. What
 * only one of them has is left out: that it came or went is no difference of the run.
 */
function inSameTerms(one: Trace, other: Trace, renames: readonly Rename[]): [Trace, Trace] {
  const [a, b] = [one.machine, other.machine];
  const oldName = (kind: Rename['kind'], name: string): string =>
    renames.find((r) => r.kind === kind && r.after === name)?.before ?? name;
  const placesIn = (
    kind: Rename['kind'],
    mine: readonly { name: string }[],
    theirs: readonly { name: string }[],
  ): number[] => mine.map(({ name }) => theirs.findIndex((t) => oldName(kind, t.name) === name));
  // States that only the later one has come after all that the earlier one has.
  const states: State[] = [...a.states];
  const stateOf = b.states.map((state) => {
    const name = oldName('state', state.name);
    const at = a.states.findIndex((s) => s.name === name);
    return at >= 0 ? at : states.push(state) - 1;
  });
  const machine: Machine = { ...a, states };
  const lanes = placesIn('lane', a.lanes, b.lanes);
  const controls = placesIn('control', a.controls, b.controls);
  const variables = placesIn('variable', a.variables, b.variables);
  const pick = (places: readonly number[], theirs: readonly number[], mine: readonly number[]): number[] =>
    places.map((place, i) => (place < 0 ? (mine[i] ?? 0) : (theirs[place] ?? 0)));
  const records = other.records.map((record, tick) => {
    const mine = one.records[tick];
    return {
      ...record,
      input: pick(controls, record.input, mine?.input ?? []),
      leaves: lanes.map((place, i) =>
        place < 0 ? (mine?.leaves[i] ?? 0) : (stateOf[record.leaves[place] ?? 0] ?? 0),
      ),
      variables: pick(variables, record.variables, mine?.variables ?? []),
    };
  });
  return [
    { ...one, machine },
    { ...other, machine: { ...machine, rate: b.rate, dt: b.dt }, records },
  ];
}
