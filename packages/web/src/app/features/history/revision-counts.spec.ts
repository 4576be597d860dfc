import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import { type CountedRevisions, revisionCounts } from './revision-counts';
import { countWords } from './revision-list';

describe('what is counted of revisions', () => {
  it('comes newest first, once for each text, and leaves out what cannot be read', async () => {
    const [read, counted]: [number[], string[]] = [[], []];
    TestBed.configureTestingModule({
      providers: [
        {
          provide: Api,
          useValue: {
            readRevision: (_kind: string, _id: string, number: number) => {
              read.push(number);
              return number === 2 ? throwError(() => new Error('away')) : of({ text: `text ${number}` });
            },
          },
        },
        {
          provide: Analysis,
          useValue: {
            counts: ({ moveset }: { moveset: string }) => {
              counted.push(moveset);
              return of(moveset === 'text 1' ? undefined : { findings: 1, met: 2, of: 2 });
            },
          },
        },
      ],
    });
    const asked = signal<CountedRevisions | undefined>({
      moveset: 'kite',
      tapes: [],
      revisions: [3, 2, 1].map((number) => ({ number, hash: `hash ${number}` })),
    });
    const counts = TestBed.runInInjectionContext(() => revisionCounts(asked));
    await vi.waitFor(() => expect([...counts()]).toHaveLength(2), { timeout: 20_000 });
    expect([...counts()]).toEqual([
      [3, { findings: 1, met: 2, of: 2 }],
      [1, null],
    ]);
    expect(read).toEqual([3, 2, 1]);

    // A later revision that has the text of an older one is known.
    asked.set({ ...asked()!, revisions: [{ number: 4, hash: 'hash 3' }] });
    await vi.waitFor(() => expect(counts().get(4)).toEqual({ findings: 1, met: 2, of: 2 }), {
      timeout: 20_000,
    });
    expect(counted).toHaveLength(2);
  });

  it('is said in a few words', () => {
    expect(countWords(null)).toBe('does not load');
    expect(countWords({ findings: 1, met: 0, of: 0 })).toBe('1 finding');
    expect(countWords({ findings: 3, met: 8, of: 9 })).toBe('8/9 met, 3 findings');
  });
});
