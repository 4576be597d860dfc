import { describe, expect, it } from 'vitest';
import { drawingOf, findAll, type Drawing } from '@glenmark/core/findings';
import { machineOf, movesetText, sample } from './helpers.js';

/** The drawing of the first finding of a code. */
function drawn(text: string, code: string): Drawing | undefined {
  const machine = machineOf(text);
  return drawingOf(
    machine,
    findAll(machine, []).find((f) => f.code === code)!,
  );
}

const guarded = (when: string): string =>
  movesetText({
    states: '      A: {}\n      B: {}',
    crossings: `      - { from: A, to: B, when: ${when} }\n      - { from: B, to: A, when: pressed(hop) }`,
    initial: 'A',
    extra: 'dials: { slow: 2 m/s }',
  });

describe('a reason as a drawing', () => {
  it('comparisons of one number on its line, with dials folded', () => {
    expect(drawn(guarded('vy > slow * 2 and grounded and vy <= 1 m/s'), 'IN2')).toEqual({
      kind: 'line',
      of: 'vy',
      unit: 'm/s',
      stretches: [
        { term: 'vy > slow * 2', from: 4, to: Infinity, fromOpen: true, toOpen: true },
        { term: 'vy <= 1 m/s', from: -Infinity, to: 1, fromOpen: true, toOpen: false },
      ],
    });
  });

  it('lengths of time in seconds', () => {
    const line = drawn(guarded('elapsed >= 0.5 s and elapsed < 0.2 s'), 'IN2');
    expect(line).toMatchObject({ kind: 'line', unit: 's' });
    if (line?.kind !== 'line') return;
    expect(line.stretches[0]!.from).toBeCloseTo(0.5, 9);
    expect(line.stretches[1]!.to).toBeCloseTo(0.2, 9);
  });

  it('other terms beside each other', () => {
    expect(drawn(guarded('rising and grounded'), 'IN2')).toMatchObject({ kind: 'clash', because: [] });
  });

  it('each kind in the draft', () => {
    const draft = sample('courier-draft.yaml');
    expect(drawn(draft, 'OUT2')).toEqual({
      kind: 'writes',
      things: [{ name: 'kneelTime', asked: ['done(kneelTime)'], writers: [] }],
    });
    expect(drawn(draft, 'OUT5')).toEqual({
      kind: 'writes',
      things: [{ name: 'vaults', asked: ['vaults > 0'], writers: ['entering Vault'] }],
    });
    expect(drawn(draft, 'AG1')).toMatchObject({ kind: 'tie', state: 'Trot', rank: 0 });
    expect(drawn(draft, 'IN3')).toMatchObject({
      kind: 'order',
      considered: [{ to: 'Trot' }, { to: 'Creep' }],
    });
    expect(drawn(draft, 'AG2')).toMatchObject({ kind: 'lost', channel: 'vx', last: 'Spread hold' });
    expect(drawn(draft, 'OUT1')).toBeUndefined();
  });
});
