import { NEVER, of, Subject, throwError } from 'rxjs';
import type { StoredDocument } from '@glenmark/contract';
import { failure, setUp, stored } from './open-document.testing';
import type { UnsentEdit } from './unsent-edits';

const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms);

describe('an open document', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('saves on top of the revision it was read at, and keeps nothing in the browser after that', async () => {
    const { document, server, kept, type } = setUp();
    type('second');
    expect(document.saveState()).toBe('saving');
    await wait(1000);
    expect(server.sent).toEqual([{ revision: 1, text: 'second', keepalive: false }]);
    expect([document.saveState(), document.revision(), kept.size]).toEqual(['saved', 2, 0]);
  });

  it('keeps its text in the browser while the server fails, with the reason, and sends the newest text in the end', async () => {
    const { document, server, kept, type } = setUp();
    server.reply = () => throwError(() => failure(503));
    type('second');
    await wait(3000);
    expect([document.saveState(), document.reason()]).toEqual(['waiting', 'status 503']);
    expect(kept.get('lock-keeper')).toMatchObject({
      text: 'second',
      base: { revision: 1, hash: 'hash of first' },
    });
    type('third');
    server.reply = undefined;
    await wait(5000);
    expect(server.head.text).toBe('third');
    expect([document.saveState(), document.reason(), kept.size]).toEqual(['saved', undefined, 0]);
  });

  it('does not conflict with its own save when the answer was lost', async () => {
    const { document, server, type } = setUp();
    // The server saves, and nobody hears of it.
    server.reply = (text) => {
      server.head = stored(2, text);
      server.reply = undefined;
      return throwError(() => failure(0));
    };
    type('second');
    await wait(600);
    type('third');
    await wait(6000);
    expect([document.saveState(), document.theirs()]).toEqual(['saved', undefined]);
    expect([server.head.text, document.revision()]).toEqual(['third', 3]);
  });

  it('does not conflict with what it sent while the page seemed to go', async () => {
    const { document, server, type } = setUp();
    type('second');
    document.flush({ leaving: true });
    expect(server.sent).toEqual([{ revision: 1, text: 'second', keepalive: true }]);
    type('third');
    await wait(2000);
    expect([document.saveState(), document.theirs(), server.head.text]).toEqual([
      'saved',
      undefined,
      'third',
    ]);
  });

  it('tells a conflict, and sends nothing until somebody has chosen', async () => {
    const { document, server, kept, type } = setUp();
    server.head = stored(4, 'theirs');
    type('mine');
    await wait(1000);
    expect([document.saveState(), document.theirs()?.revision]).toEqual(['conflict', 4]);
    const sent = server.sent.length;
    type('mine still');
    await wait(5000);
    expect(server.sent).toHaveLength(sent);
    expect(kept.get('lock-keeper')?.text).toBe('mine still');
    document.resolve('mine');
    await wait(1000);
    expect([document.saveState(), server.head.text, server.head.revision]).toEqual([
      'saved',
      'mine still',
      5,
    ]);
  });

  it('takes theirs as a step that can be undone', async () => {
    const { document, server, type } = setUp();
    server.head = stored(4, 'theirs');
    type('mine');
    await wait(1000);
    document.resolve('theirs');
    expect([document.text(), document.saveState()]).toEqual(['theirs', 'saving']);
    document.undo();
    expect(document.text()).toBe('mine');
    await wait(1000);
    expect([server.head.text, document.saveState()]).toEqual(['mine', 'saved']);
  });

  it('reads a conflict again when reading it failed', async () => {
    const { document, server, type } = setUp();
    server.head = stored(4, 'theirs');
    let tries = 0;
    server.read = () => (++tries < 3 ? throwError(() => failure(0)) : of(server.head));
    type('mine');
    await wait(1000);
    expect(document.saveState()).toBe('waiting');
    await wait(5000);
    expect([document.saveState(), tries]).toEqual(['conflict', 3]);
  });

  it('says why when the server refuses, keeps the text, and tries again after the next edit', async () => {
    const { document, server, kept, type } = setUp();
    server.reply = () => throwError(() => failure(422));
    type('second');
    await wait(1000);
    expect([document.saveState(), document.reason()]).toEqual(['refused', 'status 422']);
    expect(kept.get('lock-keeper')?.text).toBe('second');
    server.reply = undefined;
    type('third');
    await wait(1000);
    expect([document.saveState(), kept.size]).toEqual(['saved', 0]);
  });

  it('sends one save at a time, each on top of the answer before it', async () => {
    const { document, server, type } = setUp();
    const first = new Subject<StoredDocument>();
    server.reply = () => first;
    type('second');
    await wait(600);
    type('third');
    await wait(600);
    expect(server.sent).toHaveLength(1);
    server.reply = undefined;
    server.head = stored(2, 'second');
    first.next(server.head);
    first.complete();
    await wait(600);
    expect(server.sent.map((s) => [s.revision, s.text])).toEqual([
      [1, 'second'],
      [2, 'third'],
    ]);
    expect(document.saveState()).toBe('saved');
  });

  it('goes on from an unsent edit: sent by itself, and undone to what the server has', async () => {
    const unsent: UnsentEdit = {
      kind: 'moveset',
      id: 'lock-keeper',
      name: 'Lock keeper',
      base: { revision: 1, hash: 'hash of first' },
      text: 'second',
      message: 'type',
      at: 5,
    };
    const { document, server } = setUp({ stored: stored(1, 'first'), unsent });
    expect([document.text(), document.restoredFrom()]).toEqual(['second', 5]);
    await wait(1000);
    expect([server.head.text, document.saveState()]).toEqual(['second', 'saved']);
    document.undo();
    expect(document.text()).toBe('first');
  });

  it('an unsent edit under another revision is a conflict, with both to choose from', async () => {
    const unsent: UnsentEdit = {
      kind: 'moveset',
      id: 'lock-keeper',
      name: 'Lock keeper',
      base: { revision: 1, hash: 'hash of first' },
      text: 'mine',
      message: '',
      at: 5,
    };
    const { document, server } = setUp({ stored: stored(2, 'theirs'), unsent });
    server.head = stored(2, 'theirs');
    await wait(1000);
    expect([document.saveState(), document.text(), document.theirs()?.text]).toEqual([
      'conflict',
      'mine',
      'theirs',
    ]);
  });

  it('sends nothing any more once it has ended', async () => {
    const { document, server, type } = setUp();
    server.reply = () => NEVER;
    type('second');
    document.end();
    await wait(5000);
    expect(server.sent).toEqual([]);
  });
});
