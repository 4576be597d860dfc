import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import draft from '../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import { differencesBetween } from '@glenmark/core/history';
import { readMoveset, rename } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import { differenceRows } from './difference-rows';

const { file, machine } = readMoveset(courier);
const rowsTo = (text: string) => differenceRows(differencesBetween(file!, readMoveset(text).file!).list);

describe('the rows of what changed', () => {
  it('say a field before and after', () => {
    expect(rowsTo(edit(courier, [{ path: ['gravity'], value: '20 m/s2' }]))).toEqual([
      {
        what: 'changed',
        title: 'moveset: gravity',
        before: file!.gravity,
        after: '20 m/s2',
        takesBack: 0,
      },
    ]);
  });

  it('say a new name once', () => {
    const rows = rowsTo(rename(courier, machine!, 'state', 'Gust', 'Squall'));
    expect(rows).toEqual([
      { what: 'renamed', title: 'state Squall in legs', before: 'Gust', after: 'Squall', takesBack: 0 },
    ]);
  });

  it('say of what came and went what it says, on its own side', () => {
    const rows = rowsTo(draft);
    const differences = differencesBetween(file!, readMoveset(draft).file!).list;
    const backs = rows.flatMap((row) => row.takesBack ?? []);
    expect(new Set(backs).size).toBe(backs.length);
    expect(Math.max(...backs)).toBeLessThan(differences.length);
    for (const { what, before, after } of rows) {
      if (what === 'new') expect(before).toBe('');
      if (what === 'gone') expect(after).toBe('');
    }
    expect(rows.find((r) => r.title === 'crossing Crawl → Kneel in legs')).toMatchObject({
      what: 'new',
      after: 'when pressed(gust), rank 2',
    });
  });
});
