import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import slide from '../../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import type { StoredDocument } from '@glenmark/contract';
import { entriesOf, playableOf } from '../../data/library';
import { itemOf } from './items';

const stored = (kind: StoredDocument['kind'], id: string, text: string): StoredDocument =>
  ({ kind, id, text, name: id, revision: 1, updatedAt: '' }) as StoredDocument;

const moveset = stored('moveset', 'courier', courier);
const course = stored('course', 'mill-yard', yard);
const tape = stored('tape', 'culvert-slide', slide);
const free = stored('tape', 'free', slide.replace(/^moveset: .*\n/m, ''));

describe('an item of the shelf', () => {
  it('says what its document says of itself, and leads to where it is worked on', () => {
    expect(itemOf(moveset)).toMatchObject({
      note: 'Crosses the mill yard on foot.',
      link: { path: ['/moveset', 'courier', 'model'], query: {} },
    });
    expect(itemOf(course).link).toEqual({ path: ['/course', 'mill-yard'], query: {} });
    expect(itemOf(tape)).toMatchObject({
      note: 'for courier',
      link: { path: ['/moveset', 'courier', 'run'], query: { tape: 'culvert-slide' } },
    });
  });

  it('leads nowhere when it is a tape for no moveset, and says nothing when it does not load', () => {
    expect(itemOf(free)).toMatchObject({ note: 'for any moveset', link: undefined });
    expect(itemOf(stored('moveset', 'broken', 'glenmark: 1\nname: [')).note).toBe('');
  });
});

describe('tapes with their courses', () => {
  it('belong to the moveset that they name, and can be played where their course is', () => {
    const entries = entriesOf([tape, free], [course]);
    expect(entries.map((e) => e.moveset)).toEqual(['courier', undefined]);
    expect(playableOf(entries)).toEqual([
      { tape: tape.text, course: yard },
      { tape: free.text, course: yard },
    ]);
    expect(playableOf(entriesOf([tape], []))).toEqual([]);
  });
});
