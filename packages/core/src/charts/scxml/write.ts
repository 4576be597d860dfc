import { type LaneFile, type MovesetFile, slugOf, type StateFile } from '../../model/index.js';
import { attribute, element, entryLines, escaped, OURS, SCXML } from './values.js';

/**
 * A moveset as a chart in SCXML (W3C): lanes are the regions of a `parallel`, groups are compound states, `resume` is a
 * `history`, guards are `cond` in our notation. What a chart cannot say stands in a namespace of ours, so that nothing is
 * lost: reading the chart gives the same moveset.
 */
export function scxmlOf(file: MovesetFile): string {
  const { lanes, ...rest } = file;
  const attributes = [
    attribute('xmlns', SCXML),
    attribute('xmlns:gm', OURS),
    attribute('version', '1.0'),
    attribute('name', slugOf(file.name)),
    attribute('datamodel', 'glenmark'),
  ].join('');
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    ...element('scxml', attributes, [
      ...element('gm:moveset', '', entryLines(rest)),
      ...element('parallel', attribute('id', 'all.lanes'), lanes.flatMap(laneLines)),
    ]),
    '',
  ].join('\n');
}

/** The state of a group that its `history` goes back to; no name of ours has a point in it. */
export const historyOf = (group: string): string => `${group}.last`;

interface Way {
  crossing: NonNullable<LaneFile['crossings']>[number];
  index: number;
  /** Where in its list of froms the state stands that it is written in. */
  at: number;
}

function laneLines(lane: LaneFile): string[] {
  const { name, initial, states, crossings, ...rest } = lane;
  const groups = new Set(groupsIn(states));
  const ways = new Map<string, Way[]>();
  crossings?.forEach((crossing, index) =>
    [crossing.from].flat().forEach((from, at) => {
      ways.set(from, [...(ways.get(from) ?? []), { crossing, index, at }]);
    }),
  );
  const attributes =
    attribute('id', `lane.${name}`) + attribute('initial', initial) + attribute('gm:lane', name);
  return element('state', attributes, [
    ...moreLines({ ...rest, ...(crossings?.length === 0 ? { crossings } : {}) }),
    ...(ways.get('*') ?? []).flatMap((way) => transitionLines(way, groups)),
    ...Object.entries(states).flatMap(([state, said]) => stateLines(state, said, ways, groups)),
  ]);
}

/** The groups with a `history`. */
const groupsIn = (states: Record<string, StateFile>): string[] =>
  Object.entries(states).flatMap(([name, { resume, states: inner }]) => [
    ...(resume === undefined ? [] : [name]),
    ...groupsIn(inner ?? {}),
  ]);

/** Fields that are attributes of ours where they are one word. */
const WORDS = ['stance', 'ifBlocked', 'ability', 'tag', 'without'] as const;

function stateLines(
  name: string,
  said: StateFile,
  ways: ReadonlyMap<string, readonly Way[]>,
  groups: ReadonlySet<string>,
): string[] {
  const { enter, exit, initial, states, resume, home, passing, final, ...rest } = said;
  const own = ways.get(name) ?? [];
  // A final state of the W3C has no way out.
  const isFinal = final === true && states === undefined && own.length === 0;
  const words = WORDS.flatMap((key) => (typeof rest[key] === 'string' ? [[key, rest[key]] as const] : []));
  const more = {
    ...Object.fromEntries(Object.entries(rest).filter(([key]) => !words.some(([word]) => word === key))),
    ...(enter?.length === 0 ? { enter } : {}),
    ...(exit?.length === 0 ? { exit } : {}),
    ...(home === false ? { home } : {}),
    ...(passing === false ? { passing } : {}),
    ...(final === undefined || isFinal ? {} : { final }),
    ...(initial !== undefined && states === undefined ? { initial } : {}),
    ...(resume !== undefined && states === undefined ? { resume } : {}),
  };
  const attributes = [
    attribute('id', name),
    states === undefined ? '' : attribute('initial', initial),
    home === true ? attribute('gm:home', 'true') : '',
    passing === true ? attribute('gm:passing', 'true') : '',
    ...words.map(([key, word]) => attribute(`gm:${key}`, word)),
  ].join('');
  return element(isFinal ? 'final' : 'state', attributes, [
    ...moreLines(more),
    ...effectLines('onentry', '', enter),
    ...effectLines('onexit', '', exit),
    ...own.flatMap((way) => transitionLines(way, groups)),
    ...(resume === undefined || states === undefined
      ? []
      : element('history', attribute('id', historyOf(name)) + attribute('type', 'deep'), [
          `<transition target="${initial ?? Object.keys(states)[0] ?? ''}"/>`,
        ])),
    ...Object.entries(states ?? {}).flatMap(([inner, file]) => stateLines(inner, file, ways, groups)),
  ]);
}

const moreLines = (more: object): string[] =>
  Object.keys(more).length === 0 ? [] : element('gm:more', '', entryLines(more));

function transitionLines({ crossing, index, at }: Way, groups: ReadonlySet<string>): string[] {
  const { from, to, when, do: effects, rank, ability, reenter, note, ...rest } = crossing;
  const more = {
    ...rest,
    ...(when === undefined || typeof when === 'string' ? {} : { when }),
    ...(effects?.length === 0 ? { do: effects } : {}),
    ...(reenter === false ? { reenter } : {}),
  };
  const attributes = [
    attribute('target', groups.has(to) ? historyOf(to) : to),
    attribute('cond', typeof when === 'string' ? when : undefined),
    attribute('gm:index', String(index)),
    Array.isArray(from) ? attribute('gm:at', String(at)) : '',
    attribute('gm:rank', rank === undefined ? undefined : String(rank)),
    attribute('gm:ability', ability),
    reenter === true ? attribute('gm:reenter', 'true') : '',
    attribute('gm:note', note),
  ].join('');
  // What several states have in common is said once.
  return at > 0
    ? [`<transition${attributes}/>`]
    : effectLines(
        'transition',
        attributes,
        effects?.length === 0 ? undefined : effects,
        moreLines(more),
        true,
      );
}

/** Effects in the element that they belong to; one that is no list is marked so. */
function effectLines(
  name: string,
  attributes: string,
  effects: string | readonly string[] | undefined,
  before: readonly string[] = [],
  always = false,
): string[] {
  const list = [effects ?? []].flat();
  if (list.length === 0 && before.length === 0 && !always) return [];
  const single = typeof effects === 'string' ? attribute('gm:single', 'true') : '';
  return element(name, attributes + single, [...before, ...list.map(effectLine)]);
}

function effectLine(text: string): string {
  const [, location, expr] = /^([A-Za-z_]\w*) := (\S.*)$/s.exec(text) ?? [];
  if (location !== undefined) return `<assign${attribute('location', location)}${attribute('expr', expr)}/>`;
  const [, event] = /^raise ([A-Za-z_]\w*)$/.exec(text) ?? [];
  return event === undefined ? `<gm:do>${escaped(text)}</gm:do>` : `<raise${attribute('event', event)}/>`;
}
