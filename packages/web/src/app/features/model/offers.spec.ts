import { constantFacts } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import fc from 'fast-check';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import draft from '../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import { guardWord } from './guard-word';
import { offersFor } from './offers';

const machine = readMoveset(courier).machine!;

describe('what may follow in a guard', () => {
  it('begins with what is written, and keeps everything around it', () => {
    const parts = fc.constantFrom('gro', 'air', 'he', 'hop', 'slide', 'sp', 'v', 'pre');
    fc.assert(
      fc.property(parts, fc.constantFrom('', ' and airborne', ' or vy < 0'), (part, after) => {
        const before = 'grounded and ';
        const offers = offersFor(before + part + after, before.length + part.length, machine);
        expect(offers.length).toBeLessThanOrEqual(8);
        for (const { text, word } of offers) {
          expect(text.startsWith(before + word)).toBe(true);
          expect(text.endsWith(after)).toBe(true);
          expect(text).not.toBe(before + part + after);
        }
      }),
    );
  });

  it('offers the facts and names of the moveset with their help', () => {
    expect(offersFor('hopsL', 5, machine).map((o) => o.text)).toContain('hopsLeft');
    const [first] = offersFor('airb', 4, machine);
    expect(first).toMatchObject({ word: 'airborne', text: 'airborne' });
    expect(first!.help).not.toBe('');
  });
});

describe('the word of the solver on a guard', () => {
  const wordsOf = (text: string): Map<string, { never: boolean; text: string }> => {
    const m = readMoveset(text).machine!;
    const facts = constantFacts(m);
    const name = (state: number): string => m.states[state]!.name;
    return new Map(
      m.lanes[0]!.crossings.map((c) => [`${c.from.map(name).join()} ${name(c.to)}`, guardWord(m, c, facts)]),
    );
  };

  it('says that every guard of a sound moveset can hold', () => {
    for (const word of wordsOf(courier).values()) expect(word).toEqual({ never: false, text: 'Can hold.' });
  });

  it('says why one of the draft never can, and which crossing another always loses to', () => {
    const words = wordsOf(draft);
    expect(words.get('Fall Glide')).toMatchObject({ never: true });
    expect(words.get('Fall Glide')!.text).toContain('exclude each other');
    expect(words.get('Crawl Creep')).toEqual({
      never: true,
      text: 'Can hold, but always loses to the crossing to Trot, open whenever this one is.',
    });
  });

  it('says what to do where there is no crossing yet', () => {
    expect(guardWord(machine, undefined, constantFacts(machine)).text).toContain('No crossing yet');
  });
});
