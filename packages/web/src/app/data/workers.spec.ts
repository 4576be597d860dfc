import { TestBed } from '@angular/core/testing';
import type { Workers as WorkersState } from '@glenmark/contract';
import { of, throwError } from 'rxjs';
import { Api } from './api';
import { Workers } from './workers';

const QUAY = { name: 'quay:1', threads: 2, busy: 0, perSecond: 0 };

/** A server that answers with what `answers` has next, and with the last of it from then on; undefined when it is away. */
function setUp(...answers: (WorkersState | undefined)[]) {
  vi.useFakeTimers();
  let asked = 0;
  const workers = () => {
    const answer = answers[Math.min(asked++, answers.length - 1)];
    return answer === undefined ? throwError(() => new Error('away')) : of(answer);
  };
  TestBed.configureTestingModule({ providers: [Workers, { provide: Api, useValue: { workers } }] });
  const service = TestBed.inject(Workers);
  vi.advanceTimersByTime(0);
  return { service, asked: () => asked };
}

describe('the workers of a server', () => {
  afterEach(() => vi.useRealTimers());

  it('are looked for again and again; while the server is away the last ones stay', () => {
    const { service, asked } = setUp(
      { shared: true, workers: [] },
      { shared: true, workers: [QUAY] },
      undefined,
    );
    expect([service.areShared(), service.list()]).toEqual([true, []]);
    vi.advanceTimersByTime(3000);
    expect(service.list()).toEqual([QUAY]);
    vi.advanceTimersByTime(6000);
    expect(asked()).toBe(4);
    expect([service.areShared(), service.list()]).toEqual([true, [QUAY]]);
    // Nobody looks any more.
    TestBed.resetTestingModule();
    vi.advanceTimersByTime(30_000);
    expect(asked()).toBe(4);
  });

  it('are asked for once where the server searches by itself', () => {
    const { service, asked } = setUp({ shared: false, workers: [] });
    vi.advanceTimersByTime(30_000);
    expect([asked(), service.areShared()]).toEqual([1, false]);
  });
});
