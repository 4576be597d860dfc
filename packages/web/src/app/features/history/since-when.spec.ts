import { TestBed } from '@angular/core/testing';
import type { StoredDocument } from '@glenmark/contract';
import { of } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import { SinceWhen } from './since-when';

const document = (text: string): StoredDocument => ({ text }) as unknown as StoredDocument;

describe('since when a tape meets less', () => {
  it('is the first revision that does not meet it, whichever that is', async () => {
    const numbers = [3, 4, 7, 8, 9, 12, 20];
    for (const first of numbers.slice(1)) {
      const read: number[] = [];
      TestBed.resetTestingModule();
      TestBed.configureTestingModule({
        providers: [
          {
            provide: Api,
            useValue: {
              readRevision: (_kind: string, _id: string, number: number) => {
                read.push(number);
                return of(document(String(number)));
              },
            },
          },
          { provide: Analysis, useValue: { meets: (text: string) => of(Number(text) < first) } },
        ],
      });
      const entry = { tape: document('tape'), course: document('course'), moveset: 'courier' };
      expect(await TestBed.inject(SinceWhen).firstUnmet('courier', numbers, entry)).toBe(first);
      expect(read.length).toBeLessThanOrEqual(3);
    }
  });
});
