import {
  accepting,
  type Finding,
  type FindingOf,
  findingSchema,
  proveAll,
  regionOf,
  scoutAll,
  signsIn,
  sliceOf,
  sourcesOf,
} from '@glenmark/core/findings';
import { chainOf, isWithin, type Machine, MAX_PASSING, readMoveset } from '@glenmark/core/machine';
import { evaluate, type Expression, print } from '@glenmark/core/notation';
import { play, readTape, runTape, type TickRecord } from '@glenmark/core/run';
import { createRandom } from '@glenmark/core/scout';
import { buildWorld, type Course, readCourse } from '@glenmark/core/world';
import type { RandomCase } from './random-moveset.js';

/** How large the skeletons may be. */
const PRODUCT = 600;

/** What was looked at. */
export interface Looked {
  proved: number;
  witnessed: number;
  ticks: number;
}

/**
 * Plays a random moveset and says what of its findings turns out to be wrong: something proved that a run shows to be
 * otherwise, or, when it is scouted too, something witnessed that its tape does not show. Undefined when nothing does.
 */
export async function wrongIn(
  { moveset, course: courseText, inputs }: RandomCase,
  seed: number,
  looked: Looked,
  scouts: boolean,
): Promise<string | undefined> {
  const { machine } = readMoveset(moveset);
  const { course } = readCourse(courseText);
  if (machine === undefined || course === undefined) return 'the case does not load';
  const { findings, traps } = proveAll(machine, { product: PRODUCT, situations: 1000, steps: 20_000 });
  const proved = findings.filter((f) => f.certainty === 'proved');
  looked.proved += proved.length;
  for (const finding of findings) {
    const { success } = findingSchema.safeParse(JSON.parse(JSON.stringify(finding)));
    if (!success) return `${finding.code} “${finding.sentence}” does not travel`;
  }
  for (const records of playsOf(machine, course, inputs, seed)) {
    looked.ticks += records.length;
    for (const finding of proved) {
      const wrong = denied(machine, finding, records);
      if (wrong !== undefined) return `${finding.code} “${finding.sentence}”: ${wrong}`;
    }
  }
  if (!scouts) return undefined;
  const scouting = await scoutAll(machine, [course], { findings, traps }, { seed, situations: 150 });
  for (const finding of accepting(machine, scouting.findings)) {
    if (!findingSchema.safeParse(JSON.parse(JSON.stringify(finding))).success)
      return `${finding.code} “${finding.sentence}” does not travel`;
    if (finding.certainty !== 'witnessed') continue;
    looked.witnessed++;
    const wrong = unseen(machine, course, finding);
    if (wrong !== undefined) return `${finding.code} “${finding.sentence}”: ${wrong}`;
  }
  return undefined;
}

/** The given play, and two at random. */
function* playsOf(
  machine: Machine,
  course: Course,
  inputs: number[][],
  seed: number,
): Generator<readonly TickRecord[]> {
  const world = buildWorld(course, machine.stances, machine.casts);
  const random = createRandom(seed);
  const atRandom = (): number[][] => {
    let now = machine.controls.map(() => 0);
    return Array.from({ length: 150 }, () => {
      if (random(3) === 0)
        now = machine.controls.map(({ kind }, c) =>
          random(2) === 0
            ? now[c]!
            : kind === 'axis'
              ? random(3) - 1
              : kind === 'aim'
                ? random(8) * 45 - 180
                : random(2),
        );
      return now;
    });
  };
  for (const list of [inputs, atRandom(), atRandom()])
    yield play(machine, world, course.spawns[0]!, list).records;
}

/** What a run shows against something that is proved; undefined when nothing does. */
function denied(machine: Machine, finding: Finding, records: readonly TickRecord[]): string | undefined {
  const lane = machine.lanes.find((l) => l.name === finding.lane);
  const state = machine.states.find((s) => s.name === finding.state)?.index ?? -1;
  const taken = records.flatMap((r) => r.taken.map((t) => ({ ...t, tick: r.tick })));
  const at = (tick: number | undefined, what: string): string | undefined =>
    tick === undefined ? undefined : `at tick ${tick} ${what}`;
  switch (finding.code) {
    case 'IN1':
    case 'IN2':
    case 'IN3':
      return at(taken.find((t) => isWithin(machine, t.to, state))?.tick, 'it was entered');
    case 'IN5':
      return at(
        taken.find((t) => t.lane === lane!.index && t.crossing.index === finding.crossing!.index)?.tick,
        'it was taken',
      );
    case 'OUT1':
    case 'OUT2':
      return at(taken.find((t) => t.from === state && t.to !== state)?.tick, 'it was left');
    case 'OUT5': {
      const { thing, end } = finding.evidence;
      const index = machine.variables.findIndex((v) => v.name === thing);
      const digit = sliceOf(machine, lane!.index, PRODUCT).digits.find((d) => d.name === thing);
      const timer = machine.timers.findIndex((t) => t.name === thing);
      const isEnd = ({ variables, timers }: TickRecord): boolean => {
        if (end.kind === 'timer') return Math.sign(timers[timer]!) === [-1, 1, 0][end.value];
        const value = variables[index]!;
        if (end.kind === 'number') return regionOf(digit?.cuts ?? [], value) === end.value;
        return end.orMore === true ? value >= end.value : value === end.value;
      };
      const used = records.findIndex(isEnd);
      const again = taken.find(
        (t) =>
          used >= 0 &&
          t.tick > records[used]!.tick &&
          t.lane === lane!.index &&
          t.crossing.index === finding.crossing!.index,
      );
      return at(again?.tick, 'the crossing was taken again');
    }
    case 'AG5': {
      const entered = records.find((r) => {
        const own = r.taken.filter((t) => t.lane === lane!.index);
        return own.some((t) => t.to === state) && own.length < MAX_PASSING;
      });
      return at(entered?.tick, 'the lane did not go round');
    }
    case 'OUT4':
      return lostHome(machine, finding, records, at);
    case 'TD6':
      return deadBranch(machine, finding, records, at);
    case 'TD4':
    case 'TD5':
      return redundant(machine, finding, records, at);
    default:
      return undefined;
  }
}

type At = (tick: number | undefined, what: string) => string | undefined;

/** After the first of the states that a home is lost from, no home of the lane is active again. */
function lostHome(
  machine: Machine,
  { state, lane, evidence }: FindingOf<'OUT4'>,
  records: readonly TickRecord[],
  at: At,
) {
  if (evidence.kind !== 'home') return undefined;
  const index = machine.lanes.find((l) => l.name === lane)!.index;
  const isHome = (leaf: number): boolean => chainOf(machine, leaf).some((s) => machine.states[s]!.home);
  const [by] = evidence.values;
  const variable = machine.variables.findIndex((v) => v.name === by?.name);
  const lost = records.findIndex((r) =>
    by === undefined
      ? machine.states[r.leaves[index]!]!.name === state
      : by.kind !== 'number' && by.orMore !== true && r.variables[variable] === by.value,
  );
  return at(
    lost < 0 ? undefined : records.slice(lost).find((r) => isHome(r.leaves[index]!))?.tick,
    'home was reached',
  );
}

/** The crossing of a finding, and the records of the ticks in which its lane decided on it. */
function decidedOn(machine: Machine, { lane, crossing }: Finding, records: readonly TickRecord[]) {
  const index = machine.lanes.find((l) => l.name === lane)!.index;
  const own = machine.lanes[index]!.crossings[crossing!.index]!;
  const sources = sourcesOf(machine, own);
  return { own, ticks: records.filter((r) => sources.includes(r.leavesBefore[index]!)) };
}

function deadBranch(machine: Machine, finding: Finding, records: readonly TickRecord[], at: At) {
  const { own, ticks } = decidedOn(machine, finding, records);
  const text = finding.sentence.slice(1, finding.sentence.indexOf('`', 1));
  const parts = partsNamed(own.when!, text);
  const shown = ticks.find((r) => parts.some((part) => evaluate(part, r.facts) !== 0));
  return at(shown?.tick, 'it held');
}

function redundant(machine: Machine, finding: Finding, records: readonly TickRecord[], at: At) {
  const { own, ticks } = decidedOn(machine, finding, records);
  if (finding.code === 'TD4') {
    const twins = machine.lanes[own.lane]!.crossings.filter(
      (c) => c !== own && c.to === own.to && String(c.from) === String(own.from),
    );
    const differs = (r: TickRecord): boolean => twins.every((c) => holds(c.when, r) !== holds(own.when, r));
    return at(twins.length === 0 ? undefined : ticks.find(differs)?.tick, 'the two differed');
  }
  const text = /`(.*)`/.exec(finding.sentence)![1]!;
  const terms = own.when!.kind === 'logic' ? own.when!.parts : [];
  const term = terms.find((part) => print(part.syntax) === text);
  const others = terms.filter((part) => part !== term);
  const shown = ticks.find(
    (r) => others.every((part) => holds(part, r)) && term !== undefined && !holds(term, r),
  );
  return at(shown?.tick, 'the others held without it');
}

const holds = (e: Expression | undefined, r: TickRecord): boolean =>
  e === undefined || evaluate(e, r.facts) !== 0;

function partsNamed(e: Expression, text: string): Expression[] {
  const found: Expression[] = [];
  const look = (part: Expression): void => {
    if (print(part.syntax) === text && part.dimension.truth) found.push(part);
    if (part.kind === 'logic') part.parts.forEach(look);
    else if (part.kind === 'choice') [part.when, part.then, part.otherwise].forEach(look);
    else if (part.kind === 'not' || part.kind === 'memory') look(part.of);
  };
  look(e);
  return found;
}

/** What a witness says that its tape does not show, on the reference machine; undefined when it shows it. */
function unseen(machine: Machine, course: Course, finding: Finding): string | undefined {
  const { tape } = readTape(finding.witness!.text!);
  if (tape === undefined) return 'its tape does not load';
  const { session, diagnostics } = runTape(machine, course, tape);
  if (session === undefined) return `its tape does not run: ${diagnostics.map((d) => d.message).join()}`;
  const failed = session.expectations.find((e) => !e.passed);
  if (failed !== undefined) return `its tape expects ${failed.text}, which fails`;
  // Traps and lost controls are about what cannot follow; the tape shows the way there.
  if (finding.code.startsWith('OUT')) return undefined;
  const seen = signsIn(machine, session.trace.records).find(
    (s) => s.finding.fingerprint === finding.fingerprint,
  );
  if (seen === undefined) return 'its tape does not show it';
  return seen.tick === finding.witness!.tick ? undefined : `its tape shows it at tick ${seen.tick}`;
}
