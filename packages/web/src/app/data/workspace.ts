import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { COLLECTIONS, etagOf, type StoredDocument } from '@glenmark/contract';
import {
  type Change,
  type Compiled,
  type Diagnostic,
  edit,
  type Finding,
  isUsable,
  type Machine,
  readMoveset,
} from '@glenmark/core';
import {
  catchError,
  combineLatest,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
  filter,
  map,
  type Observable,
  of,
  retry,
  Subject,
  switchMap,
  tap,
  throwError,
  timer,
} from 'rxjs';
import { Analysis } from './analysis';
import { Api, type ApiError } from './api';
import { Library, type TapeEntry } from './library';
import { UndoSteps } from './undo';

/** How it stands with saving: what the bar shows. */
export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict';

const AUTOSAVE_AFTER = 500;
const RETRY_AFTER = 2000;

/**
 * The moveset that is open: its text, what it compiles to, undo and redo, autosave, live findings. Only texts that
 * load become part of it; a change with an error is refused and told, and stays with whoever is writing it.
 */
@Injectable({ providedIn: 'root' })
export class Workspace {
  private readonly api = inject(Api);
  private readonly analysis = inject(Analysis);
  private readonly library = inject(Library);

  private readonly stored = signal<StoredDocument | undefined>(undefined);
  private readonly textSignal = signal('');
  private readonly steps = new UndoSteps();
  private readonly opened = new Subject<string>();
  private readonly saves = new Subject<void>();

  readonly problem = signal<string | undefined>(undefined);
  readonly saveState = signal<SaveState>('saved');
  /** The revision that somebody else saved first, while `saveState` is `conflict`. */
  readonly theirs = signal<StoredDocument | undefined>(undefined);
  readonly tapes = signal<TapeEntry[]>([]);
  readonly findings = signal<Finding[]>([]);
  /** False from an edit until its findings are there. */
  readonly findingsFresh = signal(false);

  readonly id = computed(() => this.stored()?.id);
  readonly name = computed(() => this.compiled().file?.name ?? this.stored()?.name ?? '');
  readonly revision = computed(() => this.stored()?.revision ?? 0);
  readonly text = this.textSignal.asReadonly();
  readonly compiled = computed<Compiled>(() =>
    this.text() === '' ? { diagnostics: [] } : readMoveset(this.text()),
  );
  readonly machine = computed<Machine | undefined>(() => this.compiled().machine);
  readonly undoName = this.steps.undoName;
  readonly redoName = this.steps.redoName;

  constructor() {
    this.opened
      .pipe(
        switchMap((id) => this.load(id)),
        takeUntilDestroyed(),
      )
      .subscribe();
    this.saves
      .pipe(
        debounceTime(AUTOSAVE_AFTER),
        concatMap(() => this.save()),
        takeUntilDestroyed(),
      )
      .subscribe();
    combineLatest([toObservable(this.text), toObservable(this.tapes)])
      .pipe(
        tap(() => this.findingsFresh.set(false)),
        filter(([text]) => text !== ''),
        debounceTime(30),
        switchMap(([text, tapes]) => this.analysis.findings(text, this.ownTapes(tapes))),
        takeUntilDestroyed(),
      )
      .subscribe((findings) => {
        this.findings.set(findings);
        this.findingsFresh.set(true);
      });
  }

  /** Opens a moveset; edits of the one before are saved already or being saved. */
  open(id: string): void {
    if (id === this.id() && this.problem() === undefined) return;
    this.opened.next(id);
  }

  /**
   * Applies changes as one undoable step. Returns what is wrong instead, and then changes nothing. With `goesOn` a step
   * of the same name that came just before becomes part of this one, as while a slider is dragged.
   */
  apply(name: string, changes: readonly Change[], { goesOn = false } = {}): Diagnostic[] {
    const after = edit(this.text(), changes);
    return this.replace(name, after, { goesOn });
  }

  /** What the moveset would compile to after some changes; nothing is changed. */
  preview(changes: readonly Change[]): Compiled {
    return readMoveset(edit(this.text(), changes));
  }

  /** Replaces the whole text as one undoable step, if it loads. */
  replace(name: string, after: string, { goesOn = false } = {}): Diagnostic[] {
    const before = this.text();
    const { diagnostics } = readMoveset(after);
    if (!isUsable(diagnostics)) return diagnostics;
    if (after === before) return [];
    this.steps.push({ name, before, after }, goesOn);
    this.setText(after);
    return [];
  }

  undo(): void {
    const step = this.steps.undo();
    if (step !== undefined) this.setText(step.before);
  }

  redo(): void {
    const step = this.steps.redo();
    if (step !== undefined) this.setText(step.after);
  }

  /** After a conflict: save this window's text on top of the other's, or take the other's as an undoable step. */
  resolve(keep: 'mine' | 'theirs'): void {
    const theirs = this.theirs();
    if (theirs === undefined) return;
    this.stored.set(theirs);
    this.theirs.set(undefined);
    this.saveState.set('saved');
    if (keep === 'mine') this.requestSave();
    else this.replace(`take revision ${theirs.revision}`, theirs.text);
  }

  /** Sends what is not yet saved while the page goes away; the browser finishes the request by itself. */
  flush(): void {
    const base = this.stored();
    if (base === undefined || this.text() === base.text || this.saveState() === 'conflict') return;
    void fetch(`/api/${COLLECTIONS.moveset}/${base.id}`, {
      method: 'PUT',
      keepalive: true,
      headers: { 'Content-Type': 'application/json', 'If-Match': etagOf(base) },
      body: JSON.stringify({ text: this.text(), message: this.undoName() ?? '' }),
    });
  }

  private load(id: string): Observable<unknown> {
    this.problem.set(undefined);
    this.findings.set([]);
    return this.api.read('moveset', id).pipe(
      tap((document) => {
        this.stored.set(document);
        this.steps.clear();
        this.textSignal.set(document.text);
        this.saveState.set('saved');
        this.theirs.set(undefined);
      }),
      switchMap(() => this.library.tapesFor(id)),
      tap((tapes) => this.tapes.set(tapes)),
      catchError((error: ApiError) => {
        this.problem.set(error.problem.detail);
        return EMPTY;
      }),
    );
  }

  private setText(text: string): void {
    this.textSignal.set(text);
    this.requestSave();
  }

  private requestSave(): void {
    if (this.saveState() === 'conflict') return;
    this.saveState.set('saving');
    this.saves.next();
  }

  private save(): Observable<unknown> {
    const base = this.stored();
    if (base === undefined || this.saveState() === 'conflict') return EMPTY;
    if (this.text() === base.text) {
      this.saveState.set('saved');
      return EMPTY;
    }
    // Each try sends what is there by then.
    return defer(() => this.api.save(base, { text: this.text(), message: this.undoName() ?? '' })).pipe(
      retry({
        delay: (error: ApiError) => {
          if (error.problem.status !== 0 && error.problem.status < 500) return throwError(() => error);
          this.saveState.set('waiting');
          return timer(RETRY_AFTER);
        },
      }),
      tap((saved) => {
        this.stored.set(saved);
        this.saveState.set(saved.text === this.text() ? 'saved' : 'saving');
      }),
      catchError((error: ApiError) =>
        error.problem.status === 412 ? this.meetConflict(base.id) : this.tellProblem(error),
      ),
    );
  }

  private meetConflict(id: string): Observable<unknown> {
    return this.api.read('moveset', id).pipe(
      map((theirs) => {
        this.theirs.set(theirs);
        this.saveState.set('conflict');
      }),
    );
  }

  private tellProblem(error: ApiError): Observable<unknown> {
    this.problem.set(error.problem.detail);
    return of(undefined);
  }

  private ownTapes(tapes: readonly TapeEntry[]): { tape: string; course: string }[] {
    return tapes.flatMap((e) =>
      e.moveset === this.id() && e.course !== undefined ? [{ tape: e.tape.text, course: e.course.text }] : [],
    );
  }
}
