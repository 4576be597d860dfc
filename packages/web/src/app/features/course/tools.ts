import type { Point } from './pieces';
/** What a drag on the sheet of a course does. */
export type Tool = 'choose' | 'solid' | 'slope' | 'oneWay' | 'mover' | 'zone' | 'anchor' | 'spawn' | 'body';

/** The tools in the order of their keys; `step` names what one that draws has done. */
export const TOOLS: { tool: Tool; label: string; key: string; step: string }[] = [
  { tool: 'choose', label: $localize`Choose`, key: '1', step: '' },
  { tool: 'solid', label: $localize`Solid`, key: '2', step: $localize`add a solid` },
  { tool: 'slope', label: $localize`Slope`, key: '3', step: $localize`add a slope` },
  { tool: 'oneWay', label: $localize`One-way`, key: '4', step: $localize`add a one-way platform` },
  { tool: 'mover', label: $localize`Mover`, key: '5', step: $localize`add a mover` },
  { tool: 'zone', label: $localize`Zone`, key: '6', step: $localize`add a zone` },
  { tool: 'anchor', label: $localize`Anchor`, key: '7', step: $localize`add an anchor` },
  { tool: 'spawn', label: $localize`Spawn`, key: '8', step: $localize`add a spawn` },
  { tool: 'body', label: $localize`Set the body down`, key: '9', step: '' },
];

/** Which way an arrow key moves what is chosen, in steps of the grid. */
export const ARROWS: Readonly<Record<string, Point | undefined>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
