import { TestBed } from '@angular/core/testing';
import type { Problem, StoredDocument } from '@glenmark/contract';
import { firstValueFrom, type Observable, of, Subject, throwError } from 'rxjs';
import { Api, ApiError } from './api';
import { Changes, type HeardChange } from './changes';
import { Documents } from './documents';
import { UnsentEdits } from './unsent-edits';

const stored = (id: string, revision = 1, text = `${id} as saved`): StoredDocument => ({
  kind: 'moveset',
  id,
  name: id,
  revision,
  updatedAt: '2026-01-01T00:00:00Z',
  text,
  hash: `hash of ${text}`,
  message: '',
});

/** A server that can be away, with documents by id, and a browser without edits of earlier pages. */
function setUp() {
  const heads = new Map(['lock-keeper', 'signal-kite'].map((id) => [id, stored(id)]));
  const state = { away: false, reads: 0, saves: [] as string[] };
  const heard = new Subject<HeardChange>();
  const away = (): Observable<never> =>
    throwError(() => new ApiError({ status: 503, detail: 'away' } as Problem));
  TestBed.configureTestingModule({
    providers: [
      {
        provide: Api,
        useValue: {
          read: (_: string, id: string) => {
            state.reads++;
            return of(heads.get(id)!);
          },
          save: ({ id, revision }: StoredDocument, { text }: { text: string }) => {
            state.saves.push(id);
            if (state.away) return away();
            heads.set(id, stored(id, revision + 1, text));
            return of(heads.get(id)!);
          },
        },
      },
      { provide: Changes, useValue: { heard } },
      {
        provide: UnsentEdits,
        useValue: {
          failed: () => false,
          keep: () => Promise.resolve(),
          forget: () => Promise.resolve(),
          takeUp: () => Promise.resolve([]),
        },
      },
    ],
  });
  const documents = TestBed.inject(Documents);
  const open = (id: string) => firstValueFrom(documents.open('moveset', id));
  const settle = async (ms: number): Promise<void> => {
    await vi.advanceTimersByTimeAsync(ms);
    TestBed.tick();
  };
  return { documents, heads, heard, state, open, settle };
}

describe('the documents of a page', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('an edit that waits for the server stays with its document, whatever is opened meanwhile', async () => {
    const { documents, heads, state, open, settle } = setUp();
    const keeper = await open('lock-keeper');
    state.away = true;
    keeper.replace({ name: 'edit', before: keeper.text(), after: 'lock-keeper edited' }, false);
    await settle(3000);
    documents.close(keeper);
    const kite = await open('signal-kite');
    await settle(3000);
    expect(documents.unsaved().map((d) => d.id)).toEqual(['lock-keeper']);
    state.away = false;
    await settle(5000);
    expect(heads.get('lock-keeper')).toMatchObject({ revision: 2, text: 'lock-keeper edited' });
    expect(heads.get('signal-kite')).toEqual(stored('signal-kite'));
    expect(kite.text()).toBe('signal-kite as saved');
    expect(new Set(state.saves)).toEqual(new Set(['lock-keeper']));
    expect(documents.unsaved()).toEqual([]);
  });

  it('a document that is opened again before it was saved goes on as it was', async () => {
    const { documents, state, open, settle } = setUp();
    const keeper = await open('lock-keeper');
    state.away = true;
    keeper.replace({ name: 'edit', before: keeper.text(), after: 'edited' }, false);
    await settle(1000);
    documents.close(keeper);
    const again = await open('lock-keeper');
    expect(again).toBe(keeper);
    expect([again.text(), again.undoName(), state.reads]).toEqual(['edited', 'edit', 1]);
  });

  it('a document that was closed and saved is read anew', async () => {
    const { documents, state, open, settle } = setUp();
    const keeper = await open('lock-keeper');
    keeper.replace({ name: 'edit', before: keeper.text(), after: 'edited' }, false);
    documents.close(keeper);
    await settle(1000);
    const again = await open('lock-keeper');
    expect(again).not.toBe(keeper);
    expect([again.text(), again.revision(), state.reads]).toEqual(['edited', 2, 2]);
  });

  it('gives up the edits of a document when told to', async () => {
    const { documents, state, open, settle } = setUp();
    const keeper = await open('lock-keeper');
    state.away = true;
    keeper.replace({ name: 'edit', before: keeper.text(), after: 'edited' }, false);
    await settle(1000);
    documents.discard(keeper);
    state.away = false;
    state.saves = [];
    await settle(5000);
    expect([documents.unsaved(), state.saves]).toEqual([[], []]);
  });

  it('show what others save, each in the document that it is of', async () => {
    const { heads, heard, open } = setUp();
    const [keeper, kite] = [await open('lock-keeper'), await open('signal-kite')];
    heads.set('lock-keeper', stored('lock-keeper', 2, 'of another window'));
    heard.next({ kind: 'course', id: 'lock-keeper', revision: 2 });
    heard.next({ kind: 'moveset', id: 'signal-kite' });
    expect([keeper.revision(), kite.revision()]).toEqual([1, 1]);
    heard.next({ kind: 'moveset', id: 'lock-keeper', revision: 2 });
    expect([keeper.text(), kite.revision()]).toEqual(['of another window', 1]);
    heads.set('signal-kite', stored('signal-kite', 4, 'much later'));
    heard.next('anew');
    expect(kite.text()).toBe('much later');
  });
});
