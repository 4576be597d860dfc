import { of } from 'rxjs';
import { setUp, stored } from './open-document.testing';

const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms);

describe('an open document that somebody else saves', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('without edits of its own shows what somebody saves elsewhere, as a step that can be undone', async () => {
    const { document, server } = setUp();
    server.head = stored(2, 'of another window');
    document.heard(2);
    expect([document.text(), document.revision(), document.saveState()]).toEqual([
      'of another window',
      2,
      'saved',
    ]);
    await wait(3000);
    expect(server.sent).toEqual([]);
    document.undo();
    await wait(1000);
    expect(server.head).toMatchObject({ revision: 3, text: 'first' });
  });

  it('with edits of its own meets what somebody saved elsewhere when it saves', async () => {
    const { document, server, type } = setUp();
    server.head = stored(2, 'of another window');
    type('mine');
    document.heard(2);
    expect(document.text()).toBe('mine');
    await wait(1000);
    expect([document.saveState(), document.theirs()?.text]).toEqual(['conflict', 'of another window']);
  });

  it('asks for nothing when it is told of its own save, and for the newest when anything may have changed', async () => {
    const { document, server, type } = setUp();
    type('second');
    await wait(1000);
    let reads = 0;
    server.read = () => {
      reads++;
      return of(server.head);
    };
    document.heard(2);
    expect(reads).toBe(0);
    document.heard(Infinity);
    expect([reads, document.text(), document.revision()]).toEqual([1, 'second', 2]);
  });
});
