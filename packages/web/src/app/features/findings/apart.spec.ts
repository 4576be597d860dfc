import fc from 'fast-check';
import type { Finding } from '@glenmark/core/findings';
import { apart } from './apart';

const finding = (name: string): Finding =>
  ({ fingerprint: name, code: 'IN1', witness: null }) as unknown as Finding;
const arbitraryList = fc.uniqueArray(fc.constantFrom(...'abcdefgh')).map((names) => names.map(finding));
const names = (list: readonly Finding[]): string[] => list.map((f) => f.fingerprint).sort();

describe('findings of two revisions', () => {
  it('come, stay and go: together they are both lists', () => {
    fc.assert(
      fc.property(arbitraryList, arbitraryList, (before, now) => {
        const { come, gone, kept } = apart(before, now);
        expect(come.length + kept).toBe(now.length);
        expect(gone.length + kept).toBe(before.length);
        expect(names(come)).toEqual(
          names(now.filter((f) => !before.some((b) => b.fingerprint === f.fingerprint))),
        );
        expect(apart(now, before)).toEqual({ come: gone, gone: come, kept });
      }),
    );
  });

  it('what a scouting found since is not new by an edit', () => {
    const scouted = { ...finding('x'), witness: { tape: 't', tick: 1, text: '…' } } as unknown as Finding;
    expect(apart([], [scouted])).toEqual({ come: [], gone: [], kept: 0 });
  });
});
