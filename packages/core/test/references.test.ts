import { describe, expect, it } from 'vitest';
import { controlsBehind, findUses, readMoveset, type Reference, rename } from '@glenmark/core/machine';
import { dialsIn, factsIn } from '@glenmark/core/notation';
import { machineOf, movesetText, sample } from './helpers.js';

const SAMPLES = [
  'courier.yaml',
  'marram.yaml',
  'lock-keeper.yaml',
  'mechanics/hooks.yaml',
  'mechanics/aimed-dash.yaml',
];

/** What stands in the document where a reference says. */
function textAt(document: unknown, { path, span, use }: Reference): string {
  const value = path.reduce<unknown>((at, step) => (at as Record<string | number, unknown>)[step], document);
  if (use === 'key' && value !== undefined) return String(path.at(-1));
  return span === undefined ? String(value) : String(value).slice(span.start, span.end);
}

describe('references', () => {
  it.each(SAMPLES)('every reference of %s stands where it says', (file) => {
    const text = sample(file);
    const { machine, file: document } = readMoveset(text);
    expect(machine!.references.length).toBeGreaterThan(15);
    for (const reference of machine!.references)
      expect(textAt(document, reference), JSON.stringify(reference)).toBe(reference.name);
  });

  it.each(SAMPLES)(
    'a state, a control and a dial of %s are renamed everywhere, and nothing else changes',
    (file) => {
      const text = sample(file);
      const machine = machineOf(text);
      const things = [
        ...machine.states.slice(0, 3).map(({ name }) => ({ kind: 'state' as const, name })),
        ...machine.controls.map(({ kind, name }) => ({ kind, name })),
        ...machine.dials.slice(0, 3).map(({ name }) => ({ kind: 'dial' as const, name })),
      ];
      for (const { kind, name } of things) {
        const renamed = rename(text, machine, kind, name, 'Quite_Another');
        const { machine: after } = readMoveset(renamed);
        expect(findUses(after!, kind, name)).toEqual([]);
        expect(findUses(after!, kind, 'Quite_Another')).toHaveLength(findUses(machine, kind, name).length);
        // There and back again.
        const back = machineOf(rename(renamed, after!, kind, 'Quite_Another', name));
        expect(back.references).toEqual(machine.references);
      }
    },
  );

  it('know what kind of thing a name is, who writes it, and what only looks like it', () => {
    const machine = machineOf(
      movesetText({
        states:
          '      A: { note: "inside(ghost) and hits(brow, ghost)", enter: ["n := n + 1", spend k, start t] }\n      B: {}',
        crossings: `      - { from: A, to: B, when: "inside( draught ) and hits( brow , moss )" }
      - { from: B, to: A, when: n > 1 m and k > 0 and running(t) }`,
        extra: `  probes: { brow: { from: [0 m, 1 m], toward: ahead, reach: 1 m } }
variables: { n: { number: 0 m }, k: { count: 1, max: 2 } }
timers: { t: { length: 1 s } }`,
        initial: 'A',
      }).replace('n + 1"', 'n + 1 m"'),
    );
    // A note is no notation, and spaces are no part of a name.
    expect(machine.zoneTags).toEqual(['draught']);
    expect(machine.tagHits).toEqual([{ probe: 'brow', tag: 'moss' }]);
    const uses = (kind: Reference['kind'], name: string): string[] =>
      findUses(machine, kind, name).map((r) => r.use);
    expect(uses('variable', 'n').sort()).toEqual(['read', 'read', 'written']);
    expect(uses('variable', 'k').sort()).toEqual(['read', 'written']);
    expect(uses('timer', 't').sort()).toEqual(['read', 'written']);
    expect(uses('probe', 'brow')).toEqual(['read']);
    expect(uses('tag', 'moss')).toEqual(['read']);
  });

  it('say which dials and which controls are behind an expression', () => {
    const machine = machineOf(
      movesetText({
        states: '      A: { motion: { drive: { to: axis(move) * pace, gain: 40 m/s2 } } }\n      B: {}',
        crossings:
          '      - { from: A, to: B, when: speed > 2 * pace - slack and pressed(hop) within grace }\n      - { from: B, to: A }',
        extra: 'dials: { pace: 3 m/s, slack: pace / 2, grace: 0.1 s }',
        initial: 'A',
      }),
    );
    const { when } = machine.lanes[0]!.crossings[0]!;
    expect(dialsIn(when!).sort()).toEqual(['grace', 'pace', 'slack']);
    const controls = factsIn(when!).flatMap((ref) => controlsBehind(machine, ref));
    expect(controls.map((c) => machine.controls[c]!.name)).toEqual(['hop']);
  });
});
