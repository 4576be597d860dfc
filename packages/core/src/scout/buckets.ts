/** Situations that look alike, with how often one of them was expanded. */
interface Bucket {
  nodes: number[];
  expanded: number;
}

/** Groups situations by a label, so that the rare ones get their turn. */
export interface Buckets {
  add(label: number, node: number): void;
  /** The buckets that were expanded least, at most `count` of them. */
  least(count: number): { draw(random: (below: number) => number): number }[];
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
      const sorted = [...buckets.values()].sort((a, b) => a.expanded - b.expanded);
      return sorted.slice(0, count).map((bucket) => ({
        draw(random) {
          bucket.expanded++;
          const { nodes } = bucket;
          const from = random(2) === 0 ? Math.max(0, nodes.length - LATEST) : 0;
          return nodes[from + random(nodes.length - from)]!;
        },
      }));
    },
  };
}
