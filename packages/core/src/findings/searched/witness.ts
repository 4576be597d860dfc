import { present } from '../../present.js';
import { step, startFast, type Fast } from '../../machine/index.js';
import { play, recordsFast, tapeText, type TickRecord } from '../../run/index.js';
import { type Survey, shrink, type Way } from '../../scout/index.js';
import type { Finding } from '../sentences/finding.js';
import { type Sign, signsIn, witnessedBy } from '../witnessed/index.js';

/** Ticks that shrinking one witness may cost. */
const TICKS = 20_000;

/** Plays inputs from one of a survey's starts on the reference machine. */
export const replay = (survey: Survey, start: number, inputs: readonly (readonly number[])[]): TickRecord[] =>
  play(survey.machine, survey.fast.world, present(survey.starts[start]), inputs).records;

/** The first tick in which something is seen on the fast machine, or −1. */
export function firstTick(
  { fast, starts }: Pick<Survey, 'fast' | 'starts'>,
  start: number,
  inputs: readonly (readonly number[])[],
  isSeen: (fast: Fast, s: Float64Array) => boolean,
): number {
  const s = startFast(fast, present(starts[start]));
  for (let t = 0; t < inputs.length; t++) {
    step(fast, s, present(inputs[t]));
    if (isSeen(fast, s)) return t;
  }
  return -1;
}

/** A way cut down while something is still seen on the fast machine. */
export const shrunk = (
  survey: Survey,
  { start, inputs }: Way,
  isSeen: (fast: Fast, s: Float64Array) => boolean,
): Way => ({
  start,
  inputs: shrink(inputs, (candidate) => firstTick(survey, start, candidate, isSeen)),
});

/**
 * Signs of faults on a way, as findings with the shortest tape known: cut down while it still shows the same fault, and then
 * replayed on the reference machine. `isNew` says which faults are worth it.
 */
export function witnesses(survey: Survey, way: Way, isNew: (sign: Sign) => boolean): Finding[] {
  const { machine } = survey;
  const at = present(survey.starts[way.start]);
  return signsIn(machine, recordsFast(survey.recording, at, way.inputs))
    .filter(isNew)
    .flatMap((sign): Finding[] => {
      const { code, state, sentence, fingerprint } = sign.finding;
      const isSame = (other: Sign): boolean => other.finding.fingerprint === fingerprint;
      const find = (inputs: readonly (readonly number[])[]): Sign | undefined =>
        signsIn(machine, recordsFast(survey.recording, at, inputs)).find(isSame);
      let spent = 0;
      const inputs = shrink(way.inputs.slice(0, sign.tick + 1), (candidate) => {
        spent += candidate.length;
        return spent > TICKS ? -1 : (find(candidate)?.tick ?? -1);
      });
      // What is shown has been seen on the reference machine.
      const seen = signsIn(machine, replay(survey, way.start, inputs)).find(isSame);
      if (seen === undefined) return [];
      const tape = `${code} ${state}`;
      const text = witnessTape(survey, { start: way.start, inputs }, tape, sentence, seen.tick);
      return [witnessedBy(seen, { tape, text })];
    });
}

/** A tape file that shows what a finding says; it expects the states that its last tick ends in. */
export function witnessTape(
  survey: Survey,
  { start, inputs }: Way,
  name: string,
  note: string,
  tick: number,
): string {
  const { machine, course } = survey;
  const at = present(survey.starts[start]);
  const spawn = course.spawns.find((s) => 'spawn' in at.from && s.name === at.from.spawn);
  const records = replay(survey, start, inputs);
  const last = records[records.length - 1];
  const ends = last?.leaves.map((leaf) => `in ${present(machine.states[leaf]).name}`).join(' and ');
  return tapeText(machine, {
    name,
    moveset: machine.name,
    course: course.name,
    start: at.from,
    facing: spawn?.facing === at.facing ? undefined : at.facing,
    inputs,
    expect: ends === undefined ? [] : [`at end ${ends}`],
    note: `${note} (tick ${tick})`,
  });
}

/** The leaf that a lane is in, as the survey sees it. */
export const leafOf = ({ layout }: Fast, s: Float64Array, lane: number): number =>
  present(s[layout.leaves + lane]);
