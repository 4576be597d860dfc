import 'fake-indexeddb/auto';
import { TestBed } from '@angular/core/testing';
import { type UnsentEdit, UnsentEdits } from './unsent-edits';

const edit = (id: string, text: string, at: number): UnsentEdit => ({
  kind: 'moveset',
  id,
  name: id,
  base: { revision: 3, hash: 'abc' },
  text,
  message: 'type',
  at,
});

/** A page of its own; its edits are an orphan's for every other, for this browser of tests has no locks. */
const page = (): UnsentEdits => TestBed.runInInjectionContext(() => new UnsentEdits());

describe('unsent edits', () => {
  it('outlive their page, and are taken up once, with their revision', async () => {
    const [first, second, third] = [page(), page(), page()];
    await first.keep(edit('lock-keeper', 'older', 1));
    await first.keep(edit('lock-keeper', 'newer', 2));
    expect(await first.takeUp(() => true)).toEqual([]);
    expect(await second.takeUp((e) => e.id === 'signal-kite')).toEqual([]);
    expect(await second.takeUp((e) => e.id === 'lock-keeper')).toEqual([edit('lock-keeper', 'newer', 2)]);
    await second.forget(edit('lock-keeper', '', 0));
    expect(await third.takeUp(() => true)).toEqual([]);
  });

  it('of two pages on one document are both kept, the older one first', async () => {
    const [first, second, third] = [page(), page(), page()];
    await second.keep(edit('kite', 'of the second page', 2));
    await first.keep(edit('kite', 'of the first page', 1));
    expect((await third.takeUp((e) => e.id === 'kite')).map((e) => e.text)).toEqual(['of the first page']);
    await third.forget(edit('kite', '', 0));
    expect((await third.takeUp((e) => e.id === 'kite')).map((e) => e.text)).toEqual(['of the second page']);
    await third.forget(edit('kite', '', 0));
  });

  it('that the browser does not keep are told', async () => {
    const lonely = page();
    const store = { put: () => Promise.reject(new Error('no room')) };
    (lonely as unknown as { store: typeof store }).store = store;
    await lonely.keep(edit('kite', 'text', 1));
    expect(lonely.failed()).toBe(true);
  });
});
