import fc from 'fast-check';
import { remembering } from './readings';

describe('a reader that remembers', () => {
  it('gives what reading gives, and reads nothing again that was among the last ones asked for', () => {
    const texts = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 60 });
    fc.assert(
      fc.property(texts, fc.integer({ min: 1, max: 5 }), (asked, size) => {
        const read: string[] = [];
        const of = remembering((text) => ({ text: (read.push(text), text) }), size);
        asked.forEach((text, i) => {
          const before = read.length;
          expect(of(text).text).toBe(text);
          // The different texts asked for since this one was: with it, they are as many as are remembered or more.
          const since = asked.slice(asked.lastIndexOf(text, i - 1) + 1, i);
          const isKnown = i > 0 && asked.lastIndexOf(text, i - 1) >= 0 && new Set(since).size < size;
          expect(read.length - before).toBe(isKnown ? 0 : 1);
        });
      }),
    );
  });

  it('gives the very same object for the same text', () => {
    const of = remembering((text) => ({ text }), 2);
    expect(of('a')).toBe(of('a'));
  });
});
