import type { ChartNames } from './names.js';
import type { Node } from './parse.js';
import { moreOf, own } from './read-values.js';
import { OURS, SCXML } from './values.js';

/** What is known while a chart is read. */
export interface Carried {
  /** Notes what does not come over, at its element. */
  note: (node: Node, message: string) => void;
  names: ChartNames;
  /** Whether conditions are in our notation, and whether the chart was written from a moveset. */
  isOurs: boolean;
  isExact: boolean;
  /** Events that something in the chart raises. */
  raised: ReadonlySet<string>;
  /** Events that came over as buttons, since nothing raises them. */
  buttons: Set<string>;
}

type Fields = Record<string, unknown>;

/** A crossing while it is read: its place among those of the lane, and where in its list of froms this state stands. */
interface ReadCrossing {
  index: number;
  at: number | undefined;
  from: string;
  fields: Fields;
}

/** What is known of the states of a lane: by identifier the state or group that is meant, and the parents. */
interface Region {
  /** The name of what a target means: a state, or the group of a `history`. */
  targets: Map<string, string>;
  crossings: ReadCrossing[];
}

export const isChart = ({ uri }: Node): boolean => uri === SCXML || uri === '';
const isState = (node: Node): boolean => isChart(node) && STATES.has(node.name);
const STATES = new Set(['state', 'parallel', 'final']);

/** A region of a chart as a lane. */
export function laneOf(carried: Carried, node: Node, name: string): Fields {
  const inner = node.children.filter(isState);
  // A region without states of its own is one state.
  const members = inner.length === 0 ? [node] : inner;
  const region: Region = { targets: new Map(), crossings: [] };
  gather(carried, members, region);
  if (inner.length > 0 && !carried.isExact) {
    const id = node.attributes.get('id');
    const initial = initialOf(carried, node, inner);
    if (id !== undefined && initial !== undefined) region.targets.set(id, initial);
  }
  const states = Object.fromEntries(members.map((member) => stateOf(carried, member, region)));
  if (inner.length > 0) readTransitions(carried, node, '*', region);
  const initial = carried.isExact
    ? node.attributes.get('initial')
    : inner.length === 0
      ? Object.keys(states)[0]
      : initialOf(carried, node, inner);
  const crossings = merged(region.crossings);
  if (!carried.isExact && inner.length > 0 && node.name !== 'scxml')
    for (const child of node.children)
      if (isChart(child) && LOST_IN_REGION.has(child.name))
        carried.note(child, `'${child.name}' of a whole region has no counterpart here`);
  return {
    name,
    initial,
    ...moreOf(node),
    states,
    ...(crossings.length === 0 ? {} : { crossings }),
  };
}

const LOST_IN_REGION = new Set(['onentry', 'onexit', 'history', 'invoke', 'datamodel']);

/** Finds what every identifier of a region means. */
function gather(carried: Carried, nodes: readonly Node[], region: Region): void {
  for (const node of nodes) {
    const name = nameOf(carried, node);
    const id = node.attributes.get('id');
    if (id !== undefined) region.targets.set(id, name);
    for (const child of node.children)
      if (child.name === 'history') region.targets.set(child.attributes.get('id') ?? '', name);
    gather(carried, node.children.filter(isState), region);
  }
}

const nameOf = ({ names }: Carried, node: Node): string =>
  names.of(node.attributes.get('id') ?? `state at line ${node.line}`);

/** The member that a state begins in: what it says, or the first; one that lies deeper stands for the member around it. */
function initialOf(carried: Carried, node: Node, members: readonly Node[]): string | undefined {
  const element = node.children.find((c) => isChart(c) && c.name === 'initial');
  const wanted =
    node.attributes.get('initial') ??
    element?.children.find((c) => c.name === 'transition')?.attributes.get('target');
  const ids = (wanted ?? '').split(/\s+/).filter((id) => id !== '');
  const holds = (member: Node): boolean =>
    ids.includes(member.attributes.get('id') ?? '') || member.children.filter(isState).some(holds);
  const found = members.find(holds);
  if (wanted !== undefined && found === undefined)
    carried.note(node, `the initial state '${wanted}' is none of its own: it begins in the first one`);
  else if (found !== undefined && !ids.includes(found.attributes.get('id') ?? ''))
    carried.note(node, `the initial state '${wanted ?? ''}' lies deeper: it begins in the state around it`);
  const first = found ?? members[0];
  return first === undefined ? undefined : nameOf(carried, first);
}

/** A state or group with its fields. */
function stateOf(carried: Carried, node: Node, region: Region): [name: string, fields: Fields] {
  const name = nameOf(carried, node);
  const inner = node.children.filter(isState);
  const history = node.children.find((c) => isChart(c) && c.name === 'history');
  const initial = carried.isExact
    ? node.attributes.get('initial')
    : inner.length === 0
      ? undefined
      : initialOf(carried, node, inner);
  const states = Object.fromEntries(inner.map((child) => stateOf(carried, child, region)));
  readTransitions(carried, node, name, region);
  noteLost(carried, node, history, inner.length > 0);
  const words = ['stance', 'ifBlocked', 'ability', 'tag', 'without'].flatMap((key) => {
    const word = own(node, key);
    return word === undefined ? [] : [[key, word]];
  });
  return [
    name,
    {
      ...(node.name === 'final' ? { final: true } : {}),
      ...(own(node, 'home') === 'true' ? { home: true } : {}),
      ...(own(node, 'passing') === 'true' ? { passing: true } : {}),
      ...Object.fromEntries(words),
      ...(history === undefined || inner.length === 0 ? {} : { resume: 'last' }),
      ...effectsField(carried, node, 'onentry', 'enter'),
      ...effectsField(carried, node, 'onexit', 'exit'),
      ...moreOf(node),
      ...(initial === undefined ? {} : { initial }),
      ...(inner.length === 0 ? {} : { states }),
    },
  ];
}

/** What of a state has no counterpart. */
function noteLost(carried: Carried, node: Node, history: Node | undefined, isGroup: boolean): void {
  if (node.name === 'parallel')
    carried.note(
      node,
      'a parallel within a region came over as a group: its regions do not run side by side',
    );
  if (history?.attributes.get('type') !== 'deep' && history !== undefined)
    carried.note(
      history,
      'a shallow history came over as one that goes back to the last state, however deep',
    );
  if (history !== undefined && !isGroup)
    carried.note(history, 'a history of a state without members means nothing here');
  for (const child of node.children)
    if (isChart(child) && ['invoke', 'datamodel', 'donedata'].includes(child.name))
      carried.note(child, `'${child.name}' has no counterpart here`);
}

/** The effects of an element; those of several elements follow each other. */
function effectsField(carried: Carried, node: Node, element: string, key: string): Fields {
  const nodes = node.children.filter((c) => isChart(c) && c.name === element);
  const [first] = nodes;
  if (first === undefined) return {};
  const list = nodes.flatMap((n) => effectsIn(carried, n));
  if (own(first, 'single') === 'true' && list.length === 1) return { [key]: list[0] };
  return list.length === 0 ? {} : { [key]: list };
}

function effectsIn(carried: Carried, node: Node): string[] {
  return node.children.flatMap((child): string[] => {
    if (child.uri === OURS) return child.name === 'do' ? [child.text] : [];
    const [location, expr, event] = ['location', 'expr', 'event'].map((name) => child.attributes.get(name));
    if (child.name === 'assign' && carried.isOurs && location !== undefined && expr !== undefined)
      return [`${location} := ${expr}`];
    if (child.name === 'raise' && event !== undefined)
      return [`raise ${carried.isOurs ? event : carried.names.of(event)}`];
    carried.note(child, `'${child.name}' has no counterpart here`);
    return [];
  });
}

function readTransitions(carried: Carried, node: Node, from: string, region: Region): void {
  for (const child of node.children) {
    if (!isChart(child) || child.name !== 'transition') continue;
    const crossing = crossingOf(carried, child, region);
    if (crossing === undefined) continue;
    const at = own(child, 'at');
    region.crossings.push({
      index: Number(own(child, 'index') ?? region.crossings.length),
      at: at === undefined ? undefined : Number(at),
      from,
      fields: crossing,
    });
  }
}

/** A transition as a crossing without its `from`; undefined for one that leads nowhere in its lane. */
function crossingOf(carried: Carried, node: Node, region: Region): Fields | undefined {
  const [target, ...others] = (node.attributes.get('target') ?? '').split(/\s+/).filter((id) => id !== '');
  if (target === undefined) {
    carried.note(node, 'a transition without a target did not come over');
    return undefined;
  }
  const to = region.targets.get(target);
  if (to === undefined) {
    carried.note(
      node,
      `a transition to '${target}', which is in another region or nowhere, did not come over`,
    );
    return undefined;
  }
  if (others.length > 0)
    carried.note(node, `of the targets ${[target, ...others].join(', ')} only '${target}' came over`);
  const effects = effectsIn(carried, node);
  const rank = own(node, 'rank');
  const [ability, note] = [own(node, 'ability'), own(node, 'note')];
  return {
    to,
    ...guardOf(carried, node),
    ...(effects.length === 0 ? {} : { do: own(node, 'single') === 'true' ? effects[0] : effects }),
    ...(rank === undefined ? {} : { rank: Number(rank) }),
    ...(ability === undefined ? {} : { ability }),
    ...(own(node, 'reenter') === 'true' ? { reenter: true } : {}),
    ...(note === undefined ? {} : { note }),
    ...moreOf(node),
  };
}

/** The guard of a transition: its events, and its condition where that is one of ours. */
function guardOf(carried: Carried, node: Node): Fields {
  const [cond, event] = [node.attributes.get('cond'), node.attributes.get('event')];
  if (carried.isOurs && event === undefined) return cond === undefined ? {} : { when: cond };
  const events = (event ?? '').split(/\s+/).filter((name) => name !== '');
  const strange = events.filter((name) => /[*]|^(done|error)\./.test(name));
  const asked = events.filter((name) => !strange.includes(name)).map((name) => askedOf(carried, name));
  const state = /^\s*In\(\s*['"]?([^'")\s]+)['"]?\s*\)\s*$/.exec(cond ?? '')?.[1];
  const isClosed = strange.length > 0 || (cond !== undefined && state === undefined && !carried.isOurs);
  if (strange.length > 0)
    carried.note(node, `the event ${strange.join(', ')} has no counterpart here: the crossing is closed`);
  if (isClosed && cond !== undefined && state === undefined)
    carried.note(
      node,
      `the condition '${cond}' is none of ours: it became a note, and the crossing is closed`,
    );
  const whens = [
    ...(asked.length === 0 ? [] : [asked.length === 1 ? (asked[0] ?? '') : `(${asked.join(' or ')})`]),
    ...(state === undefined ? [] : [`in(${carried.names.of(state)})`]),
    ...(carried.isOurs && cond !== undefined ? [`(${cond})`] : []),
  ];
  const said = [
    ...(event === undefined ? [] : [`event: ${event}`]),
    ...(cond === undefined ? [] : [`cond: ${cond}`]),
  ];
  if (isClosed) return { when: 'false', note: said.join('; ') };
  return whens.length === 0 ? {} : { when: whens.join(' and ') };
}

/** An event as a fact: raised in the chart, or pressed by somebody. */
function askedOf(carried: Carried, event: string): string {
  const name = carried.names.of(event);
  if (carried.raised.has(event)) return `event(${name})`;
  carried.buttons.add(name);
  return `pressed(${name})`;
}

/** Crossings in their order; one that leaves several states is one again. */
function merged(crossings: readonly ReadCrossing[]): Fields[] {
  const byIndex = new Map<number, ReadCrossing[]>();
  for (const crossing of crossings)
    byIndex.set(crossing.index, [...(byIndex.get(crossing.index) ?? []), crossing]);
  return [...byIndex.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, parts]) => {
      const inOrder = [...parts].sort((a, b) => (a.at ?? 0) - (b.at ?? 0));
      const froms = inOrder.map(({ from }) => from);
      const [first] = inOrder;
      return { from: first?.at === undefined ? froms[0] : froms, ...first?.fields };
    });
}
