import { present } from '../../present.js';
import { leafFrom, leavesOf, type Machine } from '../../machine/index.js';
import { explain, print, type Term } from '../../notation/index.js';
import { startInWords } from '../../run/index.js';
import type { Survey, Way } from '../../scout/index.js';
import type { Evidence } from '../catalogue/evidence.js';
import { type Finding, createFinding } from '../sentences/finding.js';
import { guardOrNull, placeOf, sourcesOf, targetsOf, waysIn } from '../proved/guard.js';
import { replay, witnessTape } from './witness.js';

/**
 * IN4: states that no scouting entered, and crossings into other states that it never took, with how near it came.
 * Nothing is called unreachable because a search did not get there.
 */
export function unreached(
  machine: Machine,
  surveys: readonly Survey[],
  known: readonly Finding[],
): Finding[] {
  const open = machine.lanes.flatMap((lane) =>
    lane.crossings.filter((c) =>
      surveys.every((s) => s.goals().some((g) => g.lane === lane.index && g.crossing === c.index)),
    ),
  );
  const entered = new Set(machine.lanes.flatMap((lane) => [leafFrom(machine, lane.initial)]));
  for (const survey of surveys)
    for (const { event } of survey.sightingsFrom(0)) if (event.kind === 'taken') entered.add(event.to);
  const total = surveys.reduce((n, s) => n + s.progress().situations, 0);
  const tried = { situations: total, courses: surveys.map((s) => s.course.name) };
  const isReported = (lane: string, state: string): boolean =>
    known.some((f) => f.lane === lane && f.state === state && /^IN[123]/.test(f.code));
  const states = machine.lanes.flatMap((lane) =>
    lane.states
      .filter(
        (s) =>
          leavesOf(machine, s)[0] === s &&
          !entered.has(s) &&
          !isReported(lane.name, present(machine.states[s]).name),
      )
      .map((s): Finding => {
        const { name, path } = present(machine.states[s]);
        const approaches = waysIn(machine, lane.crossings, s).map((c) =>
          nearest(machine, surveys, lane.index, c.index),
        );
        return withTape(
          createFinding({
            ...base(lane.name, name),
            crossing: null,
            path,
            evidence: { guard: '', ...tried, approaches: approaches.map((a) => a.evidence) },
          }),
          approaches,
        );
      }),
  );
  const crossings = open.flatMap((c): Finding[] => {
    const lane = present(machine.lanes[c.lane]);
    const isDead = known.some(
      (f) => f.code === 'IN5' && f.lane === lane.name && f.crossing?.index === c.index,
    );
    const sealed = known.filter((f) => /^OUT[12]$/.test(f.code) && f.lane === lane.name).map((f) => f.state);
    if (sourcesOf(machine, c).every((t) => sealed.includes(present(machine.states[t]).name))) return [];
    const isBeyond =
      targetsOf(machine, c).every((t) => !entered.has(t)) ||
      sourcesOf(machine, c).every((t) => !entered.has(t));
    if (isDead || isBeyond) return [];
    const place = placeOf(machine, c);
    const approach = nearest(machine, surveys, c.lane, c.index);
    return [
      withTape(
        createFinding({
          ...base(lane.name, place.to),
          crossing: place,
          path: c.path,
          evidence: { guard: guardOrNull(c) ?? 'always', ...tried, approaches: [approach.evidence] },
        }),
        [approach],
      ),
    ];
  });
  return [...states, ...crossings];
}

const base = (lane: string, state: string) => ({
  code: 'IN4' as const,
  certainty: 'suspected' as const,
  lane,
  state,
  witness: null,
});

/** How near a crossing came to being taken: what was missing then, and the way there when there is one. */
interface Approach {
  evidence: Evidence['IN4']['approaches'][number];
  distance: number;
  found: { survey: Survey; way: Way } | undefined;
}

function nearest(machine: Machine, surveys: readonly Survey[], lane: number, index: number): Approach {
  const found = surveys
    .flatMap((survey) => survey.approaches().map((a) => ({ survey, ...a })))
    .filter((a) => a.lane === lane && a.crossing === index)
    .sort((a, b) => a.distance - b.distance)[0];
  const crossing = present(present(machine.lanes[lane]).crossings[index]);
  const { from, to } = placeOf(machine, crossing);
  if (found === undefined) return { evidence: { from, to, nearest: null }, distance: Infinity, found };
  const { survey, way, distance } = found;
  // One tick more: what the lanes decide on once the state was entered, and not what they entered it on.
  const held = way.inputs.at(-1) ?? machine.controls.map(() => 0);
  const last = replay(survey, way.start, [...way.inputs, held]).at(-1);
  const missing =
    last === undefined || crossing.when === undefined ? [] : failing(explain(crossing.when, last.facts));
  const start = startInWords(present(survey.starts[way.start]).from);
  return { evidence: { from, to, nearest: { ticks: way.inputs.length, start, missing } }, distance, found };
}

/** A finding with the tape of the nearest of some approaches, when one of them has a way. */
function withTape(finding: Finding, approaches: readonly Approach[]): Finding {
  const [best] = [...approaches].sort((a, b) => a.distance - b.distance);
  if (best?.found === undefined || best.found.way.inputs.length === 0) return finding;
  const { survey, way } = best.found;
  const tick = way.inputs.length - 1;
  const tape = `Nearest to ${finding.state}`;
  return {
    ...finding,
    witness: { tape, tick, text: witnessTape(survey, way, tape, finding.sentence, tick) },
  };
}

/** The innermost terms that keep a guard from holding. */
function failing(term: Term): string[] {
  if (term.value !== 0) return [];
  const { expression } = term;
  if (expression.kind === 'logic' && expression.op === 'and') return term.parts.flatMap(failing);
  return [print(expression.syntax)];
}
