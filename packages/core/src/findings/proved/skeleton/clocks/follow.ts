import { present } from '../../../../present.js';
import { chainOf, leafFrom, type Machine } from '../../../../machine/index.js';
import type { Exit } from '../explore/exits.js';
import { type Digit, initialValue, type Slice } from '../space.js';
import type { Clock } from './clocks.js';
import { allZero, type Bounds, copyOf, forget, include, widen } from './difference-bounds.js';
import { type Choice, createDecision } from './decision.js';
import { opsOfEffects, type Timed } from './effects.js';
import { createTick } from './tick.js';

/** Discrete values with what clocks may show: after a tick, and when the lanes decide in the next one. */
export interface Node {
  place: number;
  values: number[];
  after: Bounds | undefined;
  deciding: Bounds | undefined;
  /** What the lanes may do in the decision; worked out when the first one is made. */
  choices: Choice[] | undefined;
  /** Nodes that time leads to by itself. */
  later: Set<Node>;
  changes: number;
  isQueued: boolean;
}

/** Times that a node is looked at before its bounds are widened, and before they are given up. */
const BEFORE_WIDENING = 4;
const BEFORE_GIVING_UP = 60;

/** Looks at nodes beyond which clocks are not followed. */
const MAX_LOOKS = 20_000;

/** Everything that may come to pass, with what clocks may show. Undefined when there is too much of it. */
export function follow(
  machine: Machine,
  slice: Slice,
  clocks: readonly Clock[],
  exits: ReadonlyMap<number, Exit[]>,
  constants: ReadonlySet<number>,
): Map<number, Node> | undefined {
  const codeOf = coder(slice.digits);
  const thresholds = thresholdsOf(machine, clocks, constants);
  const nodes = new Map<number, Node>();
  const queue: Node[] = [];
  const nodeAt = (values: readonly number[]): Node => {
    const code = codeOf(values);
    let node = nodes.get(code);
    if (node === undefined) {
      node = {
        place: nodes.size,
        values: [...values],
        after: undefined,
        deciding: undefined,
        choices: undefined,
        later: new Set(),
        changes: 0,
        isQueued: false,
      };
      nodes.set(code, node);
    }
    return node;
  };
  const add = (node: Node, phase: 'after' | 'deciding', bounds: Bounds): void => {
    const known = node[phase];
    if (known === undefined) node[phase] = copyOf(bounds);
    else {
      const before = copyOf(known);
      if (!include(known, bounds)) return;
      node.changes++;
      if (node.changes > BEFORE_GIVING_UP) for (let c = 1; c <= clocks.length; c++) forget(known, c);
      else if (node.changes > BEFORE_WIDENING) widen(known, before, thresholds);
    }
    if (node.isQueued) return;
    node.isQueued = true;
    queue.push(node);
  };
  const tick = createTick(machine, slice, clocks);
  const decision = createDecision(machine, slice, clocks, exits);
  const start = startOf(machine, slice, clocks);
  add(nodeAt(start.values), 'deciding', start.bounds);
  let looks = 0;
  for (let node = queue.shift(); node !== undefined; node = queue.shift()) {
    if (++looks > MAX_LOOKS) return undefined;
    node.isQueued = false;
    if (node.after !== undefined) {
      for (const { values, bounds } of tick.advanced({ values: node.values, bounds: node.after })) {
        const next = nodeAt(values);
        if (next !== node) node.later.add(next);
        add(next, 'deciding', bounds);
      }
    }
    if (node.deciding === undefined) continue;
    for (const { values, bounds } of tick.recharged({ values: node.values, bounds: node.deciding })) {
      const next = nodeAt(values);
      node.later.add(next);
      add(next, 'deciding', bounds);
    }
    node.choices ??= decision.choicesIn(node.values);
    for (const choice of node.choices)
      for (const { values, bounds } of decision.taking(choice, {
        values: node.values,
        bounds: node.deciding,
      }))
        add(nodeAt(values), 'after', bounds);
  }
  return nodes;
}

const coder = (digits: readonly Digit[]): ((values: readonly number[]) => number) => {
  const strides = digits.map((_, i) => digits.slice(0, i).reduce((n, d) => n * d.size, 1));
  return (values) => values.reduce((code, value, i) => code + value * present(strides[i]), 0);
};

/** Bounds that grow do so to one of these: what clocks are compared with or set to, and what lies a tick beside it. */
function thresholdsOf(machine: Machine, clocks: readonly Clock[], constants: ReadonlySet<number>): number[] {
  const lengths = clocks.flatMap((c) =>
    c.kind === 'timer'
      ? [present(machine.timers[c.timer]).ticks]
      : c.kind === 'recharge'
        ? [present(machine.cooldowns[c.cooldown]).ticks]
        : [],
  );
  const ends = [...new Set([0, ...constants, ...lengths])].filter(Number.isSafeInteger);
  const near = ends.flatMap((n) => [n - 1, n, n + 1]);
  return [...new Set(near.flatMap((n) => [n, -n]))].sort((a, b) => a - b);
}

/** The first decision: the initial states entered, before any time has gone by. */
function startOf(machine: Machine, slice: Slice, clocks: readonly Clock[]): Timed {
  const { digits, lanes } = slice;
  const timed: Timed = {
    values: digits.map((d) => initialValue(machine, d)),
    bounds: allZero(clocks.length),
  };
  clocks.forEach((clock, i) => {
    if (clock.kind === 'timer' || clock.kind === 'recharge') forget(timed.bounds, i + 1);
  });
  for (const lane of lanes) {
    const leaf = leafFrom(machine, present(machine.lanes[lane]).initial);
    const digit = digits.findIndex((d) => d.kind === 'leaf' && d.index === lane);
    timed.values[digit] = present(digits[digit]).leaves.indexOf(leaf);
    const entered = chainOf(machine, leaf).reverse();
    for (const op of opsOfEffects(
      machine,
      slice,
      clocks,
      entered.flatMap((s) => present(machine.states[s]).enter),
    ))
      op(timed);
  }
  return timed;
}
