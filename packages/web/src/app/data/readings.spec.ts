import fc from 'fast-check';
import { createReadings } from './readings';

describe('readings', () => {
  it('are what reading gives, and read nothing again that was among the last texts asked for', () => {
    const texts = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 60 });
    fc.assert(
      fc.property(texts, fc.integer({ min: 1, max: 5 }), (asked, size) => {
        const read: string[] = [];
        const readings = createReadings((text) => ({ text: (read.push(text), text) }), size);
        asked.forEach((text, i) => {
          const before = read.length;
          expect(readings.of(text).text).toBe(text);
          // The different texts asked for since this one was: with it, they are as many as are remembered, or fewer.
          const last = i === 0 ? -1 : asked.lastIndexOf(text, i - 1);
          const isKnown = last >= 0 && new Set(asked.slice(last + 1, i)).size < size;
          expect(read.length - before).toBe(isKnown ? 0 : 1);
        });
      }),
    );
  });

  it('are the very same object for the same text, and what somebody put in', () => {
    const readings = createReadings((text) => ({ text }), 2);
    expect(readings.of('a')).toBe(readings.of('a'));
    const known = { text: 'b' };
    readings.put('b', known);
    expect(readings.of('b')).toBe(known);
  });
});
