/** Situations that look alike, with how often one of them was expanded. */
interface Bucket {
  nodes: number[];
  expanded: number;
}

/** A bucket to draw from. */
export interface Draw {
  /** A situation of it that may be expanded; −1 when there is none. Those that may not leave the bucket. */
  draw(random: (below: number) => number, mayBe: (node: number) => boolean): number;
  /** The latest of it for 0, the one before that for 1; −1 when there are not so many. */
  latest(back: number): number;
}

/** Groups situations by a label, so that the rare ones get their turn. */
export interface Buckets {
  add(label: number, node: number): void;
  /** The buckets that were expanded least, at most `count` of them. */
  least(count: number): Draw[];
}

/** The latest situations of a bucket are drawn as often as all the others. */
const LATEST = 24;

export function createBuckets(): Buckets {
  const buckets = new Map<number, Bucket>();
  return {
    add(label, node) {
      const bucket = buckets.get(label);
      if (bucket === undefined) buckets.set(label, { nodes: [node], expanded: 0 });
      else bucket.nodes.push(node);
    },
    least(count) {
      const filled = [...buckets.values()].filter(({ nodes }) => nodes.length > 0);
      const sorted = filled.sort((a, b) => a.expanded - b.expanded);
      return sorted.slice(0, count).map((bucket) => ({
        latest: (back) => bucket.nodes.at(-1 - back) ?? -1,
        draw(random, mayBe) {
          bucket.expanded++;
          const { nodes } = bucket;
          while (nodes.length > 0) {
            const from = random(2) === 0 ? Math.max(0, nodes.length - LATEST) : 0;
            const at = from + random(nodes.length - from);
            const node = nodes[at]!;
            if (mayBe(node)) return node;
            // What cannot be expanded is mostly old: one of the oldest takes its place, so that the latest stay last.
            nodes[at] = nodes[0]!;
            if (at >= nodes.length - LATEST) nodes.splice(at, 1);
            else {
              nodes[at] = nodes[nodes.length - LATEST - 1]!;
              nodes.splice(nodes.length - LATEST - 1, 1);
            }
          }
          return -1;
        },
      }));
    },
  };
}
