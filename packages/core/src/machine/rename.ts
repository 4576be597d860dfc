import { type Change, edit, type Path, renameKey } from '../model/index.js';
import {
  FACTS_OF,
  type EffectSyntax,
  parseEffect,
  parseExpression,
  type Syntax,
  type TextSpan,
  type ThingKind,
} from '../notation/index.js';
import type { Machine, NotationPlace } from './definition.js';

/** What can be renamed, and found: the named things of a moveset. */
export type NamedKind = ThingKind | 'dial' | 'variable' | 'lane';

/** Where a name is used: inside a piece of notation, or as a whole value of the document. */
export interface Use {
  path: Path;
  /** The stretch of the text at `path`; undefined when it is the whole value. */
  span: TextSpan | undefined;
}

/** Every use of a name, its declaration apart, in the order of the document. */
export function findUses(machine: Machine, kind: NamedKind, name: string): Use[] {
  const uses: Use[] = [];
  for (const place of machine.texts) {
    for (const span of spansOf(place, kind, name)) uses.push({ path: place.path, span });
  }
  if (kind === 'state') uses.push(...stateUses(machine, name));
  if (kind === 'aim') uses.push(...aimUses(machine, name));
  if (kind === 'stance' || kind === 'ability') {
    const index = (kind === 'stance' ? machine.stances : machine.abilities).findIndex((t) => t.name === name);
    for (const path of machine.references)
      if (path.kind === kind && path.index === index) uses.push({ path: path.path, span: undefined });
  }
  return uses;
}

/** The text of a moveset in which a thing has another name, everywhere. The new name must be free and well formed. */
export function rename(text: string, machine: Machine, kind: NamedKind, from: string, to: string): string {
  const changes = new Map<string, { path: Path; value: string }>();
  // From the back of each text, so that earlier spans stay where they are.
  for (const { path, span } of findUses(machine, kind, from).reverse()) {
    const key = JSON.stringify(path);
    const place = machine.texts.find((t) => JSON.stringify(t.path) === key);
    const before = changes.get(key)?.value ?? place?.text ?? '';
    changes.set(key, {
      path,
      value: span === undefined ? to : before.slice(0, span.start) + to + before.slice(span.end),
    });
  }
  const edited = edit(
    text,
    [...changes.values()].map(({ path, value }): Change => ({ path, value })),
  );
  const declared = declarationOf(machine, kind, from);
  if (declared === undefined) return edited;
  return kind === 'lane'
    ? edit(edited, [{ path: [...declared, 'name'], value: to }])
    : renameKey(edited, declared, to);
}

function declarationOf(machine: Machine, kind: NamedKind, name: string): Path | undefined {
  const lists: Record<NamedKind, readonly { name: string; path: Path }[]> = {
    button: machine.controls,
    axis: machine.controls,
    aim: machine.controls,
    probe: machine.probes,
    timer: machine.timers,
    cooldown: machine.cooldowns,
    state: machine.states,
    stance: machine.stances,
    ability: machine.abilities,
    dial: machine.dials,
    variable: machine.variables,
    lane: machine.lanes,
    event: [],
    zone: [],
    tether: machine.tethers,
  };
  return lists[kind].find((thing) => thing.name === name)?.path;
}

/** Aims are also followed by probes and tethers. */
const aimUses = (machine: Machine, name: string): Use[] => [
  ...machine.probes
    .filter((p) => 'aim' in p.direction && p.direction.aim === `aim(${name})`)
    .map((p) => ({ path: [...p.path, 'toward'], span: undefined })),
  ...machine.tethers
    .filter((t) => t.aim === `aim(${name})`)
    .map((t) => ({ path: [...t.path, 'aim'], span: undefined })),
];

/** States are also named by crossings, and as where a lane or a group begins. */
function stateUses(machine: Machine, name: string): Use[] {
  const index = machine.states.findIndex((s) => s.name === name);
  if (index < 0) return [];
  const uses: Use[] = [];
  const add = (path: Path): void => void uses.push({ path, span: undefined });
  for (const lane of machine.lanes) {
    if (lane.initial === index) add([...lane.path, 'initial']);
    for (const crossing of lane.crossings) {
      if (crossing.to === index) add([...crossing.path, 'to']);
      const at = crossing.from.indexOf(index);
      if (at >= 0) add(crossing.fromList ? [...crossing.path, 'from', at] : [...crossing.path, 'from']);
    }
  }
  for (const group of machine.states) if (group.initial === index) add([...group.path, 'initial']);
  return uses;
}

function spansOf(place: NotationPlace, kind: NamedKind, name: string): TextSpan[] {
  if (place.kind === 'expression') {
    const parsed = parseExpression(place.text);
    return parsed.ok ? inSyntax(parsed.value, kind, name) : [];
  }
  const parsed = parseEffect(place.text);
  return parsed.ok ? inEffect(parsed.value, kind, name) : [];
}

function inSyntax(node: Syntax, kind: NamedKind, name: string): TextSpan[] {
  if (node.kind === 'name')
    return node.name === name && (kind === 'dial' || kind === 'variable') ? [node] : [];
  if (node.kind === 'call' && Object.hasOwn(FACTS_OF, node.name)) {
    const arg = node.args[0];
    return arg?.kind === 'name' && arg.name === name && FACTS_OF[node.name]!.of === kind ? [arg] : [];
  }
  return Object.values(node)
    .flat()
    .flatMap((part: unknown) =>
      typeof part === 'object' && part !== null && 'kind' in part ? inSyntax(part as Syntax, kind, name) : [],
    );
}

/** Which kinds of thing a verb's word may name. */
const WORD_KINDS: Record<string, NamedKind[]> = {
  start: ['timer'],
  stop: ['timer'],
  spend: ['cooldown', 'variable'],
  refill: ['cooldown', 'variable'],
  face: ['axis'],
  lock: ['ability'],
  unlock: ['ability'],
  raise: ['event'],
  cast: ['tether'],
  release: ['tether'],
};

function inEffect(effect: EffectSyntax, kind: NamedKind, name: string): TextSpan[] {
  if (effect.kind === 'verb') {
    return (WORD_KINDS[effect.verb] ?? []).includes(kind)
      ? effect.words.filter((word) => word.text === name)
      : [];
  }
  const target = kind === 'variable' && effect.name === name ? [effect.nameSpan] : [];
  return [...target, ...inSyntax(effect.value, kind, name)];
}
