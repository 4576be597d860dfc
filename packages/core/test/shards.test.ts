import { deserialize, serialize } from 'node:v8';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  createLeg,
  gather,
  type Gathered,
  groundOfShards,
  isExhausted,
  type LegResult,
  legsOf,
  mergedReport,
  proveAll,
  type ScoutingReport,
  shardsOf,
  type ShardGround,
  startOfShards,
} from '@glenmark/core/findings';
import { startFast, step } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import {
  addDigest,
  createFilter,
  createKeySet,
  createMemory,
  createScout,
  createTree,
  digestOf,
  eachDigest,
  endsIn,
  growing,
  hasDigest,
  packDigests,
  prunedTo,
  startNode,
  type Way,
  wayIn,
} from '@glenmark/core/scout';
import { readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';

const yard = readCourse(sample('mill-yard.yaml')).course!;

/** What a worker gives to the database, and another one takes from there. */
const sent = <T>(value: T): T => deserialize(serialize(value)) as T;

interface Plan {
  file: string;
  situations: number;
  parts: number;
  seed?: number;
}

const grounds = new Map<string, ShardGround>();
function groundOf({ file, parts, seed = 1 }: Plan): ShardGround {
  const key = `${file} ${parts} ${seed}`;
  let ground = grounds.get(key);
  if (ground === undefined) {
    const machine = machineOf(sample(file));
    ground = groundOfShards(machine, [yard], proveAll(machine), { seed, parts });
    grounds.set(key, ground);
  }
  return ground;
}

/** Searches all legs of a plan; `order` says which shards of a leg are searched, in which order, some of them again. */
async function searched(
  plan: Plan,
  order: (shards: number, leg: number) => number[] = (shards) => [...Array(shards).keys()],
): Promise<{ report: () => ScoutingReport; so: Gathered }> {
  const ground = groundOf(plan);
  let so = startOfShards(1, ground.shards.length, plan.situations);
  for (const [n, situations] of legsOf(plan.situations, ground.shards.length).entries()) {
    const results: LegResult[] = [];
    for (const i of order(ground.shards.length, n)) {
      const leg = createLeg(ground, i, so);
      await leg.advance({ situations });
      results[i] = sent(leg.result());
    }
    so = gather(so, ground.shards, results);
    if (isExhausted(results, situations)) break;
  }
  return { report: () => mergedReport(ground, so), so };
}

describe('a scouting in shards', () => {
  it('comes to the same report in whichever order its shards are searched, and whoever begins one again', async () => {
    const plan = { file: 'courier.yaml', situations: 6000, parts: 3 };
    const one = await searched(plan);
    const other = await searched(plan, (_, leg) => (leg % 2 === 0 ? [2, 0, 2, 1] : [1, 2, 0]));
    const report = one.report();
    expect(other.report()).toEqual(report);
    expect(report.situations).toBeGreaterThanOrEqual(6000);
    const short = { ...plan, situations: 3000 };
    const [first, second] = [await searched(short), await searched({ ...short, seed: 2 })];
    expect(second.so.courses[0]!.ticks).not.toBe(first.so.courses[0]!.ticks);
  });

  it('finds the planted faults of the draft, and every witness is a tape that ends as it says', async () => {
    const searching = await searched({ file: 'courier-draft.yaml', situations: 24_000, parts: 4 });
    const report = searching.report();
    const machine = machineOf(sample('courier-draft.yaml'));
    const codes = new Set(report.findings.map(({ code }) => code));
    for (const code of ['AG2', 'AG4', 'RK8']) expect([...codes]).toContain(code);
    const witnessed = report.findings.filter(({ certainty }) => certainty === 'witnessed');
    expect(witnessed.length).toBeGreaterThan(8);
    for (const { sentence, witness } of witnessed) {
      const { session, diagnostics } = runTape(machine, yard, readTape(witness!.text!).tape!);
      expect([sentence, diagnostics]).toEqual([sentence, []]);
      expect([sentence, session!.expectations.every((e) => e.passed)]).toEqual([sentence, true]);
    }
    expect(new Set(report.findings.map(({ fingerprint }) => fingerprint)).size).toBe(report.findings.length);
  });

  it('shows the faults of what was seen in its last leg, too', async () => {
    const { so, report } = await searched({ file: 'courier-draft.yaml', situations: 1000, parts: 2 });
    expect(so.legs).toBe(1);
    const witnessed = report().findings.filter(({ certainty }) => certainty === 'witnessed');
    expect(witnessed.length).toBeGreaterThan(so.findings.length + 2);
  });

  it('does not do again what another shard has done: each situation is counted once, but for chance', async () => {
    const { so } = await searched({ file: 'courier.yaml', situations: 20_000, parts: 2 });
    const { known, situations } = so.courses[0]!;
    expect(situations).toBeGreaterThanOrEqual(20_000);
    // Begun again from the spawns, what it comes to first is known; to somebody who knows nothing it is new.
    const ground = groundOf({ file: 'courier.yaml', situations: 0, parts: 2 });
    const rateOf = async (so: Gathered): Promise<number> => {
      const leg = createLeg(ground, 0, so);
      let rounds = 0;
      await leg.advance({ situations: 1e6, goesOn: () => rounds++ < 4 });
      const { situations, ticks } = leg.result();
      return situations / ticks;
    };
    const start = startOfShards(1, 2, 20_000);
    const knowing = { ...start, courses: [{ ...start.courses[0]!, known }] };
    expect(await rateOf(knowing)).toBeLessThan((await rateOf(start)) / 3);
  });

  it('ends when there is nothing left to find', async () => {
    const { so, report } = await searched({ file: 'signal-kite.yaml', situations: 5_000_000, parts: 2 });
    expect(so.legs).toBeLessThan(legsOf(5_000_000, 2).length);
    expect(report().situations).toBeLessThan(5_000_000);
  });
});

describe('the plan of a scouting in shards', () => {
  it('shares all situations out over legs, each at most four times as long as the one before', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e9 }),
        fc.integer({ min: 1, max: 400 }),
        (situations, shards) => {
          const legs = legsOf(situations, shards);
          const sum = legs.reduce((a, b) => a + b, 0);
          expect(sum * shards).toBeGreaterThanOrEqual(situations);
          expect((sum - 1) * shards).toBeLessThan(situations);
          legs.forEach((leg, i) => {
            expect(leg).toBeGreaterThan(0);
            expect(leg).toBeLessThanOrEqual(1_500_000);
            if (i > 0) expect(leg).toBeLessThanOrEqual(6 * legs[i - 1]!);
          });
        },
      ),
    );
    expect(shardsOf(2, 2)).toEqual([
      { course: 0, part: 0, of: 2 },
      { course: 0, part: 1, of: 2 },
      { course: 1, part: 0, of: 2 },
      { course: 1, part: 1, of: 2 },
    ]);
  });
});

describe('what shards tell each other', () => {
  const word = fc.integer({ min: 0, max: 2 ** 32 - 1 });

  it('of keys is each of them once, in ascending order', () => {
    fc.assert(
      fc.property(fc.array(word), (digests) => {
        const given: number[] = [];
        eachDigest(packDigests(Uint32Array.from(digests)), (digest) => given.push(digest));
        expect(given).toEqual([...new Set(digests)].sort((a, b) => a - b));
      }),
    );
    // A million of them take little more than two bytes each.
    const many = Uint32Array.from({ length: 1_000_000 }, (_, i) => digestOf(i << 1, i));
    expect(packDigests(many).length).toBeLessThan(2_100_000);
  });

  it('of keys forgets none, and takes few others for one of them', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(word, word), { minLength: 1, maxLength: 2000 }), (keys) => {
        const filter = createFilter(keys.length);
        for (const [high, low] of keys) addDigest(filter, digestOf(high, low));
        for (const [high, low] of keys) {
          expect(hasDigest(filter, digestOf(high, low))).toBe(true);
          // The lowest bit of the high half is a mark.
          expect(hasDigest(filter, digestOf(high ^ 1, low))).toBe(true);
        }
      }),
      { numRuns: 20 },
    );
    // Halves that follow on each other, as those of situations do.
    const filter = createFilter(50_000);
    for (let i = 0; i < 50_000; i++) addDigest(filter, digestOf(2 * (i % 7), i));
    let taken = 0;
    for (let i = 0; i < 50_000; i++) if (hasDigest(filter, digestOf(2 * (i % 7), i + 50_000))) taken++;
    // 0.82 % by the formula for ten bits and seven hashes; that all of them lie in one block makes it 1.1 %.
    expect(taken / 50_000).toBeLessThan(0.013);
  });

  // Of a scout's ways most inputs are the same array; here one in two is a copy.
  const inputs = [-1, 0, 1].flatMap((x) => [0, 1].map((hop) => [x, hop]));
  const input = fc
    .tuple(fc.constantFrom(...inputs), fc.boolean())
    .map(([own, isCopy]) => (isCopy ? [...own] : own));
  const way = fc.record({ start: fc.nat(3), inputs: fc.array(input, { maxLength: 30 }) });

  it('of ways gives back each as it was', () => {
    fc.assert(
      fc.property(fc.array(way, { maxLength: 12 }), (ways) => {
        const tree = createTree();
        const { add } = growing(tree);
        const ends = ways.map(add);
        const copy = sent(tree);
        expect(ends.map((node) => wayIn(copy, node))).toEqual(ways);
        // What is held on is one node, whichever array said so.
        for (const [i, parent] of tree.parents.entries())
          expect(parent >= 0 && tree.held[parent] === tree.held[i]).toBe(false);
        // Grown on from a copy it knows what is in it.
        const size = copy.parents.length;
        expect(ways.map(growing(copy).add)).toEqual(ends);
        expect(copy.parents.length).toBe(size);
        for (const { start } of ways) expect(add({ start, inputs: [] })).toBe(startNode(start));
      }),
    );
  });

  it('of ways may be cut down to some of them', () => {
    fc.assert(
      fc.property(fc.array(way, { maxLength: 12 }), fc.nat(12), (ways, count) => {
        const tree = createTree();
        const ends = ways.map(growing(tree).add);
        const before = sent(tree);
        const own = prunedTo(tree, ends.slice(0, count));
        expect(own.ends.map((node) => wayIn(own.tree, node))).toEqual(ways.slice(0, count));
        const alone = createTree();
        for (const way of ways.slice(0, count)) growing(alone).add(way);
        expect(own.tree.parents.length).toBe(alone.parents.length);
        expect(tree).toEqual(before);
      }),
    );
  });

  it('of ways is what their situations have been remembered to come from', () => {
    const move = fc.record({ from: fc.nat(40), input: fc.constantFrom(...inputs), ticks: fc.nat(31) });
    fc.assert(
      fc.property(fc.array(move, { maxLength: 40 }), fc.array(fc.nat(40)), (moves, asked) => {
        const [starts, none] = [3, new Float64Array(1)];
        const memory = createMemory(1, 100, starts);
        for (let start = 0; start < starts; start++) memory.add(-1, [], 0, none);
        for (const { from, input, ticks } of moves) memory.add(from % memory.size, input, ticks + 1, none);
        const tree = createTree();
        const endOf = endsIn(memory, growing(tree));
        for (const one of asked) {
          const node = one % memory.size;
          expect(wayIn(tree, endOf(node))).toEqual(memory.wayTo(node));
        }
        const again = createTree();
        const { add } = growing(again);
        for (const one of asked) add(memory.wayTo(one % memory.size));
        expect(tree).toEqual(again);
      }),
    );
  });

  it('of ways is gone on from where they end, however long something is held', () => {
    const machine = machineOf(sample('courier.yaml'));
    const controls = machine.controls.length;
    const held = fc.record({ value: fc.constantFrom(-1, 0, 1), ticks: fc.integer({ min: 1, max: 400 }) });
    fc.assert(
      fc.property(fc.array(fc.array(held, { maxLength: 4 }), { minLength: 1, maxLength: 4 }), (all) => {
        const ways = all.map((moves): Way => ({
          start: 0,
          inputs: moves.flatMap(({ value, ticks }) =>
            Array.from({ length: ticks }, () => [value, ...Array<number>(controls - 1).fill(0)]),
          ),
        }));
        const tree = createTree();
        const ends = [...new Set(ways.map(growing(tree).add))];
        const scout = createScout(machine, yard, { seed: 1, grown: { tree, ends } });
        const there: { way: Way; s: number[] }[] = [];
        scout.watch((s, { wayThere }) => there.push({ way: wayThere(), s: Array.from(s) }));
        expect(there.map(({ way }) => way)).toEqual(ends.map((end) => wayIn(tree, end)));
        for (const { way, s } of there) {
          const played = startFast(scout.fast, scout.starts[way.start]!);
          for (const input of way.inputs) step(scout.fast, played, input);
          expect(s).toEqual(Array.from(played));
        }
      }),
      { numRuns: 30, endOnFailure: true },
    );
  });

  it('of known situations makes a set in which they are, marked, and not counted', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(word, word), { minLength: 1 }), fc.nat(), (keys, at) => {
        const [high, low] = keys[at % keys.length]!;
        const isKnown = (h: number, l: number): boolean => (h | 1) >>> 0 === (high | 1) >>> 0 && l === low;
        const set = createKeySet(16, isKnown);
        for (const [h, l] of keys) {
          const known = isKnown(h, l);
          if (known) expect([set.add(h, l), set.mark(h, l)]).toEqual([false, false]);
          else set.add(h, l);
        }
        const visited: string[] = [];
        set.each((h, l) => visited.push(`${h} ${l}`));
        expect(visited.length).toBe(set.size);
        expect(new Set(visited).size).toBe(set.size);
      }),
    );
  });
});
