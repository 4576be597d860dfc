import { TestBed } from '@angular/core/testing';
import type { StoredDocument } from '@glenmark/contract';
import { EMPTY, of, throwError } from 'rxjs';
import { Analysis } from '../../data/analysis';
import { Counts } from './counts';
import { EMPTY_MOVESET } from './empty-moveset';
import { faultsOf } from './import-faults';

const moveset = (id: string, revision = 1): StoredDocument =>
  ({ kind: 'moveset', id, revision, name: id, text: EMPTY_MOVESET, updatedAt: '' }) as StoredDocument;

/** The counts of a shelf, with the movesets that were looked at, and what the worker answers of each. */
function counts(answer: (text: string) => ReturnType<Analysis['findingsThen']>) {
  const looked: string[] = [];
  TestBed.configureTestingModule({
    providers: [
      {
        provide: Analysis,
        useValue: { findingsThen: (text: string) => (looked.push(text), answer(text)) },
      },
    ],
  });
  return { counts: TestBed.inject(Counts), looked };
}

describe('what the shelf counts of a moveset', () => {
  it('are its three questions, once it was looked at', () => {
    const { counts: shelf } = counts(() => of([]));
    expect(shelf.of(moveset('a'))).toBeUndefined();
    shelf.count([moveset('a')]).subscribe();
    expect(shelf.of(moveset('a'))!.map((asked) => [asked.question, asked.count])).toEqual([
      ['in', 0],
      ['out', 0],
      ['agree', 0],
    ]);
  });

  it('is looked for once for each revision', () => {
    const { counts: shelf, looked } = counts(() => of([]));
    const both = [moveset('a'), moveset('b')];
    shelf.count(both).subscribe();
    shelf.count(both).subscribe();
    expect(looked).toHaveLength(2);
    shelf.count([moveset('a', 2), moveset('b')]).subscribe();
    expect(looked).toHaveLength(3);
    expect(shelf.of(moveset('a', 1))).toBeUndefined();
    expect(shelf.of(moveset('a', 2))).toBeDefined();
  });

  it('goes on with the next moveset when one could not be looked at', () => {
    let first = true;
    const { counts: shelf } = counts(() => {
      if (!first) return of([]);
      first = false;
      return throwError(() => new Error('the worker is gone'));
    });
    shelf.count([moveset('a'), moveset('b')]).subscribe();
    expect(shelf.of(moveset('a'))).toBeUndefined();
    expect(shelf.of(moveset('b'))).toBeDefined();
  });

  it('is nothing while nothing has been answered', () => {
    const { counts: shelf } = counts(() => EMPTY);
    shelf.count([moveset('a')]).subscribe();
    expect(shelf.of(moveset('a'))).toBeUndefined();
  });
});

describe('a file that is imported', () => {
  it('has no faults when it is as a new moveset', () => {
    expect(faultsOf(EMPTY_MOVESET)).toEqual([]);
  });

  it('has each fault at its line and column, and no more than can be read', () => {
    const [fault] = faultsOf(EMPTY_MOVESET.replace('initial: Walk', 'initial: Wlk'));
    const line = EMPTY_MOVESET.split('\n').findIndex((text) => text.includes('initial: Walk')) + 1;
    expect(fault).toMatch(new RegExp(`^${line}:\\d+: .*Wlk`));
    const many = EMPTY_MOVESET.replace(
      'crossings: []',
      `crossings:\n${'      - { from: Nowhere, to: Elsewhere }\n'.repeat(30)}`,
    );
    expect(faultsOf(many)).toHaveLength(8);
  });

  it('is taken for a moveset when it does not say what it is', () => {
    expect(faultsOf('name: Something')[0]).toMatch(/^\d+:\d+: /);
  });
});
