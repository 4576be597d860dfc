import { computed, DestroyRef, DOCUMENT, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Kind } from '@glenmark/core/model';
import { defer, from, map, type Observable, of, switchMap } from 'rxjs';
import { Api } from './api';
import { Changes } from './changes';
import type { Beginning } from './beginning';
import { OpenDocument } from './open-document';
import { UnsentEdits } from './unsent-edits';

/** When edits of pages that are gone are looked for: after the page's own document had time to open, then ever again (ms). */
const FIRST_LOOK = 3000;
const LOOK_EVERY = 30_000;

/**
 * The documents that live in this page: those that are open, and those that were closed before the server had everything.
 * Opening one of the latter goes on with it as it is.
 */
@Injectable({ providedIn: 'root' })
export class Documents {
  private readonly api = inject(Api);
  private readonly unsent = inject(UnsentEdits);
  private readonly live = signal<ReadonlyMap<string, OpenDocument>>(new Map());
  private readonly opened = new Set<OpenDocument>();

  /** Those with edits that have not reached the server. */
  readonly unsaved = computed(() => [...this.live().values()].filter((d) => d.saveState() !== 'saved'));
  /** True when this browser keeps nothing: what is not saved is in this page alone. */
  readonly keepsNothing = this.unsent.failed;

  constructor() {
    // One that was closed ends as soon as there is nothing left to save.
    effect(() => {
      const settled = [...this.live().values()].filter((d) => d.saveState() === 'saved');
      untracked(() => settled.filter((d) => !this.opened.has(d)).forEach((d) => this.end(d)));
    });
    inject(Changes)
      .heard.pipe(takeUntilDestroyed())
      .subscribe((change) => {
        if (change === 'anew') for (const document of this.live().values()) document.heard(Infinity);
        else if (change.revision !== undefined) this.live().get(keyOf(change))?.heard(change.revision);
      });
    const page = inject(DOCUMENT);
    const leave = (): void => this.unsaved().forEach((d) => d.flush({ leaving: true }));
    const hide = (): void => {
      if (page.visibilityState === 'hidden') leave();
    };
    page.defaultView?.addEventListener('pagehide', leave);
    page.addEventListener('visibilitychange', hide);
    const look = (): void => void this.takeUp();
    const first = setTimeout(look, FIRST_LOOK);
    const looking = setInterval(look, LOOK_EVERY);
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(first);
      clearInterval(looking);
      page.defaultView?.removeEventListener('pagehide', leave);
      page.removeEventListener('visibilitychange', hide);
      for (const document of this.live().values()) document.end();
    });
  }

  /** Opens a document: as it lives already, with edits that an earlier page left, or as the server has it. */
  open(kind: Kind, id: string): Observable<OpenDocument> {
    return defer(() => {
      const known = this.live().get(keyOf({ kind, id }));
      if (known !== undefined) return of(known);
      return this.api
        .read(kind, id)
        .pipe(
          switchMap((stored) =>
            from(this.unsent.takeUp((e) => e.kind === kind && e.id === id)).pipe(
              map(([unsent]) => this.begin(unsent === undefined ? { stored } : { stored, unsent })),
            ),
          ),
        );
    }).pipe(
      map((document) => {
        this.opened.add(document);
        return document;
      }),
    );
  }

  /** Closes a document; it lives on until everything is saved. */
  close(document: OpenDocument): void {
    this.opened.delete(document);
    if (document.saveState() === 'saved') this.end(document);
    else document.flush();
  }

  /** Gives up the edits of a document that have not reached the server. */
  discard(document: OpenDocument): void {
    this.opened.delete(document);
    void this.unsent.forget(document);
    this.end(document);
  }

  /** Sends the edits of pages that are gone. */
  private async takeUp(): Promise<void> {
    const edits = await this.unsent.takeUp((edit) => !this.live().has(keyOf(edit)));
    for (const unsent of edits) this.begin({ unsent });
  }

  private begin(beginning: Beginning): OpenDocument {
    const key = keyOf(beginning.stored ?? beginning.unsent!);
    const known = this.live().get(key);
    if (known !== undefined) return known;
    const document = new OpenDocument({ api: this.api, unsent: this.unsent }, beginning);
    this.live.update((live) => new Map(live).set(key, document));
    return document;
  }

  private end(document: OpenDocument): void {
    document.end();
    this.live.update((live) => new Map([...live].filter(([, d]) => d !== document)));
  }
}

const keyOf = ({ kind, id }: { kind: Kind; id: string }): string => `${kind}/${id}`;
