import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Coverage, Finding, Repair, Undecided } from '@glenmark/core/findings';
import { compileChanged, type Compiled, compileSpliced, type Machine } from '@glenmark/core/machine';
import { type Change, type Diagnostic, edit, errorsOf } from '@glenmark/core/model';
import {
  catchError,
  combineLatest,
  debounceTime,
  EMPTY,
  filter,
  map,
  type Observable,
  retry,
  switchMap,
  tap,
  timer,
} from 'rxjs';
import type { Scouting } from '@glenmark/contract';
import { Analysis } from './analysis';
import type { Expected, ScoutedFindings } from './analysis.worker';
import { Desk } from './desk';
import { Library, playableOf, type TapeEntry } from './library';
import { movesetReadings } from './readings';

/** How long after a failure the tapes are read again (ms). */
const RETRY_AFTER = 3000;

/** The moveset that is open, with what it compiles to, its tapes and its live findings. */
@Injectable({ providedIn: 'root' })
export class Workspace extends Desk {
  private readonly analysis = inject(Analysis);
  private readonly library = inject(Library);
  protected readonly kind = 'moveset';

  readonly tapes = signal<TapeEntry[]>([]);
  readonly findings = signal<Finding[]>([]);
  /** The states and crossings that the moveset's own tapes used. */
  readonly byTapes = signal<Coverage | undefined>(undefined);
  /** What was too large to decide. */
  readonly undecided = signal<readonly Undecided[]>([]);
  /** The last scouting that found something. At its own revision all of it counts; after an edit what its tapes still show. */
  readonly scouted = signal<Scouting | undefined>(undefined);
  /** What was found first after the moveset was opened, to tell what is new since. */
  readonly atOpening = signal<ReadonlySet<string> | undefined>(undefined);
  /** Expectations of the moveset's own tapes; undefined until they were played. */
  readonly expected = signal<Expected | undefined>(undefined);
  /** Why findings could not be looked for; the next edit tries again. */
  readonly analysisFailed = signal<string | undefined>(undefined);
  /** False from an edit until its findings are there. */
  readonly findingsFresh = signal(false);

  /** Whether the tapes are there too: what is found before that is not all there is. */
  readonly isComplete = signal(false);

  readonly name = computed(() => this.compiled().file?.name ?? this.document()?.name() ?? '');
  readonly compiled = computed<Compiled>(() =>
    this.text() === '' ? { diagnostics: [] } : movesetReadings.of(this.text()),
  );
  readonly machine = computed<Machine | undefined>(() => this.compiled().machine);

  constructor() {
    super();
    combineLatest([toObservable(this.text), toObservable(this.tapes), toObservable(this.scouted)])
      .pipe(
        tap(() => this.findingsFresh.set(false)),
        filter(([text]) => text !== ''),
        debounceTime(30),
        switchMap(([text, tapes, scouted]) => {
          // As it is when the question is asked: the tapes may come before its answer does.
          const isComplete = this.isComplete();
          return this.analysis.findings(text, this.ownTapes(tapes), this.witnessesOf(scouted)).pipe(
            map((found) => ({ ...found, isComplete })),
            tap(() => this.analysisFailed.set(undefined)),
            catchError((error: Error) => {
              this.analysisFailed.set(error.message);
              return EMPTY;
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ findings, byTapes, undecided, isComplete }) => {
        this.findings.set(findings);
        this.byTapes.set(byTapes);
        this.undecided.set(undecided);
        if (this.atOpening() === undefined && isComplete)
          this.atOpening.set(new Set(findings.map((f) => f.fingerprint)));
        this.findingsFresh.set(true);
      });
    combineLatest([toObservable(this.text), toObservable(this.tapes)])
      .pipe(
        filter(([text]) => text !== ''),
        debounceTime(400),
        switchMap(([text, tapes]) =>
          this.analysis.expected(text, this.ownTapes(tapes)).pipe(catchError(() => EMPTY)),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((expected) => this.expected.set(expected));
  }

  /** What the moveset would compile to after some changes; nothing is changed. */
  preview(changes: readonly Change[]): Compiled {
    const compiled = this.compiled();
    return compiled.file === undefined
      ? movesetReadings.of(edit(this.text(), changes))
      : compileChanged(compiled, changes);
  }

  override faultsAfter(changes: readonly Change[]): Diagnostic[] {
    return errorsOf(this.preview(changes).diagnostics);
  }

  protected override edited(changes: readonly Change[]): string {
    const text = edit(this.text(), changes, this.compiled().source);
    const compiled = compileSpliced(this.compiled(), changes);
    if (compiled?.source?.text === text) movesetReadings.put(text, compiled);
    return text;
  }

  protected override faultsOf(text: string): Diagnostic[] {
    return movesetReadings.of(text).diagnostics;
  }

  protected override opening(): void {
    this.findings.set([]);
    this.atOpening.set(undefined);
    this.isComplete.set(false);
    this.expected.set(undefined);
  }

  protected override loaded(id: string): Observable<unknown> {
    return this.library.tapesFor(id).pipe(
      retry({ delay: () => timer(RETRY_AFTER) }),
      tap((tapes) => {
        this.isComplete.set(true);
        this.tapes.set(tapes);
      }),
    );
  }

  /** The moveset's own tapes that can be played, as texts. */
  playable(): { tape: string; course: string }[] {
    return this.ownTapes(this.tapes());
  }

  /** The repairs of a finding that were tried on its tapes and courses, and do what they say. */
  triedRepairs(finding: Finding): Observable<Repair[]> {
    const courses = this.library.courses().map((c) => c.text);
    return this.analysis.repairs(this.text(), this.playable(), courses, finding);
  }

  /** What a scouting found, with the courses of its tapes. */
  private witnessesOf(scouted: Scouting | undefined): ScoutedFindings | undefined {
    if (scouted === undefined) return undefined;
    return {
      findings: scouted.findings,
      courses: this.library.courses().map((c) => c.text),
      isCurrent: scouted.revision === this.revision() && this.isAsSaved(),
    };
  }

  private ownTapes(tapes: readonly TapeEntry[]): { tape: string; course: string }[] {
    return playableOf(tapes.filter((e) => e.moveset === this.id()));
  }
}
