import { computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Change, type Diagnostic, edit, errorsOf, isUsable, type Kind } from '@glenmark/core/model';
import { catchError, EMPTY, type Observable, Subject, switchMap, tap } from 'rxjs';
import type { StoredDocument } from '@glenmark/contract';
import { Api, type ApiError } from './api';
import { Documents } from './documents';
import type { OpenDocument, SaveState } from './open-document';

export type { SaveState } from './open-document';

/**
 * Where documents of one kind are edited, one at a time. Only texts that load become part of a document; a change with an
 * error is refused and reported, and stays with whoever is writing it.
 */
export abstract class Desk {
  private readonly api = inject(Api);
  private readonly documents = inject(Documents);

  protected abstract readonly kind: Kind;
  /** What is wrong with a text of this kind. */
  protected abstract faultsOf(text: string): Diagnostic[];

  protected readonly document = signal<OpenDocument | undefined>(undefined);
  private readonly opened = new Subject<string>();
  /** The document that is open or being opened. */
  private asked: string | undefined;
  private readonly notOpened = signal<string | undefined>(undefined);

  /** What stands in the way: it could not be opened, or the server will not take it. */
  readonly problem = computed(() => {
    const document = this.document();
    return document?.saveState() === 'refused' ? document.reason() : this.notOpened();
  });
  readonly saveState = computed((): SaveState => this.document()?.saveState() ?? 'saved');
  /** Why it is not saved yet. */
  readonly reason = computed(() => this.document()?.reason());
  readonly theirs = computed(() => this.document()?.theirs());
  readonly restoredFrom = computed(() => this.document()?.restoredFrom());

  readonly id = computed(() => this.document()?.id);
  readonly revision = computed(() => this.document()?.revision() ?? 0);
  readonly text = computed(() => this.document()?.text() ?? '');
  /** Whether the text is that of the revision. */
  readonly isAsSaved = computed(() => this.document()?.isAsSaved() ?? true);
  readonly undoName = computed(() => this.document()?.undoName());
  readonly redoName = computed(() => this.document()?.redoName());

  constructor() {
    this.opened
      .pipe(
        switchMap((id) =>
          this.documents.open(this.kind, id).pipe(
            tap((document) => this.document.set(document)),
            switchMap(() => this.loaded(id)),
            catchError((error: ApiError) => {
              this.notOpened.set(error.problem.detail);
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** Opens a document in place of the one before, which is saved by itself. */
  open(id: string): void {
    if (id === this.asked && this.notOpened() === undefined) return;
    const before = this.document();
    this.document.set(undefined);
    if (before !== undefined) this.documents.close(before);
    this.asked = id;
    this.notOpened.set(undefined);
    this.opening();
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
    const document = this.document();
    if (document === undefined) return [];
    const before = document.text();
    const diagnostics = this.faultsOf(after);
    if (!isUsable(diagnostics)) return diagnostics;
    if (after !== before) document.replace({ name, before, after }, goesOn);
    return [];
  }

  undo(): void {
    this.document()?.undo();
  }

  redo(): void {
    this.document()?.redo();
  }

  /** After a conflict: keep this window's text on top of the other's, or take the other's as an undoable step. */
  resolve(keep: 'mine' | 'theirs'): void {
    this.document()?.resolve(keep);
  }

  /** Gives up what the server has not; the document is closed. */
  discard(): void {
    const document = this.document();
    if (document === undefined) return;
    this.document.set(undefined);
    this.asked = undefined;
    this.documents.discard(document);
  }

  /** Saves the text as a document of its own, in place of one that the server will not take any more. */
  saveAsNew(): Observable<StoredDocument> {
    return this.api
      .create(this.kind, { text: this.text(), message: this.undoName() ?? '' })
      .pipe(tap(() => this.discard()));
  }

  /** Clears what belongs to the document before, when another is opened. */
  protected opening(): void {
    // Most desks have nothing beside the document.
  }

  /** What is read beside the document once it is there. */
  protected loaded(_id: string): Observable<unknown> {
    return EMPTY;
  }
}
