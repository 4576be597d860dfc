import type { Shared } from '@glenmark/contract';
import { partsShown, whoIsThere, workersShown } from './shared-view';

const worker = (name: string, more: Partial<Shared['workers'][number]> = {}): Shared['workers'][number] => ({
  name,
  threads: 2,
  busy: 0,
  perSecond: 0,
  shards: [],
  reports: false,
  ...more,
});

const shared = (more: Partial<Shared> = {}): Shared => ({
  parts: 2,
  turn: 0,
  startedAt: null,
  courseRevisions: [1],
  leg: 1,
  legs: 3,
  shards: [
    { course: 'mill-yard', part: 0, situations: 1200, found: 3 },
    { course: 'mill-yard', part: 1, situations: 900, found: 0 },
  ],
  workers: [],
  ...more,
});

const nameOf = (id: string): string => (id === 'mill-yard' ? 'Mill yard' : 'Tide mill');

describe('a search that workers share', () => {
  it('shows who is at what, and their speed, each and all', () => {
    const { lines, all } = workersShown(
      shared({
        workers: [
          worker('quay:1', { busy: 2, perSecond: 1500.4, shards: [0, 1] }),
          worker('quay:2', { busy: 1, reports: true }),
          worker('weir:3', { busy: 1, perSecond: 700.4 }),
          worker('weir:4'),
        ],
      }),
      nameOf,
    );
    expect(lines.map(({ name, at, perSecond }) => [name, at, perSecond])).toEqual([
      ['quay:1', '1, 2', '1,500'],
      ['quay:2', 'puts the report together', '0'],
      ['weir:3', 'another scouting', '700'],
      ['weir:4', 'nothing', '0'],
    ]);
    expect(all).toBe('2,201');
  });

  it('shows what came of each part, by its course where there are several', () => {
    expect(partsShown(shared(), nameOf)).toEqual([
      { name: '1', situations: '1,200', found: '3' },
      { name: '2', situations: '900', found: '0' },
    ]);
    const both = shared({
      shards: [
        { course: 'mill-yard', part: 0, situations: 1, found: 0 },
        { course: 'tide-mill', part: 0, situations: 2, found: 1 },
      ],
      workers: [worker('quay:1', { busy: 1, shards: [1] })],
    });
    expect(partsShown(both, nameOf).map(({ name }) => name)).toEqual(['Mill yard 1', 'Tide mill 1']);
    expect(workersShown(both, nameOf).lines[0]!.at).toBe('Tide mill 1');
  });

  it('says who is there before anything runs', () => {
    expect(whoIsThere([])).toMatch(/^No worker is there: a scouting waits until one comes\./);
    expect(whoIsThere([worker('quay:1')])).toBe('One worker is there, for 2 parts at a time.');
    expect(whoIsThere([worker('quay:1'), worker('quay:2', { threads: 4 })])).toBe(
      '2 workers are there, for 6 parts at a time.',
    );
  });
});
