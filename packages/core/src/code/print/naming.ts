import { type Machine, place } from '../../machine/index.js';
import { present } from '../../present.js';
import type { Member, Type } from '../members.js';
import { namesFor, pascal } from '../names.js';
import type { Outline } from '../outline.js';
import { OWNERS } from './printer.js';

/** How a language forms names, and which ones it keeps for itself. */
export interface Style {
  member: (words: string) => string;
  procedure: (words: string) => string;
  enumerator: (words: string) => string;
  constant: (words: string) => string;
  reserved: ReadonlySet<string>;
  /** Names of types that the printed file has anyway. */
  types: readonly string[];
  /** Whether a member may not be called as a type is that it does not have. */
  keepsApart?: boolean;
}

/** A list of the values that a type can have. */
export interface Enumeration {
  name: string;
  note: string;
  values: { name: string; value: number }[];
}

/** Every name of a printed file. */
export interface Naming {
  member: (member: Member) => string;
  procedure: (name: string) => string;
  local: (name: string) => string;
  constant: (dial: string) => string;
  enumerations: Enumeration[];
  /** The enumeration of a type, for `leaf`, `way` and `stance`. */
  enumerationOf: (type: Type) => Enumeration;
  enumerator: (type: Type, value: number) => string;
  /** The tags of each lane that has some: the name of the function, and by state the tag until a tick of it. */
  tags: LaneTags[];
  /** What tethers need beyond plain members: the names of their lists and of where they would take hold. */
  tethers: TetherNames[];
  /** A line of a helper with the names of what it reads, which stand in it in braces. */
  filled: (line: string) => string;
}

export interface LaneTags {
  name: string;
  lane: number;
  /** The member with the tick in which the lane's state was entered. */
  since: Member;
  states: { state: number; tags: { tag: string; until: number }[] }[];
}

export interface TetherNames {
  tether: number;
  name: string;
  list: string;
  /** The function by which it takes hold. */
  hold: string;
  count: Member;
  x: string;
  y: string;
  on: string;
  most: number;
}

/** Finds a name for everything in an outline. */
export function namingOf(outline: Outline, style: Style): Naming {
  const { machine, used, procedures, constants, members } = outline;
  const { reserved } = style;
  const tethers = tetherWords(machine);
  const memberNames = new Map<Member, string>();
  const extra = new Map<string, string>();
  for (const owner of OWNERS) {
    const words = tethers.flatMap((t) =>
      owner === 'situation' ? [t.list] : owner === 'senses' ? [t.x, t.y, t.on] : [],
    );
    const things: (Member | string)[] = [...used[owner], ...words];
    const names = namesFor(things, (t) => style.member(typeof t === 'string' ? t : t.words), reserved);
    for (const [thing, name] of names)
      if (typeof thing === 'string') extra.set(thing, name);
      else memberNames.set(thing, name);
  }
  const tagged = machine.lanes.filter(({ index }) =>
    machine.states.some((s) => s.lane === index && s.members.length === 0 && s.tags.length > 0),
  );
  const functions = namesFor(
    [
      ...procedures.map(({ name }) => name),
      ...tagged.map(({ name }) => `${name} tag`),
      ...tethers.map(({ name }) => `hold ${name}`),
    ],
    (name) => style.procedure(withoutIndexes(machine, name)),
    new Set([...reserved, style.procedure('tick'), style.procedure('start')]),
  );
  const dials = namesFor(
    constants.list.map(({ name }) => name),
    style.constant,
    reserved,
  );
  const others = OWNERS.flatMap((owner) =>
    used[owner].flatMap((m) =>
      ['leaf', 'way', 'stance'].includes(m.type.kind) ? [] : present(memberNames.get(m)),
    ),
  );
  const { byType, list } = enumerationsOf(machine, {
    ...style,
    types: [...style.types, ...(style.keepsApart === true ? others : [])],
  });
  const enumerationOf = (type: Type): Enumeration => present(byType.get(keyOf(type)));
  const read: Record<string, number> = {
    ticks: place.TICK,
    vx: place.VX,
    x: place.X,
    grounded: place.GROUND,
    normalX: place.GROUND_NX,
    normalY: place.GROUND_NY,
    middle: members.beyond.middle,
  };
  return {
    filled: (line) =>
      line.replace(/\{(\w+)\}/g, (_, name: string) =>
        present(memberNames.get(present(members.fields.get(present(read[name]))))),
      ),
    member: (member) => present(memberNames.get(member)),
    procedure: (name) => present(functions.get(name)),
    local: (name) => (reserved.has(name) ? `${name}_` : name),
    constant: (dial) => present(dials.get(dial)),
    enumerations: list,
    enumerationOf,
    enumerator: (type, value) => present(enumerationOf(type).values.find((v) => v.value === value)).name,
    tags: tagged.map(({ index, name }) => ({
      name: present(functions.get(`${name} tag`)),
      lane: index,
      since: present(members.fields.get(present(members.beyond.laneSince[index]))),
      states: machine.states
        .filter((s) => s.lane === index && s.members.length === 0 && s.tags.length > 0)
        .map((s) => ({ state: s.index, tags: s.tags })),
    })),
    tethers: tethers.map((t) => ({
      ...t,
      list: present(extra.get(t.list)),
      hold: present(functions.get(`hold ${t.name}`)),
      x: present(extra.get(t.x)),
      y: present(extra.get(t.y)),
      on: present(extra.get(t.on)),
      count: present(members.fields.get(t.at)),
    })),
  };

  function tetherWords({ tethers: all }: Machine) {
    return outline.cast.map((tether) => {
      const { name, most } = present(all[tether]);
      return {
        tether,
        name,
        most,
        at: present(outline.anchorPlaces[tether]),
        list: `${name} anchors`,
        x: `${name} catch x`,
        y: `${name} catch y`,
        on: `${name} catch on`,
      };
    });
  }
}

/** The crossings of a lane, by where they lead from and to. */
const wayWords = (machine: Machine, lane: number): { words: string; value: number }[] =>
  present(machine.lanes[lane]).crossings.map(({ from, to, index }) => {
    const names = from.map((s) => present(machine.states[s]).name);
    const begins = names.length === 0 ? 'everywhere' : names.length > 2 ? 'several' : names.join(' and ');
    return { words: `${begins} to ${present(machine.states[to]).name}`, value: index };
  });

/** What a crossing does, and how many states are entered or left, in the words of the moveset. */
function withoutIndexes(machine: Machine, name: string): string {
  const [, lane, index] = /^do (\d+) (\d+)$/.exec(name) ?? [];
  if (lane === undefined) return name.replace(/^step /, '').replace(/^(enter|leave) 1 /, '$1 ');
  return `on ${present(wayWords(machine, Number(lane))[Number(index)]).words}`;
}

const keyOf = (type: Type): string =>
  type.kind === 'leaf' || type.kind === 'way' ? `${type.kind} ${type.lane}` : type.kind;

function enumerationsOf(
  machine: Machine,
  { enumerator, reserved, types }: Style,
): { byType: Map<string, Enumeration>; list: Enumeration[] } {
  const all: { key: string; words: string; note: string; values: { words: string; value: number }[] }[] = [
    ...machine.lanes.map(({ index, name, initial }) => ({
      key: `leaf ${index}`,
      words: name,
      note: `The states of the lane ${name}; it begins in ${present(machine.states[initial]).name}.`,
      values: machine.states
        .filter((s) => s.lane === index && s.members.length === 0)
        .map((s) => ({ words: s.name, value: s.index })),
    })),
    ...machine.lanes.map(({ index, name }) => ({
      key: `way ${index}`,
      words: `${name} way`,
      note: `The crossings of the lane ${name}.`,
      values: [{ words: 'none', value: -1 }, ...wayWords(machine, index)],
    })),
    {
      key: 'stance',
      words: 'stance',
      note: 'The stances of the body.',
      values: machine.stances
        .map((stance, value) => ({ ...stance, value }))
        .filter(({ step }) => !step)
        .map(({ name, value }) => ({ words: name, value })),
    },
  ];
  const typeNames = namesFor(all, ({ words }) => pascal(words), new Set([...reserved, ...types]));
  const list = all.map((entry) => {
    const names = namesFor(entry.values, ({ words }) => enumerator(words), reserved);
    return {
      key: entry.key,
      name: present(typeNames.get(entry)),
      note: entry.note,
      values: entry.values.map((v) => ({ name: present(names.get(v)), value: v.value })),
    };
  });
  return { byType: new Map(list.map((e) => [e.key, e])), list };
}
