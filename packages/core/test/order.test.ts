import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { courseOf, FLOOR, machineOf, movesetText, playInputs } from './helpers.js';

/** A tree of states: a leaf, or a group of some. */
type Tree = { name: string; members: Tree[] };

const tree = (depth: number): fc.Arbitrary<Tree[]> =>
  fc.array(
    depth === 0
      ? fc.constant<Tree>({ name: '', members: [] })
      : fc.oneof(
          fc.constant<Tree>({ name: '', members: [] }),
          tree(depth - 1).map((members): Tree => ({ name: '', members })),
        ),
    { minLength: 1, maxLength: 3 },
  );

function named(trees: Tree[], prefix = 'S'): Tree[] {
  return trees.map((t, i) => ({ name: `${prefix}${i}`, members: named(t.members, `${prefix}${i}_`) }));
}

const leaves = (trees: Tree[]): string[] =>
  trees.flatMap((t) => (t.members.length === 0 ? [t.name] : leaves(t.members)));
const all = (trees: Tree[]): string[] => trees.flatMap((t) => [t.name, ...all(t.members)]);

/** The path from the top to a state. */
function pathTo(trees: Tree[], name: string): string[] {
  for (const t of trees) {
    if (t.name === name) return [t.name];
    const below = pathTo(t.members, name);
    if (below.length > 0) return [t.name, ...below];
  }
  return [];
}

/** Each state notes in a variable when it was last left and entered. */
function yaml(trees: Tree[], indent = 6): string {
  return trees
    .map((t) => {
      const pad = ' '.repeat(indent);
      const own = `${pad}${t.name}:\n${pad}  enter: ["seq += 1", "in_${t.name} := seq"]\n${pad}  exit: ["seq += 1", "out_${t.name} := seq"]`;
      return t.members.length === 0
        ? own
        : `${own}\n${pad}  initial: ${t.members[0]!.name}\n${pad}  states:\n${yaml(t.members, indent + 4)}`;
    })
    .join('\n');
}

describe('entry and exit', () => {
  /**
   * As the open statechart standard has it: all states that are left exit, deepest first; then all that are reached
   * enter, outermost first; what contains both is neither left nor entered. A crossing to itself does both.
   */
  it('leaves inner to outer up to what both share, and enters outer to inner', () => {
    fc.assert(
      fc.property(
        tree(3).map((t) => named(t)),
        fc.nat(),
        fc.nat(),
        (trees, a, b) => {
          const names = leaves(trees);
          const from = pathTo(trees, trees[0]!.name).length > 0 ? leaves([trees[0]!])[0]! : names[0]!;
          const target = all(trees)[b % all(trees).length]!;
          const to = leaves([find(trees, target)])[0]!;
          const start = names[a % names.length]!;
          const text = movesetText({
            states: yaml(trees),
            crossings: `      - { from: ${from}, to: ${start}, when: pressed(hop) }\n      - { from: ${start}, to: ${target}, when: pressed(dash), rank: 1 }`,
            initial: trees[0]!.name,
            extra: `variables:\n  seq: { number: 0 }\n${all(trees)
              .map((n) => `  in_${n}: { number: 0 }\n  out_${n}: { number: 0 }`)
              .join('\n')}`,
          });
          const machine = machineOf(text);
          const trace = playInputs(machine, courseOf(FLOOR), 3, (t) => ({
            hop: Number(t === 0),
            dash: Number(t === 2),
          }));
          if (trace.records[2]!.taken.length === 0) return;
          const value = (tick: number, name: string): number =>
            trace.records[tick]!.variables[machine.variables.findIndex((v) => v.name === name)]!;
          const moved = (kind: 'in' | 'out'): string[] =>
            all(trees)
              .filter((n) => value(2, `${kind}_${n}`) > value(1, 'seq'))
              .sort((x, y) => value(2, `${kind}_${x}`) - value(2, `${kind}_${y}`));
          const [old, next] = [pathTo(trees, start), pathTo(trees, to)];
          let shared = 0;
          while (shared < old.length - 1 && old[shared] === next[shared] && old[shared] !== target) shared++;
          expect(moved('out')).toEqual(old.slice(shared).reverse());
          expect(moved('in')).toEqual(next.slice(shared));
          const lastOut = Math.max(...moved('out').map((n) => value(2, `out_${n}`)));
          const firstIn = Math.min(...moved('in').map((n) => value(2, `in_${n}`)));
          expect(lastOut).toBeLessThan(firstIn);
        },
      ),
      { numRuns: 150 },
    );
  });
});

function find(trees: Tree[], name: string): Tree {
  for (const t of trees) {
    if (t.name === name) return t;
    const path = pathTo(t.members, name);
    if (path.length > 0) return find(t.members, name);
  }
  throw new Error(name);
}
