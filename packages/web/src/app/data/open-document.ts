import { computed, signal } from '@angular/core';
import type { StoredDocument } from '@glenmark/contract';
import type { Kind } from '@glenmark/core/model';
import {
  catchError,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
  filter,
  merge,
  type Observable,
  of,
  Subject,
  type Subscription,
  switchMap,
  tap,
} from 'rxjs';
import type { ApiError } from './api';
import type { Beginning, Services } from './beginning';
import { triedAgain } from './tried-again';
import { type Step, UndoSteps } from './undo';
import type { UnsentEdit } from './unsent-edits';

/** How it stands with saving, as the bar shows it. `refused`: the server will not take it, whatever is tried again. */
export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict' | 'refused';

const AUTOSAVE_AFTER = 500;
/** Longest body of a request that the browser finishes after its page is gone, with room for the rest of the request. */
const MAX_KEEPALIVE = 60_000;

/**
 * One document that is open: its id, the revision it is based on, its text, its undo steps, its saves, its conflict. All of
 * that lives and ends together, so that nothing of one document can reach another. It is saved by itself while it lives,
 * and lives on after it was closed until the server has everything.
 */
export class OpenDocument {
  readonly kind: Kind;
  readonly id: string;
  private readonly steps = new UndoSteps();
  private readonly base;
  /** The text at `base`; undefined while only the server knows it. */
  private readonly savedText;
  private readonly textSignal;
  private readonly nameSignal;
  private readonly edited = new Subject<void>();
  private readonly flushed = new Subject<void>();
  private readonly saving: Subscription;
  /** The texts that were sent on top of `base`: the answer to any of them may have been lost. */
  private readonly sent = new Set<string>();
  private keepsAlive = false;

  readonly saveState = signal<SaveState>('saved');
  /** Why it is not saved, as the server put it. */
  readonly reason = signal<string | undefined>(undefined);
  /** The revision that somebody else saved first, while `saveState` is `conflict`. */
  readonly theirs = signal<StoredDocument | undefined>(undefined);
  /** When the edit was made that was restored on opening, in milliseconds since 1970. */
  readonly restoredFrom = signal<number | undefined>(undefined);
  readonly revision = computed(() => this.base().revision);
  readonly text;
  readonly name;
  readonly undoName = this.steps.undoName;
  readonly redoName = this.steps.redoName;
  /** Whether the text is the one of `revision`. */
  readonly isAsSaved = computed(() => this.text() === this.savedText());

  constructor(
    private readonly services: Services,
    { stored, unsent }: Beginning,
  ) {
    const first = (stored ?? unsent)!;
    this.kind = first.kind;
    this.id = first.id;
    this.nameSignal = signal(first.name);
    this.name = this.nameSignal.asReadonly();
    this.base = signal(unsent?.base ?? { revision: stored!.revision, hash: stored!.hash });
    const isCurrent = unsent === undefined || unsent.base.hash === stored?.hash;
    this.savedText = signal(isCurrent ? stored?.text : undefined);
    this.textSignal = signal(unsent?.text ?? stored!.text);
    this.text = this.textSignal.asReadonly();
    this.saving = merge(this.edited.pipe(debounceTime(AUTOSAVE_AFTER)), this.flushed)
      .pipe(concatMap(() => this.save()))
      .subscribe();
    if (unsent !== undefined) {
      this.restoredFrom.set(unsent.at);
      if (stored !== undefined && isCurrent && stored.text !== unsent.text)
        this.steps.push({ name: $localize`restore unsent edits`, before: stored.text, after: unsent.text });
      this.requestSave();
    }
  }

  /** Makes a text the newest, as one undoable step; with `goesOn` it is joined with the same step just before. */
  replace(step: Step, goesOn: boolean): void {
    this.steps.push(step, goesOn);
    this.setText(step.after);
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
    this.theirs.set(undefined);
    this.rebase(theirs);
    if (keep === 'theirs' && theirs.text !== this.text())
      this.replace(
        { name: $localize`use revision ${theirs.revision}`, before: this.text(), after: theirs.text },
        false,
      );
    else this.requestSave();
  }

  /**
   * Somebody saved a revision elsewhere, or may have (`Infinity`). A window without edits of its own shows it, as a step
   * that can be undone; one with edits meets it when these are saved.
   */
  heard(revision: number): void {
    const isBehind = (to: number): boolean => this.saveState() === 'saved' && to > this.revision();
    if (!isBehind(revision)) return;
    // A read that fails is made good by the next change, or the next save.
    const read = this.services.api.read(this.kind, this.id).pipe(catchError(() => EMPTY));
    read.pipe(filter((theirs) => isBehind(theirs.revision))).subscribe((theirs) => {
      const step = {
        name: $localize`show revision ${theirs.revision}`,
        before: this.text(),
        after: theirs.text,
      };
      if (step.before !== step.after) this.steps.push(step);
      this.textSignal.set(step.after);
      this.rebase(theirs);
    });
  }

  /** Sends what is not yet saved without waiting for more edits; with `leaving` the browser ends the request by itself. */
  flush({ leaving = false } = {}): void {
    if (this.saveState() === 'saved' || this.saveState() === 'conflict') return;
    void this.services.unsent.keep(this.edit());
    this.keepsAlive = leaving;
    this.flushed.next();
  }

  /** Ends it, when there is nothing left to save. */
  end(): void {
    this.saving.unsubscribe();
  }

  private setText(text: string): void {
    this.textSignal.set(text);
    this.requestSave();
  }

  private requestSave(): void {
    if (this.theirs() !== undefined) {
      // Nothing is sent until somebody has chosen; until then it must not be lost.
      void this.services.unsent.keep(this.edit());
      return;
    }
    this.saveState.set('saving');
    this.edited.next();
  }

  private edit(): UnsentEdit {
    const { kind, id } = this;
    const message = this.undoName() ?? '';
    return { kind, id, name: this.name(), base: this.base(), text: this.text(), message, at: Date.now() };
  }

  private rebase({ revision, hash, text, name }: StoredDocument): void {
    this.base.set({ revision, hash });
    this.sent.clear();
    this.savedText.set(text);
    this.nameSignal.set(name);
    this.reason.set(undefined);
    if (text === this.text()) {
      this.saveState.set('saved');
      void this.services.unsent.forget(this);
    } else this.saveState.set('saving');
  }

  private save(): Observable<unknown> {
    const isSent = defer(() => {
      if (this.saveState() === 'conflict') return EMPTY;
      if (this.isAsSaved()) {
        this.saveState.set('saved');
        void this.services.unsent.forget(this);
        return EMPTY;
      }
      // Kept first: whatever becomes of the request, or of this page, the text is somewhere.
      void this.services.unsent.keep(this.edit());
      const { kind, id } = this;
      const text = this.text();
      this.sent.add(text);
      const keepalive = this.keepsAlive && text.length < MAX_KEEPALIVE;
      // For this request only: the page may stay, and such requests share a small allowance.
      this.keepsAlive = false;
      return this.services.api.save(
        { kind, id, ...this.base() },
        { text, message: (this.undoName() ?? '').slice(0, 500) },
        { keepalive },
      );
    });
    return isSent.pipe(
      this.triedAgain(),
      tap((saved) => this.rebase(saved)),
      catchError((error: ApiError) => (error.problem.status === 412 ? this.meet() : this.refuse(error))),
    );
  }

  /** Each try sends what is there by then; what the server says meanwhile is told. */
  private triedAgain<T>() {
    return triedAgain<T>((reason) => {
      this.saveState.set('waiting');
      this.reason.set(reason);
    });
  }

  /** The server has another revision: our own, when the answer to a save was lost; otherwise somebody else's. */
  private meet(): Observable<unknown> {
    return defer(() => this.services.api.read(this.kind, this.id)).pipe(
      this.triedAgain(),
      switchMap((theirs) => {
        if (this.sent.has(theirs.text)) {
          this.rebase(theirs);
          return this.isAsSaved() ? EMPTY : this.save();
        }
        this.theirs.set(theirs);
        this.saveState.set('conflict');
        this.reason.set(undefined);
        return EMPTY;
      }),
      catchError((error: ApiError) => this.refuse(error)),
    );
  }

  private refuse(error: ApiError): Observable<unknown> {
    this.saveState.set('refused');
    this.reason.set(error.problem.detail);
    return of(undefined);
  }
}
