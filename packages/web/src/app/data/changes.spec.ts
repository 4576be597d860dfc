import { TestBed } from '@angular/core/testing';
import { Changes, type HeardChange } from './changes';

/** Stands in for the browser's connection to the server: the tests say what comes over it. */
class FakeSource {
  static readonly CLOSED = 2;
  static open: FakeSource[] = [];
  readyState = 1;
  onopen = (): void => {};
  onmessage = (_: { data: string }): void => {};
  onerror = (): void => {};
  private anew = (): void => {};
  constructor() {
    FakeSource.open.push(this);
  }
  addEventListener(_: 'anew', listener: () => void): void {
    this.anew = listener;
  }
  close(): void {
    FakeSource.open = FakeSource.open.filter((s) => s !== this);
  }
  say(change: HeardChange): void {
    if (change === 'anew') this.anew();
    else this.onmessage({ data: JSON.stringify(change) });
  }
  refuse(): void {
    this.readyState = FakeSource.CLOSED;
    this.onerror();
  }
}

/** Locks as a browser gives them to its windows: one holds a name, the others wait for it in turn. */
function fakeLocks() {
  let held = Promise.resolve();
  let isHeld = false;
  const hold = async (use: (lock: object) => Promise<unknown>): Promise<unknown> => {
    isHeld = true;
    try {
      return await use({});
    } finally {
      isHeld = false;
    }
  };
  return {
    request(
      _: string,
      { ifAvailable = false, signal }: { ifAvailable?: boolean; signal?: AbortSignal },
      use: (lock: object | null) => Promise<unknown>,
    ): Promise<unknown> {
      if (ifAvailable && isHeld) return Promise.resolve(use(null));
      const turn = held.then(() =>
        signal?.aborted === true ? Promise.reject(new Error('left')) : hold(use),
      );
      held = turn.then(
        () => undefined,
        () => undefined,
      );
      if (ifAvailable) isHeld = true;
      return turn;
    },
  };
}

const COURIER: HeardChange = { kind: 'moveset', id: 'courier', revision: 2 };
const YARD: HeardChange = { kind: 'course', id: 'mill-yard' };

/** A window: what it heard, and how it is left. */
function openWindow() {
  TestBed.resetTestingModule();
  const heard: HeardChange[] = [];
  const subscription = TestBed.inject(Changes).heard.subscribe((change) => heard.push(change));
  return { heard, leave: () => subscription.unsubscribe() };
}

describe('changes by others', () => {
  beforeEach(() => {
    FakeSource.open = [];
    vi.stubGlobal('EventSource', FakeSource);
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    vi.useRealTimers();
    Reflect.deleteProperty(navigator, 'locks');
  });

  it('are heard as the server tells them', () => {
    const { heard, leave } = openWindow();
    for (const change of [COURIER, YARD, 'anew'] as const) FakeSource.open[0]!.say(change);
    expect(heard).toEqual([COURIER, YARD, 'anew']);
    leave();
    expect(FakeSource.open).toEqual([]);
  });

  it('are listened to again after the server refused, and then anything may be other than before', () => {
    vi.useFakeTimers();
    const { heard, leave } = openWindow();
    FakeSource.open[0]!.refuse();
    expect(FakeSource.open).toEqual([]);
    vi.advanceTimersByTime(3000);
    FakeSource.open[0]!.onopen();
    FakeSource.open[0]!.say(COURIER);
    expect(heard).toEqual(['anew', COURIER]);
    leave();
  });

  it('are listened to by one window, which tells the others; when it goes, another one takes over', async () => {
    Object.defineProperty(navigator, 'locks', { value: fakeLocks(), configurable: true });
    const one = openWindow();
    await expect.poll(() => FakeSource.open.length).toBe(1);
    const other = openWindow();
    await expect
      .poll(() => {
        FakeSource.open[0]!.say(COURIER);
        return other.heard.length;
      })
      .toBeGreaterThan(0);
    expect(FakeSource.open).toHaveLength(1);
    expect(one.heard).toContainEqual(COURIER);
    one.leave();
    await expect.poll(() => other.heard).toContain('anew');
    expect(FakeSource.open).toHaveLength(1);
    FakeSource.open[0]!.say(YARD);
    expect(other.heard).toContainEqual(YARD);
    other.leave();
    await expect.poll(() => FakeSource.open.length).toBe(0);
  });
});
