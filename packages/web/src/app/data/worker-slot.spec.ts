import { firstValueFrom } from 'rxjs';
import { WorkerSlot } from './worker-slot';

/** A worker that does nothing by itself: tests make it fail. */
class FakeWorker extends EventTarget {
  ended = false;
  postMessage(): void {
    // Nobody answers.
  }
  terminate(): void {
    this.ended = true;
  }
  die(message: string): void {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
}

function setUp() {
  const workers: FakeWorker[] = [];
  const slot = new WorkerSlot<object>(() => {
    workers.push(new FakeWorker());
    return workers.at(-1) as unknown as Worker;
  });
  return { workers, slot };
}

describe('a worker that fails', () => {
  it('is replaced, and what it was asked is asked once more', async () => {
    const { workers, slot } = setUp();
    let asked = 0;
    const answer = firstValueFrom(
      slot.ask(() => (++asked === 1 ? Promise.reject(new Error('thrown')) : Promise.resolve('answer'))),
    );
    expect(await answer).toBe('answer');
    expect([workers.length, workers[0]!.ended, slot.replaced()]).toEqual([2, true, 1]);
  });

  it('is replaced when it dies without an answer', async () => {
    const { workers, slot } = setUp();
    let asked = 0;
    const answer = firstValueFrom(
      slot.ask(() => (++asked === 1 ? new Promise<string>(() => undefined) : Promise.resolve('answer'))),
    );
    workers[0]!.die('out of memory');
    expect(await answer).toBe('answer');
    expect(slot.replaced()).toBe(1);
  });

  it('twice is an error for whoever asked, and the next question goes to a new one', async () => {
    const { workers, slot } = setUp();
    await expect(firstValueFrom(slot.ask(() => Promise.reject(new Error('thrown'))))).rejects.toThrow(
      'thrown',
    );
    expect(await firstValueFrom(slot.ask(() => Promise.resolve('answer')))).toBe('answer');
    expect(workers).toHaveLength(3);
  });

  it('is given up when nobody waits any more for what takes long, and left alone when it is quick', () => {
    const { workers, slot } = setUp();
    const long = slot.ask(() => new Promise(() => undefined), 0).subscribe();
    long.unsubscribe();
    expect(workers[0]!.ended).toBe(true);
    slot
      .ask(() => new Promise(() => undefined), 60_000)
      .subscribe()
      .unsubscribe();
    expect(workers[1]!.ended).toBe(false);
    expect(slot.replaced()).toBe(0);
  });
});
