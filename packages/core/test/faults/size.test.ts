import { describe, expect, it } from 'vitest';
import { proveAll } from '@glenmark/core/findings';
import { machineOf, movesetText } from '../helpers.js';

const times = (n: number, text: (i: number) => string, between: string): string =>
  Array.from({ length: n }, (_, i) => text(i)).join(between);

/** Flags beside one that is set only where it is too late; `each` writes them every tick. */
const flags = (n: number, each: boolean): string =>
  movesetText({
    states: `      A: { ${each ? `each: [${times(n, (i) => `"f${i} := speed > ${i + 1} m/s"`, ', ')}]` : ''} }\n      B: {}\n      C: {}`,
    crossings:
      `${times(n, (i) => `      - { from: A, to: B, when: pressed(hop) and f${i}, rank: ${i} }`, '\n')}
${each ? '' : times(n, (i) => `      - { from: B, to: A, when: held(move${i % 2}), rank: ${i}, do: ["f${i} := true"] }`, '\n')}
      - { from: A, to: B, when: pressed(dash) }
      - { from: B, to: A, when: released(dash) }
      - { from: A, to: C, when: key and pressed(dash), rank: 99 }
      - { from: C, to: A, when: pressed(dash), do: ["key := true"] }`.replaceAll(
        /held\(move\d\)/g,
        'held(hop)',
      ),
    extra: `variables: { ${times(n, (i) => `f${i}: { flag: false }`, ', ')}, key: { flag: false } }`,
    initial: 'A',
  });

describe('movesets too large to follow all at once', () => {
  it.each([
    [8, true],
    [14, true],
    [12, false],
    [20, false],
  ])('%s flags: the planted fault is found, and what was not decided is named', (n, each) => {
    const { findings, undecided } = proveAll(machineOf(flags(n, each)));
    expect(findings.find((f) => f.code === 'IN2' && f.state === 'C')?.sentence).toContain(
      'key is always clear',
    );
    if (n > 12) {
      expect(undecided[0]).toMatchObject({ lane: 'legs', why: 'apart' });
      expect(undecided[0]!.states).toContain('A');
      expect(undecided[0]!.things.length).toBeGreaterThan(0);
    }
  });

  it('forty exits that compare sums: nothing is given up', () => {
    const text = movesetText({
      states: `      A: {}\n${times(40, (i) => `      S${i}: {}`, '\n')}`,
      crossings: times(
        40,
        (i) =>
          `      - { from: A, to: S${i}, when: vx + vy > ${(i * 7) % 40} m/s and vx - vy < ${(i * 11) % 40} m/s }\n      - { from: S${i}, to: A, when: pressed(hop) }`,
        '\n',
      ),
      initial: 'A',
    });
    expect(proveAll(machineOf(text)).undecided).toEqual([]);
  });
});
