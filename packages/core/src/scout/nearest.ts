/** Nodes by how far they are from something: the nearest few, the nearest first. */
export interface Nearest {
  readonly nodes: readonly { node: number; distance: number }[];
  /** How near a node has to be to be among them; Infinity while there is room. */
  within(): number;
  add(node: number, distance: number): void;
}

/** Makes a list of the nearest `most` nodes. Of two that are as near, the one that was there first stays. */
export function createNearest(most: number): Nearest {
  const nodes: { node: number; distance: number }[] = [];
  const within = (): number => nodes[most - 1]?.distance ?? Infinity;
  return {
    nodes,
    within,
    add(node, distance) {
      if (distance >= within()) return;
      nodes.push({ node, distance });
      nodes.sort((a, b) => a.distance - b.distance);
      nodes.length = Math.min(nodes.length, most);
    },
  };
}
