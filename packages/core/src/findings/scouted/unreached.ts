import { leafFrom, leavesOf, type Machine } from '../../machine/index.js';
import { explain, print, type Term } from '../../notation/index.js';
import { startInWords } from '../../run/index.js';
import type { Scout, Way } from '../../scout/index.js';
import type { Finding } from '../catalogue.js';
import { placeOf, sourcesOf, targetsOf, waysIn } from '../guard.js';
import { replay, witnessTape } from './witness.js';

/**
 * IN4: states that no scouting entered, and crossings into other states that it never took, with how near it came.
 * Nothing is called unreachable because a search did not get there.
 */
export function unreached(machine: Machine, scouts: readonly Scout[], told: readonly Finding[]): Finding[] {
  const open = machine.lanes.flatMap((lane) =>
    lane.crossings.filter((c) =>
      scouts.every((s) => s.goals().some((g) => g.lane === lane.index && g.crossing === c.index)),
    ),
  );
  const entered = new Set(machine.lanes.flatMap((lane) => [leafFrom(machine, lane.initial)]));
  for (const scout of scouts)
    for (const { event } of scout.sightingsFrom(0)) if (event.kind === 'taken') entered.add(event.to);
  const total = scouts.reduce((n, s) => n + s.progress().situations, 0);
  const tried = `${total.toLocaleString('en')} situations on ${scouts.map((s) => s.course.name).join(', ')}`;
  const isTold = (lane: string, state: string): boolean =>
    told.some((f) => f.lane === lane && f.state === state && /^IN[123]/.test(f.code));
  const states = machine.lanes.flatMap((lane) =>
    lane.states
      .filter(
        (s) =>
          leavesOf(machine, s)[0] === s && !entered.has(s) && !isTold(lane.name, machine.states[s]!.name),
      )
      .map((s): Finding => {
        const { name, path } = machine.states[s]!;
        const ways = waysIn(machine, lane.crossings, s);
        const sentence = `${name} was not reached in ${tried}.`;
        const approaches = ways.map((c) => nearest(machine, scouts, lane.index, c.index));
        return {
          ...base(lane.name, name),
          crossing: null,
          sentence,
          reason: approaches.map((a) => a.line),
          witness: tapeOf(approaches, name, sentence),
          path,
          fingerprint: `IN4/${lane.name}/${name}`,
        };
      }),
  );
  const crossings = open.flatMap((c): Finding[] => {
    const lane = machine.lanes[c.lane]!;
    const isDead = told.some(
      (f) => f.code === 'IN5' && f.lane === lane.name && f.crossing?.index === c.index,
    );
    const sealed = told.filter((f) => /^OUT[12]$/.test(f.code) && f.lane === lane.name).map((f) => f.state);
    if (sourcesOf(machine, c).every((t) => sealed.includes(machine.states[t]!.name))) return [];
    const isBeyond =
      targetsOf(machine, c).every((t) => !entered.has(t)) ||
      sourcesOf(machine, c).every((t) => !entered.has(t));
    if (isDead || isBeyond) return [];
    const place = placeOf(machine, c);
    const guard = c.when === undefined ? 'always' : print(c.when.syntax);
    const sentence = `The crossing from ${place.from} to ${place.to} was not taken in ${tried}.`;
    const approach = nearest(machine, scouts, c.lane, c.index);
    return [
      {
        ...base(lane.name, place.to),
        crossing: place,
        sentence,
        reason: [approach.line],
        witness: tapeOf([approach], place.to, sentence),
        path: c.path,
        fingerprint: `IN4/${lane.name}/${place.from}>${place.to}/${guard}`,
      },
    ];
  });
  return [...states, ...crossings];
}

const base = (lane: string, state: string) => ({
  code: 'IN4' as const,
  certainty: 'suspected' as const,
  lane,
  state,
});

/** How near a crossing came to being taken: a line of what was missing then, and the way there when there is one. */
interface Approach {
  line: string;
  distance: number;
  found: { scout: Scout; way: Way } | undefined;
}

function nearest(machine: Machine, scouts: readonly Scout[], lane: number, index: number): Approach {
  const found = scouts
    .flatMap((scout) => scout.approaches().map((a) => ({ scout, ...a })))
    .filter((a) => a.lane === lane && a.crossing === index)
    .sort((a, b) => a.distance - b.distance)[0];
  const crossing = machine.lanes[lane]!.crossings[index]!;
  const { from, to } = placeOf(machine, crossing);
  const distance = found?.distance ?? Infinity;
  const told = (line: string): Approach => ({ line: `${from} → ${to}: ${line}`, distance, found });
  if (found === undefined) return told(`${from} itself was never entered.`);
  const records = replay(found.scout, found.way.start, found.way.inputs);
  const last = records[records.length - 1];
  if (last === undefined || crossing.when === undefined) return told('it was never open.');
  const missing = failing(explain(crossing.when, last.facts));
  const where = `after ${records.length} ticks from ${startInWords(found.scout.starts[found.way.start]!.from)}`;
  return told(
    missing.length === 0
      ? `its guard held ${where}, but the crossing was refused or another came first.`
      : `nearest ${where}; missing was ${missing.map((m) => `\`${m}\``).join(' and ')}.`,
  );
}

/** The tape of the nearest of some approaches, when one of them has a way. */
function tapeOf(approaches: readonly Approach[], state: string, sentence: string): Finding['witness'] {
  const [best] = [...approaches].sort((a, b) => a.distance - b.distance);
  if (best?.found === undefined || best.found.way.inputs.length === 0) return null;
  const { scout, way } = best.found;
  const tick = way.inputs.length - 1;
  const tape = `Nearest to ${state}`;
  return { tape, tick, text: witnessTape(scout, way, tape, sentence, tick) };
}

/** The innermost terms that keep a guard from holding. */
function failing(term: Term): string[] {
  if (term.value !== 0) return [];
  const { expression } = term;
  if (expression.kind === 'logic' && expression.op === 'and') return term.parts.flatMap(failing);
  return [print(expression.syntax)];
}
