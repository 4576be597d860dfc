import { leafFrom, type Machine } from '../../machine/index.js';
import { createScout, type Goal, type Outcome, type Scout, type Task } from '../../scout/index.js';
import type { Course } from '../../world/index.js';
import type { Finding } from '../catalogue.js';
import type { Sign } from '../runs/index.js';
import { projectionOf, type Trap } from '../skeleton/index.js';
import { withTails } from './tails.js';
import { unreached } from './unreached.js';
import { crossingName, shrunk, witnesses, witnessTape } from './witness.js';
import { confirmTraps } from './traps.js';

/** Rounds with hardly anything new after which there is nothing left to find, and how much is hardly anything. */
const EXHAUSTED = 60;
const FEW = 4;

export interface ScoutingOptions {
  seed: number;
  /** New situations over all courses together, and at most so many milliseconds. */
  situations: number;
  time?: number;
  /** Called after every few rounds. */
  progress?: (report: ScoutingProgress) => void;
  now?: () => number;
  /** Expands tasks elsewhere: in worker threads. By default it is done here. */
  expand?: (course: number, tasks: readonly Task[], goals: readonly Goal[]) => Promise<Outcome[][]>;
}

export interface ScoutingProgress {
  course: string;
  situations: number;
  of: number;
  ticks: number;
  taken: number;
  crossings: number;
  /** What was used so far; worked out when it is asked for. */
  coverage: () => ScoutingReport['coverage'];
}

export interface ScoutingReport {
  findings: Finding[];
  situations: number;
  ticks: number;
  /** States and crossings that the scouting used, by lane and name. */
  coverage: { states: string[]; crossings: string[]; ofStates: number; ofCrossings: number };
}

/**
 * Scouts a moveset on courses and says what was seen: ties, lost writes, traps and hazards with their shortest tapes,
 * and what was not reached. `told` are the findings known before; `traps` what the skeleton suspects.
 */
export async function scoutAll(
  machine: Machine,
  courses: readonly Course[],
  told: readonly Finding[],
  traps: readonly Trap[],
  options: ScoutingOptions,
): Promise<ScoutingReport> {
  const now = options.now ?? Date.now;
  const until = now() + (options.time ?? Infinity);
  const dead = new Set(
    told.flatMap((f) =>
      f.code === 'IN5' && f.crossing !== null
        ? [`${machine.lanes.findIndex((l) => l.name === f.lane)} ${f.crossing.index}`]
        : [],
    ),
  );
  const sprung: Sprung[] = [];
  const scouts = courses.map((course) => {
    const scout = createScout(machine, course, { seed: options.seed, dead });
    watchTraps(scout, traps, sprung);
    return scout;
  });
  const total = (): number => scouts.reduce((n, s) => n + s.progress().situations, 0);
  for (const [i, scout] of scouts.entries()) {
    const share = (options.situations * (i + 1)) / scouts.length;
    let idle = 0;
    let last = 0;
    // A small moveset on a small course is exhausted before the budget is.
    for (let round = 0; total() < share && now() < until && idle < EXHAUSTED; round++) {
      if (options.expand === undefined) scout.round();
      else {
        const tasks = scout.draw();
        scout.merge(tasks, await options.expand(i, tasks, scout.goals()));
      }
      const { situations, ticks, taken, crossings } = scout.progress();
      idle = situations > last + FEW ? 0 : idle + 1;
      last = situations;
      if (round % 8 === 0)
        options.progress?.({
          course: scout.course.name,
          situations,
          of: share,
          ticks,
          taken,
          crossings,
          coverage: () => coverageOf(machine, scouts),
        });
    }
  }
  const findings: Finding[] = [...sprung.map(trapFinding)];
  const add = (more: readonly Finding[]): void => {
    for (const f of more)
      if (!findings.some((known) => known.fingerprint === f.fingerprint)) findings.push(f);
  };
  const isNew = (sign: Sign): boolean =>
    !told.some((f) => f.fingerprint === sign.fingerprint && f.certainty !== 'suspected') &&
    !findings.some((f) => f.fingerprint === sign.fingerprint);
  for (const scout of scouts) {
    const sightings = scout.sightings();
    for (const { event, way } of sightings) if (event.kind !== 'taken') add(witnesses(scout, way, isNew));
    for (const { event, way } of sightings) {
      if (event.kind !== 'taken') continue;
      add(witnesses(scout, way, isNew));
      const short = shrunk(scout, way, (fast) =>
        takes(fast.taken, fast.takenCount, event.lane, event.crossing),
      );
      for (const tail of withTails(machine, short)) add(witnesses(scout, tail, isNew));
    }
    add(confirmTraps(scout, [...told, ...findings]));
  }
  return {
    findings: [...findings, ...unreached(machine, scouts, [...told, ...findings])],
    situations: total(),
    ticks: scouts.reduce((n, s) => n + s.progress().ticks, 0),
    coverage: coverageOf(machine, scouts),
  };
}

function takes(taken: readonly number[], count: number, lane: number, crossing: number): boolean {
  for (let i = 0; i < 4 * count; i += 4) if (taken[i] === lane && taken[i + 1] === crossing) return true;
  return false;
}

interface Sprung {
  scout: Scout;
  trap: Trap;
  inputs: number[][];
  start: number;
}

/** Notes the first way into each trap that the skeleton suspects. */
function watchTraps(scout: Scout, traps: readonly Trap[], sprung: Sprung[]): void {
  for (const trap of traps) {
    const project = projectionOf(trap.skeleton.slice.digits, scout.fast.layout);
    const values: number[] = [];
    scout.watch((s, wayThere) => {
      if (sprung.some((known) => known.trap === trap)) return;
      project(s, values);
      const place = trap.skeleton.find(values);
      if (place !== undefined && trap.places.has(place)) sprung.push({ scout, trap, ...wayThere() });
    });
  }
}

/** A trap that a way leads into: what leads out is ruled out by the skeleton, whatever is pressed. */
function trapFinding({ scout, trap, ...way }: Sprung): Finding {
  const { finding, skeleton, places } = trap;
  const project = projectionOf(skeleton.slice.digits, scout.fast.layout);
  const values: number[] = [];
  const { start, inputs } = shrunk(scout, way, (_, s) => {
    project(s, values);
    const place = skeleton.find(values);
    return place !== undefined && places.has(place);
  });
  const tape = `${finding.code} ${finding.state}`;
  const tick = inputs.length - 1;
  return {
    ...finding,
    certainty: 'witnessed',
    sentence: finding.sentence.replace(' may become a trap', ' is a trap'),
    reason: [
      `Tape “${tape}”, tick ${tick}: from here on nothing that is pressed, on any course, leads out.`,
      ...finding.reason.slice(0, -1),
    ],
    witness: { tape, tick, text: witnessTape(scout, { start, inputs }, tape, finding.sentence, tick) },
  };
}

function coverageOf(machine: Machine, scouts: readonly Scout[]): ScoutingReport['coverage'] {
  const states = new Set<string>();
  const crossings = new Set<string>();
  for (const scout of scouts) {
    for (const { event } of scout.sightings()) {
      if (event.kind !== 'taken') continue;
      const { name } = machine.lanes[event.lane]!;
      states.add(`${name} ${machine.states[event.to]!.name}`);
      states.add(`${name} ${machine.states[event.from]!.name}`);
      crossings.add(`${name} ${crossingName(machine, event.lane, event.crossing)} #${event.crossing}`);
    }
  }
  for (const { name, initial } of machine.lanes)
    states.add(`${name} ${machine.states[leafFrom(machine, initial)]!.name}`);
  return {
    states: [...states].sort(),
    crossings: [...crossings].sort(),
    ofStates: machine.states.filter((s) => s.members.length === 0).length,
    ofCrossings: machine.lanes.reduce((n, l) => n + l.crossings.length, 0),
  };
}
