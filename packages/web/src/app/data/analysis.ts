import { computed, Injectable } from '@angular/core';
import type { Finding, Repair } from '@glenmark/core/findings';
import type { ReadChart } from '@glenmark/core/charts';
import type { Machine } from '@glenmark/core/machine';
import type { LoneState, Response, Session } from '@glenmark/core/run';
import { filter, map, type Observable } from 'rxjs';
import type {
  Agreement,
  Analysis as AnalysisWorker,
  Expected,
  Found,
  ScoutedFindings,
} from './analysis.worker';
import type { Between, BetweenAsked, NotLoaded } from './between';
import type { Counts, CountsAsked } from './counts';
import type { Beside, Compared } from './compared';
import type { Exported, ExportForm } from './exported';
import { courseReadings, movesetReadings } from './readings';
import type { LogAsked, LogCompared } from './logged';
import { received, type SentSession } from './sent-session';
import type { WallAsked, WallTape } from './wall';
import { type Hired, hire, WorkerSlot } from './worker-slot';

/** A worker that has been at it for so long (ms) when a newer question comes is in a slice that may not end: it is replaced. */
const PATIENCE = 1500;

/** A run as it is shown. */
export interface Played {
  session?: Session;
  agreed: Agreement;
  wrong: string[];
}

/**
 * The analysis worker as streams. Three of them work beside each other, so that a run never waits for findings: one
 * plays the tape or the state that is shown, one plays others, one finds.
 */
@Injectable({ providedIn: 'root' })
export class Analysis {
  private readonly player = new WorkerSlot<AnalysisWorker>(start);
  private readonly others = new WorkerSlot<AnalysisWorker>(start);
  private readonly finder = new WorkerSlot<AnalysisWorker>(start);
  /** The run that was shown last: the next sends only what became other. */
  private shown: Session | undefined;

  /** How often a worker failed and was replaced. */
  readonly replaced = computed(
    () => this.player.replaced() + this.others.replaced() + this.finder.replaced(),
  );

  /** What is found of a moveset; nothing when it is asked for another before that. */
  findings(
    moveset: string,
    tapes: readonly { tape: string; course: string }[],
    scouted?: ScoutedFindings,
  ): Observable<Found> {
    return this.finder
      .ask((remote) => remote.newestFindings(moveset, tapes, scouted), PATIENCE)
      .pipe(filter((found) => found !== undefined));
  }

  /** What is found of another text than the one that is edited, which does not wait for this. */
  findingsThen(moveset: string, tapes: readonly { tape: string; course: string }[]): Observable<Finding[]> {
    return this.others.ask((remote) => remote.findings(moveset, tapes));
  }

  /** The repairs of a finding that were tried and do what they say. */
  repairs(
    moveset: string,
    tapes: readonly { tape: string; course: string }[],
    courses: readonly string[],
    finding: Finding,
  ): Observable<Repair[]> {
    return this.others.ask((remote) => remote.repairs(moveset, tapes, courses, finding));
  }

  /** How a state answers its controls; nothing when it is asked for another before that. */
  response(alone: LoneState): Observable<Response> {
    return this.player
      .ask((remote) => remote.response(alone))
      .pipe(filter((response) => response !== undefined));
  }

  /** What became other between two revisions; nothing when it is asked for others before that. */
  between(asked: BetweenAsked): Observable<Between | NotLoaded> {
    return this.others
      .ask<Between | NotLoaded | undefined>((remote) => remote.between(asked))
      .pipe(filter((between) => between !== undefined));
  }

  /** How many findings a moveset has, and how many expectations it meets; undefined when it does not load. */
  counts(asked: CountsAsked): Observable<Counts | undefined> {
    return this.others.ask<Counts | undefined>((remote) => remote.counts(asked));
  }

  /** All expectations of all tapes at several tick rates; nothing when they are asked for again before that. */
  wall(asked: WallAsked): Observable<WallTape[]> {
    return this.others.ask((remote) => remote.wall(asked)).pipe(filter((wall) => wall !== undefined));
  }

  /** Whether a moveset meets all that a tape expects of it. */
  meets(moveset: string, tape: string, course: string): Observable<boolean> {
    return this.others.ask((remote) => remote.meets(moveset, tape, course));
  }

  /** A worker of its own for a short scouting; whoever asks for it ends it. */
  scouting(): Hired<AnalysisWorker> {
    return hire(start);
  }

  /** How many expectations of some tapes are met. */
  expected(moveset: string, tapes: readonly { tape: string; course: string }[]): Observable<Expected> {
    return this.others.ask((remote) => remote.expected(moveset, tapes));
  }

  /** A log of the game beside the model with the same inputs. */
  logged(asked: LogAsked): Observable<LogCompared> {
    return this.others
      .ask((remote) => remote.logged(asked))
      .pipe(
        map(({ session, ...rest }): LogCompared => {
          const { moveset, course } = asked;
          return session === undefined ? rest : { ...rest, session: arrived({ session, moveset, course }) };
        }),
      );
  }

  /** A chart in SCXML as a moveset, with what did not come over. */
  chart(text: string): Observable<ReadChart> {
    return this.others.ask<ReadChart>((remote) => remote.chart(text));
  }

  /** A moveset in another form, such as code for the game; undefined when it does not load. */
  exported(moveset: string, form: ExportForm): Observable<Exported | undefined> {
    return this.others.ask<Exported | undefined>((remote) => remote.exported(moveset, form));
  }

  /** A tape at several tick rates. */
  atRates(moveset: string, course: string, tape: string, rates: readonly number[]): Observable<Compared[]> {
    return this.others.ask((remote) => remote.atRates(moveset, course, tape, rates));
  }

  /** Two runs beside each other. */
  beside(runs: [Beside, Beside]): Observable<Compared[]> {
    return this.others
      .ask((remote) => remote.beside(runs))
      .pipe(
        map((list) =>
          list.map(({ session, machine, ...rest }, i): Compared => {
            const { moveset, course } = runs[i]!;
            return session === undefined
              ? rest
              : { ...rest, session: arrived({ session, moveset, course, machine }) };
          }),
        ),
      );
  }

  /** Plays the tape that is shown; what comes before the first tick that an edit changed is not played, nor sent, again. */
  run(moveset: string, course: string, tape: string): Observable<Played> {
    return this.player.ask((remote) =>
      // Kept whether or not anybody waits for it any more: the worker's next answer builds on it.
      remote.run(moveset, course, tape).then(({ session, same, ...rest }): Played => {
        if (session === undefined) return rest;
        const { trace, ...others } = arrived({ session, moveset, course }, this.shown);
        const records =
          same === 0 ? trace.records : [...this.shown!.trace.records.slice(0, same), ...trace.records];
        this.shown = { ...others, trace: { ...trace, records } };
        return { ...rest, session: this.shown };
      }),
    );
  }
}

/** A run that a worker sent, of texts that it read, and so does the page. */
const arrived = (
  {
    session,
    moveset,
    course,
    machine = movesetReadings.of(moveset).machine!,
  }: { session: SentSession; moveset: string; course: string; machine?: Machine | undefined },
  before?: Session,
): Session => received(session, machine, courseReadings.of(course).course!, before);

const start = (): Worker => new Worker(new URL('./analysis.worker', import.meta.url), { type: 'module' });
