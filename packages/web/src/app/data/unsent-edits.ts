import { Injectable, signal } from '@angular/core';
import type { Kind } from '@glenmark/core/model';
import { createStore, del, entries, set, type UseStore } from 'idb-keyval';
import { randomId } from './random-id';

/** What was edited and has not reached the server: the whole text, with the revision that it was made from. */
export interface UnsentEdit {
  kind: Kind;
  id: string;
  name: string;
  /** The revision under it, as an entity tag needs it. */
  base: { revision: number; hash: string };
  text: string;
  message: string;
  /** When it was kept, in milliseconds since 1970. */
  at: number;
}

type Kept = UnsentEdit & { session: string };

/** Where edits are kept. A fake takes its place in tests. */
export interface EditStore {
  put(key: string, edit: Kept): Promise<void>;
  remove(key: string): Promise<void>;
  all(): Promise<[string, Kept][]>;
}

const inBrowser = (): EditStore => {
  let store: UseStore | undefined;
  const open = (): UseStore => (store ??= createStore('glenmark', 'unsent-edits'));
  return {
    put: (key, edit) => set(key, edit, open()),
    remove: (key) => del(key, open()),
    all: () => entries<string, Kept>(open()),
  };
};

/**
 * Edits that could not be sent, kept in this browser (IndexedDB) until the server has them, so that they outlive the page.
 * Each belongs to the page that made it; once that page is gone, another may take it up.
 */
@Injectable({ providedIn: 'root' })
export class UnsentEdits {
  private readonly session = randomId();
  private readonly store = inBrowser();
  /** True once this browser refused to keep something: then only the open page has it. */
  readonly failed = signal(false);

  constructor() {
    // Held as long as this page lives: others see by it that these edits are not theirs to send.
    void locks()?.request(lockName(this.session), () => new Promise(() => undefined));
  }

  keep(edit: UnsentEdit): Promise<void> {
    return this.tried(this.store.put(this.keyOf(edit), { ...edit, session: this.session }));
  }

  forget(edit: Pick<UnsentEdit, 'kind' | 'id'>): Promise<void> {
    return this.tried(this.store.remove(this.keyOf(edit)));
  }

  /** Takes up the edits whose page is gone, oldest first; from now on they belong to this page. */
  async takeUp(wanted: (edit: UnsentEdit) => boolean): Promise<UnsentEdit[]> {
    const kept = await this.store.all().catch(() => []);
    const living = new Set((await locks()?.query())?.held?.map((lock) => lock.name));
    const orphans = kept
      .filter(
        ([, edit]) => edit.session !== this.session && !living.has(lockName(edit.session)) && wanted(edit),
      )
      .sort(([, a], [, b]) => a.at - b.at);
    const taken: UnsentEdit[] = [];
    for (const [key, { session: _, ...edit }] of orphans) {
      if (taken.some((e) => e.kind === edit.kind && e.id === edit.id)) continue;
      await this.keep(edit);
      await this.tried(this.store.remove(key));
      taken.push(edit);
    }
    return taken;
  }

  private keyOf({ kind, id }: Pick<UnsentEdit, 'kind' | 'id'>): string {
    return `${kind}/${id}/${this.session}`;
  }

  private tried(work: Promise<void>): Promise<void> {
    return work.catch(() => this.failed.set(true));
  }
}

const lockName = (session: string): string => `glenmark-page-${session}`;
/** Web Locks, where the browser has them: not over plain HTTP from another machine. */
const locks = (): LockManager | undefined => (navigator as { locks?: LockManager }).locks;
