import ELK, { type ElkEdgeSection, type ElkNode } from 'elkjs/lib/elk-api.js';
import type { LaneGraph, Layout } from './map-data';

/** One worker for all maps: it takes half a second to start. */
let elk: InstanceType<typeof ELK> | undefined;

/** Lays out a lane in bands from the sky to the ground, with room for the words on every line. */
export async function layOut({ nodes, edges }: LaneGraph): Promise<Layout> {
  elk ??= new ELK({
    workerFactory: () => new Worker(new URL('./layout.worker', import.meta.url), { type: 'module' }),
  });
  const asked: ElkNode = {
    id: 'lane',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'DOWN',
      'elk.partitioning.activate': 'true',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': '30',
      'elk.spacing.nodeNode': '30',
      'elk.spacing.edgeNode': '14',
      'elk.spacing.edgeEdge': '10',
      'elk.layered.spacing.edgeNodeBetweenLayers': '12',
      'elk.padding': '[top=20,left=84,bottom=20,right=20]',
    },
    children: nodes.map((n) => ({
      id: n.id,
      width: n.width,
      height: n.height,
      layoutOptions: { 'elk.partitioning.partition': String(n.band) },
    })),
    edges: edges.map((e) => ({ id: e.id, sources: [e.from], targets: [e.to] })),
  };
  const result: ElkNode = await elk.layout(asked);
  return {
    width: result.width ?? 0,
    height: result.height ?? 0,
    nodes: Object.fromEntries((result.children ?? []).map((n) => [n.id, { x: n.x!, y: n.y! }])),
    edges: Object.fromEntries(
      (result.edges ?? []).map((e) => {
        const [section] = e.sections ?? [];
        return [e.id, section === undefined ? { d: '', label: { x: 0, y: 0 } } : wayOf(section)];
      }),
    ),
  };
}

/** A line with its bends, and the middle of its longest stretch, where its words go. */
function wayOf({ startPoint, bendPoints, endPoint }: ElkEdgeSection): Layout['edges'][string] {
  const points = [startPoint, ...(bendPoints ?? []), endPoint];
  const stretches = points.slice(1).map((p, i) => ({ a: points[i]!, b: p }));
  const length = ({ a, b }: (typeof stretches)[0]): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);
  const { a, b } = stretches.reduce((best, s) => (length(s) > length(best) ? s : best));
  return {
    d: points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x} ${p.y}`).join(''),
    label: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
  };
}
