import { readMoveset } from '@glenmark/core/machine';
import {
  type Measures,
  otherBehaviour,
  type OtherBehaviour,
  type Parting,
  partingInTime,
  partingOf,
  retimed,
  runTape,
  type Session,
} from '@glenmark/core/run';
import { courseReadings, movesetReadings, tapeReadings } from './readings';

/** A run to be put beside others. */
export interface Beside {
  moveset: string;
  course: string;
  tape: string;
  label: string;
  /** Ticks a second, when they are not the moveset's own. */
  rate?: number;
}

/** What is compared of a run; `parting` and `session` are of the second of two. */
export interface Compared {
  label: string;
  wrong: string[];
  measures?: Measures;
  passed: number;
  expected: number;
  parting?: Parting;
  session?: Session;
  /** What this tick rate changes beside the moveset's own: which states, and which expectations it breaks. */
  atOwnRate?: { behaviour?: OtherBehaviour; broken: string[] };
}

/** Plays a tape, at the moveset's own rate or another. */
export function sessionOf({ moveset, course, tape }: Omit<Beside, 'label'>, rate?: number) {
  const m = rate === undefined ? movesetReadings.of(moveset) : readMoveset(moveset, { rate });
  const c = courseReadings.of(course);
  const t = tapeReadings.of(tape);
  if (m.machine === undefined || c.course === undefined || t.tape === undefined)
    return { diagnostics: [...m.diagnostics, ...c.diagnostics, ...t.diagnostics] };
  return runTape(m.machine, c.course, t.tape);
}

function comparedOf(label: string, { session, diagnostics }: ReturnType<typeof sessionOf>): Compared {
  const expectations = session?.expectations ?? [];
  return {
    label,
    wrong: diagnostics.map((d) => d.message),
    ...(session === undefined ? {} : { measures: session.measures }),
    passed: expectations.filter((e) => e.passed).length,
    expected: expectations.length,
  };
}

/** What a run at another rate does that the run at the moveset's own rate does not. */
function changedFrom(own: Session, other: Session): NonNullable<Compared['atOwnRate']> {
  const behaviour = otherBehaviour(own.trace, other.trace);
  const broken = own.expectations.flatMap(({ passed, text }, i) =>
    passed && other.expectations[i]?.passed === false ? [text] : [],
  );
  return { ...(behaviour === undefined ? {} : { behaviour }), broken };
}

/** A tape at several tick rates, each with what it changes beside the moveset's own. */
export function atRates(moveset: string, course: string, tape: string, rates: readonly number[]): Compared[] {
  const own = sessionOf({ moveset, course, tape }).session;
  return rates.map((rate) => {
    const there = sessionOf({ moveset, course, tape }, rate);
    const compared = comparedOf(String(rate), there);
    if (own === undefined || there.session === undefined || rate === own.trace.machine.rate) return compared;
    return { ...compared, atOwnRate: changedFrom(own, there.session) };
  });
}

/** Two runs beside each other, with where they part. */
export function beside(runs: readonly [Beside, Beside]): Compared[] {
  const [one, other] = runs.map((run) => sessionOf(run, run.rate));
  const compared = runs.map((run, i) => comparedOf(run.label, [one, other][i]!));
  if (one?.session === undefined || other?.session === undefined) return compared;
  const [own, second] = [one.session.trace, other.session.trace];
  const isRetimed = own.machine.rate !== second.machine.rate;
  const trace = isRetimed ? retimed(second, own) : second;
  const parting = isRetimed ? partingInTime(own, trace) : partingOf(own, trace);
  return [
    compared[0]!,
    {
      ...compared[1]!,
      session: { ...other.session, trace },
      ...(parting === undefined ? {} : { parting }),
    },
  ];
}
