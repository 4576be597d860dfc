import { computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { COLLECTIONS, etagOf, type StoredDocument } from '@glenmark/contract';
import { type Change, type Diagnostic, edit, errorsOf, isUsable, type Kind } from '@glenmark/core';
import {
  catchError,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
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
import { Api, type ApiError } from './api';
import { UndoSteps } from './undo';

/** How it stands with saving: what the bar shows. */
export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict';

const AUTOSAVE_AFTER = 500;
const RETRY_AFTER = 2000;

/**
 * A document that is open: its text, undo and redo, autosave. Only texts that load become part of it; a change with an
 * error is refused and told, and stays with whoever is writing it.
 */
export abstract class Desk {
  protected readonly api = inject(Api);

  protected abstract readonly kind: Kind;
  /** What is wrong with a text of this kind. */
  protected abstract faultsOf(text: string): Diagnostic[];

  protected readonly stored = signal<StoredDocument | undefined>(undefined);
  private readonly textSignal = signal('');
  private readonly steps = new UndoSteps();
  private readonly opened = new Subject<string>();
  private readonly saves = new Subject<void>();

  readonly problem = signal<string | undefined>(undefined);
  readonly saveState = signal<SaveState>('saved');
  /** The revision that somebody else saved first, while `saveState` is `conflict`. */
  readonly theirs = signal<StoredDocument | undefined>(undefined);

  readonly id = computed(() => this.stored()?.id);
  readonly revision = computed(() => this.stored()?.revision ?? 0);
  readonly text = this.textSignal.asReadonly();
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
  }

  /** Opens a document; what is not yet saved of the one before is sent first. */
  open(id: string): void {
    if (id === this.id() && this.problem() === undefined) return;
    this.flush();
    this.opened.next(id);
  }

  /**
   * Applies changes as one undoable step. Returns what is wrong instead, and then changes nothing. With `goesOn` a step
   * of the same name that came just before becomes part of this one, as while a slider is dragged.
   */
  apply(name: string, changes: readonly Change[], { goesOn = false } = {}): Diagnostic[] {
    return this.replace(name, this.edited(changes), { goesOn });
  }

  /** What would be wrong after some changes; nothing is changed. */
  faultsAfter(changes: readonly Change[]): Diagnostic[] {
    return errorsOf(this.faultsOf(this.edited(changes)));
  }

  /** The text after some changes. */
  protected edited(changes: readonly Change[]): string {
    return edit(this.text(), changes);
  }

  /** Replaces the whole text as one undoable step, if it loads. */
  replace(name: string, after: string, { goesOn = false } = {}): Diagnostic[] {
    const before = this.text();
    const diagnostics = this.faultsOf(after);
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
    else this.replace($localize`take revision ${theirs.revision}`, theirs.text);
  }

  /** Sends what is not yet saved while the page, or this document, goes away; the browser finishes the request by itself. */
  flush(): void {
    const base = this.stored();
    if (base === undefined || this.text() === base.text || this.saveState() === 'conflict') return;
    // Without an answer nothing can be told to a page that goes; while it stays, saving is tried again by itself.
    fetch(`/api/${COLLECTIONS[this.kind]}/${base.id}`, {
      method: 'PUT',
      keepalive: true,
      headers: { 'Content-Type': 'application/json', 'If-Match': etagOf(base) },
      body: JSON.stringify({ text: this.text(), message: this.undoName() ?? '' }),
    }).catch(() => undefined);
  }

  /** Reads the document; what more is needed for it comes after. */
  protected load(id: string): Observable<unknown> {
    this.problem.set(undefined);
    return this.api.read(this.kind, id).pipe(
      tap((document) => {
        this.stored.set(document);
        this.steps.clear();
        this.textSignal.set(document.text);
        this.saveState.set('saved');
        this.theirs.set(undefined);
      }),
      switchMap(() => this.loaded(id)),
      catchError((error: ApiError) => {
        this.problem.set(error.problem.detail);
        return EMPTY;
      }),
    );
  }

  /** What is read beside the document once it is there. */
  protected loaded(_id: string): Observable<unknown> {
    return EMPTY;
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
    return this.api.read(this.kind, id).pipe(
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
}
