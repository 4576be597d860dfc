import { isMap, isScalar, isSeq } from 'yaml';
import type { Kind, Path, Source } from '../model/index.js';
import { rangeIn, stretchOf, type Stretch } from '../model/index.js';

/** A thing of a document, for those who look for it by name; with the things in it. */
export interface Entry extends Stretch {
  name: string;
  /** What it is, such as `dial` or `state`. */
  kind: string;
  /** Where its name stands. */
  at: Stretch;
  entries: Entry[];
}

/** The sections of a document whose entries have names of their own, and what each of these is. */
const SECTIONS: Readonly<Record<Kind, Readonly<Record<string, string>>>> = {
  moveset: {
    dials: 'dial',
    controls: 'control',
    'body.stances': 'stance',
    'body.probes': 'probe',
    variables: 'variable',
    timers: 'timer',
    cooldowns: 'cooldown',
    tethers: 'tether',
    abilities: 'ability',
    settings: 'setting',
    lanes: 'lane',
  },
  course: {
    solids: 'solid',
    oneWays: 'platform',
    movers: 'mover',
    zones: 'zone',
    anchors: 'anchor',
    spawns: 'spawn',
  },
  tape: { inputs: 'input', marks: 'mark' },
};

/** The things of a document, in the order of its text. */
export function outlineOf(source: Source, kind: Kind): Entry[] {
  return Object.entries(SECTIONS[kind])
    .flatMap(([section, what]) => entriesAt(source, section.split('.'), what))
    .sort((a, b) => a.start - b.start);
}

/** The entries of a mapping, or of a list whose items have a `name`. */
function entriesAt(source: Source, path: Path, kind: string): Entry[] {
  const node = source.document.getIn(path, true);
  if (isMap(node))
    return node.items.flatMap(({ key, value }): Entry[] => {
      const at = rangeIn(source, key);
      if (!isScalar(key) || at === undefined) return [];
      const name = String(key.value);
      const [, end] = rangeIn(source, value) ?? at;
      const inner = [...path, name];
      const isGroup = kind === 'state' && source.document.hasIn([...inner, 'states']);
      return [
        {
          name,
          kind: isGroup ? 'group' : kind,
          at: { start: at[0], end: at[1] },
          start: at[0],
          end: endOf(source, end),
          entries: isGroup ? entriesAt(source, [...inner, 'states'], 'state') : [],
        },
      ];
    });
  if (!isSeq(node)) return [];
  return node.items.flatMap((item, i): Entry[] => {
    const range = rangeIn(source, item);
    const at = stretchOf(source, [...path, i, 'name']);
    const name = isMap(item) ? item.get('name') : undefined;
    if (range === undefined || at === undefined || typeof name !== 'string' || name === '') return [];
    const entries = kind === 'lane' ? entriesAt(source, [...path, i, 'states'], 'state') : [];
    return [{ name, kind, at, start: range[0], end: endOf(source, range[1]), entries }];
  });
}

/** The end of a node without the white space behind it. */
function endOf({ text }: Source, end: number): number {
  let at = end;
  while (at > 0 && /\s/.test(text.charAt(at - 1))) at--;
  return at;
}
