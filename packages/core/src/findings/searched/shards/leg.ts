import { present } from '../../../present.js';
import {
  createScout,
  createTree,
  type Event,
  growing,
  digestOf,
  type Digests,
  hasDigest,
  type Progress,
  prunedTo,
  SQUARES,
  type WayTree,
} from '../../../scout/index.js';
import { collecting, createCollection } from '../collect.js';
import { advance, begun } from '../rounds.js';
import { type TriggeredTrap, watchTraps } from '../triggered-traps.js';
import { watchUnlockers } from '../unlockers.js';
import type { Finding } from '../../sentences/finding.js';
import type { Gathered } from './gathered.js';
import type { ShardGround } from './ground.js';
import { seedOf } from './plan.js';

/** Situations that a shard goes on from in its next leg. */
const FRONTIER = 600;

/** A square of a course with the leaves that the lanes were in there, and the spots that moves led to from there. */
export interface LegSpot {
  leaves: number[];
  square: number;
  end: number;
  next: number[];
}

/** What a leg found, as plain data: ways are nodes of `tree` by where they end. */
export interface LegResult {
  /** Situations that nobody had come to in an earlier leg. */
  situations: number;
  ticks: number;
  tree: WayTree;
  /** Faults that were witnessed, by fingerprint none that were known before. */
  findings: Finding[];
  /** Suspected traps that a way led into, by their place in what is known before. */
  triggered: number[];
  sightings: { event: Event; end: number }[];
  approaches: { lane: number; crossing: number; distance: number; end: number }[];
  /** Zones that were not come to, and those that were. */
  zones: { zone: number; ability: number; nearest: number; end: number }[];
  cameTo: number[];
  spots: LegSpot[];
  /** Where this shard goes on. */
  frontier: number[];
  /** The keys of its situations. */
  keys: Digests;
}

/** A shard from one exchange to the next. */
export interface Leg {
  advance(how: {
    situations: number;
    goesOn?: () => boolean;
    progress?: (progress: Progress) => void | Promise<void>;
  }): Promise<void>;
  result(): LegResult;
}

/** Where a shard goes on from: its own frontier, and what others came to in the last leg, or came nearest to. */
function grownFor({ frontiers, courses }: Gathered, index: number, course: number) {
  const own = present(frontiers[index]);
  const { news, approaches } = present(courses[course]);
  const { tree, ends } = prunedTo(own.tree, own.ends);
  const grown = growing(tree);
  const others = [...news, ...approaches.values()].map(({ way }) => grown.add(way));
  return { tree, ends: [...new Set([...ends, ...others])] };
}

/** Begins a leg of a shard, by what all shards know of each other by then. */
export function createLeg(ground: ShardGround, index: number, gathered: Gathered): Leg {
  const { machine, before, known, dead, seed, grid } = ground;
  const { course, part, of } = present(ground.shards[index]);
  const { sightings, known: seen, news } = present(gathered.courses[course]);
  const scout = createScout(machine, present(ground.courses[course]), {
    seed: seedOf(seed, index, gathered.legs),
    dead,
    sighted: new Set(sightings.keys()),
    known: (high, low) => hasDigest(seen, digestOf(high, low)),
    ...(grid === undefined ? {} : { grid }),
    ...(gathered.legs === 0 ? { region: { part, of } } : { grown: grownFor(gathered, index, course) }),
  });
  const triggered: TriggeredTrap[] = [];
  const traps = before.traps.filter((_, i) => !gathered.triggered.has(i));
  watchTraps(scout, traps, triggered);
  const unlockers = watchUnlockers(scout);
  const rounds = begun(scout);
  const told = [...known, ...gathered.findings];
  const collection = createCollection(machine, told);
  const collect = collecting(collection, [rounds], triggered, { looks: false });
  // What this leg sees is looked at in the next one, shared out: all shards come to the same at first.
  const toLookAt = news.filter((_, i) => i % of === part);
  return {
    async advance({ situations, goesOn = () => true, progress }) {
      while (toLookAt.length > 0 && goesOn()) collection.look(scout, present(toLookAt.shift()));
      await advance(rounds, {
        goesOn: () => scout.progress().situations < situations && goesOn(),
        expand: undefined,
        async pause() {
          collect();
          await progress?.(scout.progress());
        },
      });
    },
    result() {
      collect();
      const tree = createTree();
      const grown = growing(tree);
      const endOf = scout.endsIn(grown);
      const spots = [...scout.spots()];
      const places = new Map(spots.map(([code], i) => [code, i]));
      const { situations, ticks } = scout.progress();
      return {
        situations,
        ticks,
        tree,
        findings: [...collection.findings],
        triggered: triggered.map(({ trap }) => before.traps.indexOf(trap)),
        sightings: scout.sightingsFrom(0).map(({ event, way }) => ({ event, end: grown.add(way) })),
        approaches: scout.approaches().map(({ way, ...a }) => ({ ...a, end: grown.add(way) })),
        zones: unlockers.notComeTo().map(({ way, ...zone }) => ({ ...zone, end: grown.add(way) })),
        cameTo: unlockers.comeTo(),
        spots: spots.map(([code, { leaves, first, next }]) => ({
          leaves,
          square: code % SQUARES,
          end: endOf(first),
          next: [...next].map((target) => present(places.get(target))),
        })),
        frontier: scout.frontier(FRONTIER).map(endOf),
        keys: scout.newKeys(),
      };
    },
  };
}
