import { exitsOf, type Machine, type Taken, wayBetween } from '../../machine/index.js';
import { type FactName, factsIn } from '../../notation/index.js';
import { type Detector, once, type Sign } from './sign.js';

/** AG6: a timer that one lane started, and whose end its state waits for, is started again by another lane. */
export const clockFight: Detector = (machine, records) => {
  const signs: Sign[] = [];
  const starters = machine.timers.map((): { lane: number; leaf: number } | undefined => undefined);
  records.forEach((record, t) => {
    for (const taken of record.taken) {
      for (const timer of startedBy(machine, taken)) {
        const before = starters[timer];
        const left = records[t - 1]?.timers[timer] ?? -1;
        const waits =
          before !== undefined &&
          before.lane !== taken.lane &&
          left > 0 &&
          record.leaves[before.lane] === before.leaf &&
          waitsFor(machine, before.leaf, machine.timers[timer]!.name);
        if (waits) signs.push(fightSign(machine, timer, before.leaf, taken, record.tick, left));
        starters[timer] = { lane: taken.lane, leaf: taken.to };
      }
    }
  });
  return once(signs);
};

function startedBy(machine: Machine, { crossing, from, to }: Taken): number[] {
  const { left, entered } = wayBetween(machine, from, crossing, to);
  const effects = [
    ...left.flatMap((s) => machine.states[s]!.exit),
    ...crossing.do,
    ...entered.flatMap((s) => machine.states[s]!.enter),
  ];
  return effects.flatMap((e) =>
    e.kind === 'start' && machine.timers[e.timer]!.again !== 'ignore' ? [e.timer] : [],
  );
}

/** Facts of a timer. */
const CLOCKED: ReadonlySet<FactName> = new Set(['running', 'done', 'left']);

/** Whether a way out of a state asks for a timer. */
const waitsFor = (machine: Machine, leaf: number, timer: string): boolean =>
  exitsOf(machine, leaf).some(
    ({ crossing: { when } }) =>
      when !== undefined && factsIn(when).some(({ fact, of }) => CLOCKED.has(fact) && of === timer),
  );

function fightSign(
  machine: Machine,
  timer: number,
  leaf: number,
  taken: Taken,
  tick: number,
  left: number,
): Sign {
  const { name } = machine.timers[timer]!;
  const waiting = machine.states[leaf]!;
  const by = machine.states[taken.to]!;
  const lane = machine.lanes[taken.lane]!;
  return {
    code: 'AG6',
    lane: lane.name,
    state: by.name,
    crossing: {
      from: machine.states[taken.from]!.name,
      to: machine.states[taken.crossing.to]!.name,
      index: taken.crossing.index,
    },
    sentence: `${by.name} of the lane ${lane.name} starts ${name} anew while ${waiting.name} still waits for it.`,
    reason: [`${name} had ${left} ticks left for ${waiting.name} when it was started again.`],
    tick,
    path: taken.crossing.path,
    fingerprint: `AG6/${name}/${waiting.name}/${by.name}`,
  };
}
