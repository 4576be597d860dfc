import fc from 'fast-check';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import { atRates, beside } from '../../data/compared';
import { compareTable, rateVerdicts } from './compare-table';

describe('runs beside each other', () => {
  it('are the same in every row as themselves, and then nothing by state is shown', () => {
    const run = { moveset: courier, course: yard, tape: crossing, label: 'this' };
    const compared = beside([run, { ...run, label: 'again' }]);
    const groups = compareTable(compared, false);
    expect(groups.flatMap((g) => g.rows).filter((row) => row.differs)).toEqual([]);
    expect(groups.find((g) => g.title === 'by state')).toMatchObject({ rows: [] });
    const all = compareTable(compared, true).find((g) => g.title === 'by state')!;
    expect(all.rows).toHaveLength(all.alike);
    for (const { values } of all.rows) expect(new Set(values).size).toBe(1);
  });

  it('are grouped: the whole run, by state, by cooldown, each row in one of them', () => {
    const groups = compareTable(atRates(courier, yard, crossing, [30, 60]), true);
    expect(groups.map((g) => g.title)).toEqual(
      ['whole run', 'by state', 'by cooldown'].slice(0, groups.length),
    );
    const names = groups.flatMap((g) => g.rows.map((row) => row.name));
    expect(new Set(names).size).toBe(names.length);
    expect(names).toContain('apex');
    expect(names).toContain('time in Trot');
  });

  it('fold no row that differs', () => {
    const compared = atRates(courier, yard, crossing, [30, 144]);
    const differing = (shows: boolean) =>
      compareTable(compared, shows).flatMap((g) =>
        g.rows.filter((row) => row.differs).map((row) => row.name),
      );
    expect(differing(false)).toEqual(differing(true));
  });
});

describe('another tick rate', () => {
  it('changes nothing beside itself, and is not told of the own rate', () => {
    expect(rateVerdicts(atRates(courier, yard, crossing, [60]))).toEqual([]);
  });

  it('says by name which state is gone to instead, and which expectation is broken', () => {
    const states = fc.option(fc.constantFrom('Rise', 'Fall'), { nil: undefined });
    fc.assert(
      fc.property(
        states,
        states,
        fc.array(fc.constantFrom('apex >= 1 m', 'at end in Trot')),
        (one, other, broken) => {
          fc.pre(one !== other);
          const behaviour = { lane: 'legs', seconds: 0.5, one, other };
          const [verdict] = rateVerdicts([
            { label: '30', wrong: [], passed: 0, expected: 0, atOwnRate: { behaviour, broken } },
          ]);
          expect(verdict!.changes).toHaveLength(1 + broken.length);
          const [first] = verdict!.changes;
          for (const state of [one, other]) if (state !== undefined) expect(first).toContain(state);
          expect(first).toContain('0.50 s');
          broken.forEach((text, i) => expect(verdict!.changes[i + 1]).toContain(text));
        },
      ),
    );
    const step = { label: '120', wrong: [], passed: 1, expected: 1, atOwnRate: { broken: [] } };
    expect(rateVerdicts([step])).toEqual([{ rate: '120', changes: [] }]);
  });
});
