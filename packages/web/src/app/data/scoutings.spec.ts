import { HttpErrorResponse, HttpClient } from '@angular/common/http';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Scouting } from '@glenmark/contract';
import { of, throwError } from 'rxjs';
import { PageScouting } from './page-scouting';
import { Scoutings } from './scoutings';
import { Workspace } from './workspace';

const scouting = (more: Partial<Scouting>): Scouting => ({
  id: 'courier-1',
  moveset: 'courier',
  courses: ['mill-yard'],
  situations: 100,
  seed: 1,
  revision: 1,
  state: 'running',
  begun: 1,
  seconds: 0,
  done: 0,
  ticks: 0,
  course: '',
  coverage: { states: [], crossings: [], ofStates: 0, ofCrossings: 0 },
  findings: [],
  notes: [],
  problem: null,
  createdAt: '2026-01-01T00:00:00Z',
  ...more,
});

/** The event streams that were opened, newest last. */
let sources: FakeEventSource[];

class FakeEventSource {
  static readonly CLOSED = 2;
  readyState = 1;
  onopen?: () => void;
  onerror?: () => void;
  onmessage?: (event: { data: string }) => void;
  closed = false;
  constructor(readonly url: string) {
    sources.push(this);
  }
  close(): void {
    this.closed = true;
  }
  tell(state: Scouting): void {
    this.onmessage?.({ data: JSON.stringify(state) });
  }
  /** Loses the connection; `forGood` when the server refused it. */
  fail(forGood: boolean): void {
    this.readyState = forGood ? 2 : 0;
    this.onerror?.();
  }
}

function setUp() {
  const server = { newest: scouting({}) as Scouting | undefined, isThere: true };
  TestBed.configureTestingModule({
    providers: [
      {
        provide: HttpClient,
        useValue: {
          get: (path: string) => {
            if (path.endsWith('/scoutings')) return of(server.newest === undefined ? [] : [server.newest]);
            return server.isThere
              ? of(server.newest)
              : throwError(() => new HttpErrorResponse({ status: 404 }));
          },
        },
      },
      { provide: PageScouting, useValue: { drop: () => undefined } },
      { provide: Workspace, useValue: { id: signal('courier'), scouted: signal(undefined) } },
    ],
  });
  const scoutings = TestBed.inject(Scoutings);
  TestBed.tick();
  return { scoutings, server };
}

describe('following a scouting', () => {
  beforeEach(() => {
    sources = [];
    vi.useFakeTimers();
    vi.stubGlobal('EventSource', FakeEventSource);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it('shows each state until it ends', () => {
    const { scoutings } = setUp();
    sources[0]!.tell(scouting({ done: 40 }));
    expect(scoutings.current()?.done).toBe(40);
    sources[0]!.tell(scouting({ done: 100, state: 'done' }));
    expect([scoutings.underWay(), sources[0]!.closed]).toEqual([false, true]);
  });

  it('says that the connection is lost, and that it is back', () => {
    const { scoutings } = setUp();
    sources[0]!.fail(false);
    expect(scoutings.connected()).toBe(false);
    sources[0]!.onopen!();
    expect([scoutings.connected(), sources.length]).toEqual([true, 1]);
  });

  it('connects again when its stream was refused', async () => {
    const { scoutings } = setUp();
    sources[0]!.fail(true);
    await vi.advanceTimersByTimeAsync(2500);
    expect(sources).toHaveLength(2);
    sources[1]!.tell(scouting({ done: 70 }));
    expect(scoutings.current()?.done).toBe(70);
  });

  it('gives up when the server has no such scouting any more', async () => {
    const { server } = setUp();
    server.isThere = false;
    sources[0]!.fail(true);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(sources).toHaveLength(1);
  });
});
