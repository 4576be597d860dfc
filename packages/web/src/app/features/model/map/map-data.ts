import type { Crossing, Machine, StateKind } from '@glenmark/core/machine';
import { print } from '@glenmark/core/notation';
import { KINDS } from '../../../shared/ui/kind-mark';
import { partPath } from '../../../shared/ui/part-path';
import { shortGuard } from '../short-guard';

/** A lane as boxes and lines, not yet laid out: pixels, origin at the left top of each box. */
export interface LaneGraph {
  nodes: MapNode[];
  edges: MapEdge[];
}

export interface MapNode {
  id: string;
  name: string;
  kind: StateKind | undefined;
  /** The band it lies in, 0 at the top. */
  band: number;
  width: number;
  height: number;
  group: boolean;
  start: boolean;
  body: string[];
}

export interface MapEdge {
  id: string;
  index: number;
  from: string;
  to: string;
  text: string;
  title: string;
}

/** Where everything came to lie. */
export interface Layout {
  width: number;
  height: number;
  nodes: Record<string, { x: number; y: number }>;
  /** The points of each line, its ends and bends. */
  edges: Record<string, { x: number; y: number }[]>;
}

/** The bands from the sky to the ground: what is in the air lies above what stands. */
export const BANDS: { title: string; kinds: StateKind[] }[] = [
  { title: $localize`in the air`, kinds: ['aloft'] },
  { title: $localize`held`, kinds: ['braced', 'slung'] },
  { title: $localize`no steering`, kinds: ['committed'] },
  { title: $localize`on the ground`, kinds: ['footed'] },
];

const BODY = 20;
const LETTER = 7;

/** The states, groups and crossings of a lane as a graph; everywhere is a node of its own where it is used. */
export function laneGraph(machine: Machine, lane: number): LaneGraph {
  const { states, crossings, initial } = machine.lanes[lane]!;
  const nodes = states.map((index): MapNode => {
    const state = machine.states[index]!;
    const stance = machine.stances[Math.max(0, state.stance)]!;
    const group = state.members.length > 0;
    const tall = group ? 0 : (stance.top - stance.bottom) * BODY;
    const body = group
      ? []
      : stance.parts.map((p) =>
          partPath(
            { ...p, width: p.width * BODY, height: p.height * BODY, ox: p.ox * BODY, oy: p.oy * BODY },
            0,
          ),
        );
    return {
      id: `s${index}`,
      name: state.name,
      kind: state.kind,
      band: BANDS.findIndex((b) => b.kinds.includes(state.kind)),
      width: (group ? 24 : 54) + Math.max(24, state.name.length * LETTER),
      height: group ? 26 : Math.max(32, tall + 12),
      group,
      start: initial === index,
      body,
    };
  });
  const everywhere: MapNode = {
    id: 'any',
    name: $localize`everywhere`,
    kind: undefined,
    band: 0,
    width: 90,
    height: 26,
    group: true,
    start: false,
    body: [],
  };
  const edges = crossings.flatMap((c) => edgesOf(machine, c));
  return { nodes: edges.some((e) => e.from === 'any') ? [everywhere, ...nodes] : nodes, edges };
}

const edgesOf = (machine: Machine, crossing: Crossing): MapEdge[] => {
  const guard = crossing.when === undefined ? 'always' : print(crossing.when.syntax);
  const text = shortGuard(crossing.when);
  const sources = crossing.from.length === 0 ? ['any'] : crossing.from.map((s) => `s${s}`);
  return sources.map((from) => ({
    id: `c${crossing.index}-${from}`,
    index: crossing.index,
    from,
    to: `s${crossing.to}`,
    text: text.length > 30 ? `${text.slice(0, 29)}…` : text,
    title: guard,
  }));
};

export const colourOf = (kind: StateKind | undefined): string =>
  kind === undefined ? 'ink-2' : KINDS[kind].colour;
