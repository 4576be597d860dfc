import { EventEmitter } from 'node:events';
import type { Context } from 'koa';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { sendStates } from '../dist/http/events.js';

interface State {
  n: number;
  padding: string;
}

class FakeResponse extends EventEmitter {
  destroyed = false;
  destroy(): void {
    this.destroyed = true;
    this.emit('close');
  }
}

/** A request whose stream is read, or not, as the test wants; what it follows, and whether it still does. */
function setUp() {
  const res = new FakeResponse();
  const ctx = { res, state: {}, req: { socket: { setTimeout: () => undefined } } } as unknown as Context;
  const source = { next: (_: State): void => undefined, end: (): void => undefined, isFollowed: true };
  const body = sendStates<State>(ctx, (next, end) => {
    Object.assign(source, { next, end });
    return Promise.resolve(() => void (source.isFollowed = false));
  });
  return { res, source, body };
}

const text = (n: number, size = 0): State => ({ n, padding: 'x'.repeat(size) });

describe('an event stream', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('sends each state to a reader who keeps up, and ends after the last', async () => {
    const { res, source, body } = setUp();
    let read = '';
    body.on('data', (chunk: Buffer) => (read += chunk.toString()));
    for (let n = 0; n < 3; n++) {
      source.next(text(n));
      await vi.advanceTimersByTimeAsync(1);
    }
    source.end();
    await vi.advanceTimersByTimeAsync(1);
    expect([...read.matchAll(/"n":(\d+)/g)].map((m) => m[1])).toEqual(['0', '1', '2']);
    expect(body.writableEnded).toBe(true);
    res.destroy();
  });

  it('sends only the newest state to a reader who is slow', async () => {
    const { res, source, body } = setUp();
    for (let n = 0; n < 50; n++) source.next(text(n, 100_000));
    let read = '';
    body.on('data', (chunk: Buffer) => (read += chunk.toString()));
    await vi.advanceTimersByTimeAsync(10);
    const sent = [...read.matchAll(/"n":(\d+)/g)].map((m) => Number(m[1]));
    expect(sent.length).toBeLessThan(5);
    expect(sent.at(-1)).toBe(49);
    res.destroy();
  });

  it('is closed, and follows nothing any more, when nobody reads it', async () => {
    const { res, source } = setUp();
    source.next(text(1, 1_000_000));
    await vi.advanceTimersByTimeAsync(29_000);
    expect([res.destroyed, source.isFollowed]).toEqual([false, true]);
    await vi.advanceTimersByTimeAsync(2000);
    expect([res.destroyed, source.isFollowed]).toEqual([true, false]);
  });

  it('is refused when there are too many, until one is closed', () => {
    const all = Array.from({ length: 200 }, setUp);
    expect(setUp).toThrow(/There are 200 event streams already/);
    all[0]!.res.destroy();
    setUp().res.destroy();
    for (const { res } of all) res.destroy();
  });
});
