import type { LaneFile, MovesetFile, Path } from '../model/index.js';
import { type CrossingThing, crossingsOf, type Thing, type ThingKind, thingsOf } from './things.js';
import { keyOf, type Rename, renamesBetween, withRenames } from './renames.js';

/** A field that says another thing than before; undefined where it says nothing. */
export interface FieldDifference {
  field: string;
  before: string | undefined;
  after: string | undefined;
}

/** What became other in one thing of a moveset. */
export interface Difference {
  kind: ThingKind | 'crossing';
  /** The lane of a state or a crossing. */
  lane: string | undefined;
  /** What it is called now, or was at last; of a crossing its states, as `Trot → Hop`; of the moveset itself nothing. */
  name: string;
  what: 'new' | 'gone' | 'changed' | 'renamed';
  /** What it was called before. */
  was: string | undefined;
  /** What it says now and did not, where it is changed. */
  fields: FieldDifference[];
  /** Where it is in either file, in the earlier one by its new name; undefined where it is not, and for an order of things. */
  places: { before: Path | undefined; after: Path | undefined };
  /** Of an order of things: the list in the later file, and which of its items belongs at each place of the earlier order. */
  arrange?: { list: Path; order: number[] };
}

/** What became other between two movesets, and what was only renamed. */
export interface Differences {
  list: Difference[];
  renames: Rename[];
  /** The earlier moveset, with names as they are afterwards. */
  old: MovesetFile;
}

/**
 * What became other between two movesets, in the terms of the model: dials, states, crossings and so on, in the order of
 * the later file, what is gone last of its kind. What follows from a new name alone is told as the new name.
 */
export function differencesBetween(before: MovesetFile, after: MovesetFile): Differences {
  const renames = renamesBetween(before, after);
  const old = withRenames(before, renames);
  return {
    renames,
    old,
    list: [
      ...renames.map(({ kind, lane, before: was, after: name }): Difference => ({
        kind,
        lane: renames.find((r) => r.kind === 'lane' && r.before === lane)?.after ?? lane,
        name,
        what: 'renamed',
        was,
        fields: [],
        places: NOWHERE,
      })),
      ...thingDifferences(thingsOf(old), thingsOf(after)),
      ...laneOrder(old.lanes, after.lanes),
      ...after.lanes.flatMap(({ name }) =>
        crossingDifferences(crossingsIn(old, name), crossingsIn(after, name)),
      ),
    ],
  };
}

const NOWHERE: Difference['places'] = { before: undefined, after: undefined };

function crossingsIn({ lanes }: MovesetFile, name: string): CrossingThing[] {
  const at = lanes.findIndex((lane) => lane.name === name);
  return crossingsOf(name, ['lanes', at, 'crossings'], lanes[at]?.crossings ?? []);
}

function thingDifferences(old: readonly Thing[], now: readonly Thing[]): Difference[] {
  const known = new Map(old.map((thing) => [keyOf(thing), thing]));
  const seen = new Set(now.map(keyOf));
  const whole = ({ kind, lane, name, path }: Thing, what: 'new' | 'gone'): Difference => ({
    kind,
    lane,
    name,
    what,
    was: undefined,
    fields: [],
    places: what === 'new' ? { before: undefined, after: path } : { before: path, after: undefined },
  });
  return [
    ...now.flatMap((thing): Difference[] => {
      const before = known.get(keyOf(thing));
      if (before === undefined) return [whole(thing, 'new')];
      const fields = fieldDifferences(before.fields, thing.fields);
      const places = { before: before.path, after: thing.path };
      return fields.length === 0 ? [] : [{ ...whole(thing, 'new'), what: 'changed', fields, places }];
    }),
    ...old.filter((thing) => !seen.has(keyOf(thing))).map((thing) => whole(thing, 'gone')),
  ];
}

function fieldDifferences(
  before: ReadonlyMap<string, string>,
  after: ReadonlyMap<string, string>,
): FieldDifference[] {
  return [...new Set([...after.keys(), ...before.keys()])]
    .map((field) => ({ field, before: before.get(field), after: after.get(field) }))
    .filter((f) => f.before !== f.after);
}

/** Rules of motion apply in the order of the lanes. */
function laneOrder(old: readonly LaneFile[], now: readonly LaneFile[]): Difference[] {
  const both = (of: readonly LaneFile[], other: readonly LaneFile[]): string =>
    of
      .map(({ name }) => name)
      .filter((name) => other.some((l) => l.name === name))
      .join(', ');
  const [before, after] = [both(old, now), both(now, old)];
  if (before === after) return [];
  const places = now.flatMap((lane, i) => (old.some((l) => l.name === lane.name) ? [i] : []));
  const earlier = (i: number): number => old.findIndex((l) => l.name === now[i]?.name);
  return [
    {
      ...changed('moveset', '', undefined, [{ field: 'order of lanes', before, after }]),
      arrange: { list: ['lanes'], order: ordered(now.length, places, earlier) },
    },
  ];
}

/** Places of a list with those at some of them sorted anew among themselves. */
function ordered(length: number, places: readonly number[], rank: (place: number) => number): number[] {
  const sorted = [...places].sort((a, b) => rank(a) - rank(b));
  const order = Array.from({ length }, (_, i) => i);
  places.forEach((place, i) => (order[place] = sorted[i] ?? place));
  return order;
}

const changed = (
  kind: Difference['kind'],
  name: string,
  lane: string | undefined,
  fields: FieldDifference[],
  places: Difference['places'] = NOWHERE,
): Difference => ({ kind, lane, name, what: 'changed', was: undefined, fields, places });

const titleOf = ({ from, to }: CrossingThing): string => `${from} → ${to}`;

/** A crossing before and after: they are taken for the same one. */
interface Pair {
  before: CrossingThing;
  after: CrossingThing;
}

function crossingDifferences(old: readonly CrossingThing[], now: readonly CrossingThing[]): Difference[] {
  const pairs = pairsOf(old, now);
  const beforeOf = new Map(pairs.map(({ before, after }) => [after, before]));
  const kept = new Set(pairs.map(({ before }) => before));
  const lane = now[0]?.lane ?? old[0]?.lane;
  const wholly = (what: 'new' | 'gone', crossing: CrossingThing): Difference => ({
    kind: 'crossing',
    lane,
    name: titleOf(crossing),
    what,
    was: undefined,
    fields: [...crossing.fields].map(([field, text]) =>
      what === 'new' ? { field, before: undefined, after: text } : { field, before: text, after: undefined },
    ),
    places:
      what === 'new'
        ? { before: undefined, after: crossing.path }
        : { before: crossing.path, after: undefined },
  });
  return [
    ...now.flatMap((crossing): Difference[] => {
      const before = beforeOf.get(crossing);
      if (before === undefined) return [wholly('new', crossing)];
      const fields = [
        ...fieldDifferences(endsOf(before), endsOf(crossing)),
        ...fieldDifferences(before.fields, crossing.fields),
      ];
      const places = { before: before.path, after: crossing.path };
      return fields.length === 0 ? [] : [changed('crossing', titleOf(crossing), lane, fields, places)];
    }),
    ...old.filter((c) => !kept.has(c)).map((c) => wholly('gone', c)),
    ...orderOfExits(
      old,
      now,
      now.flatMap((after) => {
        const before = beforeOf.get(after);
        return before === undefined ? [] : [{ before, after }];
      }),
    ),
  ];
}

const endsOf = ({ from, to }: CrossingThing): Map<string, string> =>
  new Map([
    ['from', from],
    ['to', to],
  ]);

/** Takes crossings for the same that say the same; then what lies between the same states; then what moved one of its ends. */
function pairsOf(old: readonly CrossingThing[], now: readonly CrossingThing[]): Pair[] {
  const ways: ((c: CrossingThing) => string)[] = [
    (c) => JSON.stringify([c.from, c.to, ...c.fields]),
    titleOf,
    (c) => JSON.stringify([c.to, ...c.fields]),
    (c) => JSON.stringify([c.from, ...c.fields]),
  ];
  const pairs: Pair[] = [];
  let [open, left] = [[...now], [...old]];
  for (const way of ways) {
    const waiting = new Map<string, CrossingThing[]>();
    for (const before of left) waiting.set(way(before), [...(waiting.get(way(before)) ?? []), before]);
    const found = open.flatMap((after): Pair[] => {
      const before = waiting.get(way(after))?.shift();
      return before === undefined ? [] : [{ before, after }];
    });
    const paired = new Set(found.flatMap((pair) => [pair.before, pair.after]));
    open = open.filter((c) => !paired.has(c));
    left = left.filter((c) => !paired.has(c));
    pairs.push(...found);
  }
  return pairs;
}

/** Of crossings with the same rank out of the same state, the first in the file wins. `pairs` are in the later order. */
function orderOfExits(
  old: readonly CrossingThing[],
  now: readonly CrossingThing[],
  pairs: readonly Pair[],
): Difference[] {
  const exits = new Map<string, { state: string; pairs: Pair[] }>();
  for (const pair of pairs) {
    const earlier = new Set(exitsOf(pair.before));
    for (const exit of exitsOf(pair.after).filter((e) => earlier.has(e))) {
      const [state = ''] = exit.split('\n');
      exits.set(exit, { state, pairs: [...(exits.get(exit)?.pairs ?? []), pair] });
    }
  }
  const place = new Map(old.map((crossing, i) => [crossing, i]));
  const placeOf = ({ before }: Pair): number => place.get(before) ?? 0;
  return [...exits.values()].flatMap(({ state, pairs: later }): Difference[] => {
    const earlier = [...later].sort((a, b) => placeOf(a) - placeOf(b));
    if (earlier.every((pair, i) => pair === later[i])) return [];
    const names = (list: readonly Pair[]): string => list.map(({ after }) => after.to).join(', ');
    const fields = [{ field: 'order of its crossings to', before: names(earlier), after: names(later) }];
    const places = later.map(({ after }) => now.indexOf(after));
    const rank = (at: number): number => earlier.findIndex(({ after }) => after === now[at]);
    return [
      {
        ...changed('state', state, later[0]?.after.lane, fields),
        arrange: {
          list: later[0]?.after.path.slice(0, -1) ?? [],
          order: ordered(now.length, places, rank),
        },
      },
    ];
  });
}

/** The states that a crossing leaves, each with the rank that it has there. */
const exitsOf = ({ from, fields }: CrossingThing): string[] =>
  from.split(', ').map((state) => `${state}\n${fields.get('rank') ?? '0'}`);
