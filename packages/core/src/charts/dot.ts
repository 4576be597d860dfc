import type { Lane, Machine } from '../machine/index.js';
import { present } from '../present.js';
import { crossingText } from './crossings.js';

/**
 * A moveset as a graph in the DOT language: a cluster for each lane and group, a node for each state, an edge for each
 * crossing. An edge from or to a group ends at its cluster; one from everywhere begins at a point of its own.
 */
export function dotOf(machine: Machine): string {
  return [
    `digraph ${quoted(machine.name)} {`,
    '  compound=true;',
    '  node [shape=box, style=rounded];',
    ...machine.lanes.flatMap((lane) => indented(laneLines(machine, lane))),
    '}',
    '',
  ].join('\n');
}

const quoted = (text: string): string =>
  `"${text.replace(/\\/g, '\\\\').replace(/"/g, '\\"').replace(/\n/g, '\\n')}"`;

const indented = (lines: readonly string[]): string[] => lines.map((line) => `  ${line}`);

function laneLines(machine: Machine, lane: Lane): string[] {
  const { states } = machine;
  const any = `everywhere ${lane.name}`;
  const tops = lane.states.filter((state) => present(states[state]).parent < 0);
  const initial = quoted(`begin ${lane.name}`);
  const edges = lane.crossings.flatMap((crossing) => {
    const froms = crossing.from.length === 0 ? [undefined] : crossing.from;
    return froms.map((from) => {
      const [tail, head] = [
        from === undefined ? quoted(any) : node(machine, from),
        node(machine, crossing.to),
      ];
      const ends = [
        ...(from !== undefined && isGroup(machine, from) ? [`ltail=${cluster(machine, from)}`] : []),
        ...(isGroup(machine, crossing.to) ? [`lhead=${cluster(machine, crossing.to)}`] : []),
      ];
      return `${tail} -> ${head} [${[`label=${quoted(crossingText(machine, crossing))}`, ...ends].join(', ')}];`;
    });
  });
  return [
    `subgraph ${quoted(`cluster lane ${lane.name}`)} {`,
    ...indented([
      `label=${quoted(lane.name)};`,
      `${initial} [shape=point, label=""];`,
      ...(lane.crossings.some((c) => c.from.length === 0)
        ? [`${quoted(any)} [shape=plaintext, label="everywhere"];`]
        : []),
      ...tops.flatMap((state) => stateLines(machine, state)),
    ]),
    '}',
    `${initial} -> ${node(machine, lane.initial)}${isGroup(machine, lane.initial) ? ` [lhead=${cluster(machine, lane.initial)}]` : ''};`,
    ...edges,
  ];
}

const isGroup = ({ states }: Machine, state: number): boolean => present(states[state]).members.length > 0;

const cluster = ({ states }: Machine, group: number): string =>
  quoted(`cluster ${present(states[group]).name}`);

/** The node that stands for a state; for a group, that of the state that it begins in. */
function node(machine: Machine, state: number): string {
  const { name, members, initial } = present(machine.states[state]);
  return members.length === 0 ? quoted(name) : node(machine, initial);
}

function stateLines(machine: Machine, state: number): string[] {
  const { name, members, final } = present(machine.states[state]);
  if (members.length === 0) return [`${quoted(name)}${final ? ' [peripheries=2]' : ''};`];
  return [
    `subgraph ${cluster(machine, state)} {`,
    ...indented([`label=${quoted(name)};`, ...members.flatMap((member) => stateLines(machine, member))]),
    '}',
  ];
}
