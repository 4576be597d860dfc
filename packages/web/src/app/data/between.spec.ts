import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import { edit } from '@glenmark/core/model';
import { finished } from '@glenmark/core/steps';
import { between, type Between, type NotLoaded } from './between';

const tapes = [
  { tape: crossing, course: yard },
  { tape: 'kind: tape', course: yard },
];
const until = (after: string): Between | NotLoaded => finished(between({ before: courier, after, tapes }));

describe('what became other between two texts', () => {
  it('is nothing between a text and itself; a tape that does not load has no answer', () => {
    expect(until(courier)).toMatchObject({
      differences: [],
      replays: [{ outcome: 'same' }, undefined],
      findings: { come: [], gone: [] },
    });
  });

  it('is what was edited, what runs otherwise, and what is found now', () => {
    const after = edit(courier, [
      { path: ['gravity'], value: '90 m/s2' },
      { path: ['variables', 'idle'], value: { flag: false } },
    ]);
    const told = until(after) as Between;
    expect(told.differences.map((d) => d.kind).sort()).toEqual(['moveset', 'variable']);
    expect(told.replays[0]!.outcome).toBe('other');
    expect(told.findings.come.map((f) => f.code)).toContain('TD1');
  });

  it('is the place of what is wrong in the text that does not load', () => {
    const broken = courier.replace('kind: moveset', 'kind: moveset\nnonsense: 1');
    expect(until(broken)).toEqual({ which: 'after', wrong: expect.stringMatching(/^\d+:\d+: .*nonsense/) });
    expect(finished(between({ before: broken, after: courier, tapes: [] }))).toMatchObject({
      which: 'before',
    });
  });
});
