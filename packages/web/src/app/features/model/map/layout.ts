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
      'elk.layered.spacing.nodeNodeBetweenLayers': '36',
      'elk.spacing.nodeNode': '30',
      'elk.spacing.edgeNode': '14',
      'elk.spacing.edgeEdge': '10',
      'elk.layered.spacing.edgeNodeBetweenLayers': '16',
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
  const result: ElkNode = await elk.layout(asked).catch((error: unknown) => {
    // Its worker may be what failed: the next drawing begins another.
    elk?.terminateWorker();
    elk = undefined;
    throw error;
  });
  return {
    width: result.width ?? 0,
    height: result.height ?? 0,
    nodes: Object.fromEntries((result.children ?? []).map((n) => [n.id, { x: n.x!, y: n.y! }])),
    edges: Object.fromEntries(
      (result.edges ?? []).map((e) => {
        const [section] = e.sections ?? [];
        return [e.id, section === undefined ? [] : pointsOf(section)];
      }),
    ),
  };
}

/** The ends of a line and its bends. */
const pointsOf = ({ startPoint, bendPoints, endPoint }: ElkEdgeSection): Layout['edges'][string] => [
  startPoint,
  ...(bendPoints ?? []),
  endPoint,
];
