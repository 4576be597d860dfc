import type { TapeOnCourse } from '../findings/index.js';
import { present } from '../present.js';
import {
  type Code,
  codeOf,
  type Compiled,
  compileTurned,
  createCodes,
  lookAfter,
  lower,
  lowerSensesAfter,
  type Machine,
  place,
  type Program,
  runProgram,
  startFast,
  step,
} from '../machine/index.js';
import { errorsOf } from '../model/index.js';
import {
  compileExpectations,
  type ExpectationResult,
  type Expectations,
  isOutside,
  type Measures,
  measuring,
  type Moment,
  slotsRead,
  startOf,
  tapeInputs,
  watchExpectations,
} from '../run/index.js';
import { buildWorld, type World } from '../world/index.js';
import { type Setting, settingChanges, type Turnable, turnablesOf } from './turnables.js';

/** What came of a tape at a setting. */
export interface Trial {
  measures: Measures;
  expectations: ExpectationResult[];
  /** The feet after each tick, as x0, y0, x1, y1 and so on. */
  trail: Float32Array;
}

/** A moveset at a setting: ready to play, or what is wrong with it. */
export type Turned = { machine: Machine; wrong?: undefined } | { machine?: undefined; wrong: string };

/** A moveset that is tried at many settings of its dials. */
export interface Trials {
  turnables: Turnable[];
  tapes: readonly TapeOnCourse[];
  /** The moveset with these dials turned; all others stay as they are. */
  turned(setting: Setting): Turned;
  /** Plays a tape, by its place in the list, on a turned moveset: what `runTape` plays, to the last bit. */
  play(machine: Machine, tape: number): Trial;
}

/**
 * Makes a moveset that loads ready to be tried on some tapes, which must fit it and their courses. The fast machine plays
 * them.
 * @throws {EvalError} where a content security policy forbids making code from text
 */
export function createTrials(compiled: Compiled, tapes: readonly TapeOnCourse[]): Trials {
  const turnables = turnablesOf(compiled);
  const codes = createCodes();
  const kept: (Prepared | undefined)[] = [];
  const lowered = new WeakMap<Machine, { program: Program; code: Code }>();
  const worlds = new Map<string, World>();

  /** Dials change the body rarely: then the courses are met by the same one. */
  const worldFor = ({ stances, casts }: Machine, tape: number): World => {
    const key = `${tape} ${JSON.stringify([stances, casts])}`;
    const known = worlds.get(key);
    if (known !== undefined) return known;
    const world = buildWorld(present(tapes[tape]).course, stances, casts);
    worlds.set(key, world);
    return world;
  };

  /** Each machine is lowered once, for all tapes. */
  const loweredFor = (machine: Machine): { program: Program; code: Code } => {
    const known = lowered.get(machine);
    if (known !== undefined) return known;
    const program = lower(machine);
    const made = { program, code: codes(program) };
    lowered.set(machine, made);
    return made;
  };

  const prepared = (machine: Machine, index: number): Prepared => {
    const known = kept[index];
    if (known !== undefined) return known;
    const { tape } = present(tapes[index]);
    const { expectations } = compileExpectations(tape, machine);
    const looking = lowerSensesAfter(machine, slotsRead(expectations));
    const made = { inputs: tapeInputs(tape, machine), expectations, looking, looks: codeOf(looking) };
    if (expectations.list.every((e) => e.dials.length === 0)) kept[index] = made;
    return made;
  };

  return {
    turnables,
    tapes,
    turned(setting) {
      const { machine, diagnostics } = compileTurned(compiled, settingChanges(turnables, setting));
      return machine === undefined
        ? { wrong: errorsOf(diagnostics)[0]?.message ?? 'it does not load' }
        : { machine };
    },
    play(machine, index) {
      const { tape, course } = present(tapes[index]);
      const world = worldFor(machine, index);
      const { program, code } = loweredFor(machine);
      const fast = runProgram(program, machine, world, { code });
      const { inputs, expectations, looking, looks: lookCode } = prepared(machine, index);
      const looks = runProgram(looking, machine, world, { code: lookCode });
      const watch = watchExpectations(expectations, machine);
      const at = present(startOf(tape, course));
      const measures = measuring(machine, at);
      const trail = new Float32Array(2 * inputs.length);
      const moments = [createMoment(machine), createMoment(machine)] as const;
      const s = startFast(fast, at);
      const { layout } = fast;
      let tick = 0;
      for (const input of inputs) {
        step(fast, s, input);
        const [x, y] = [present(s[place.X]), present(s[place.Y])];
        if (expectations.list.length > 0) {
          // What is pressed in this tick still is, when a tape looks at it.
          hold(s, layout.input, inputs[tick - 1] ?? NO_INPUT, machine.controls.length);
          lookAfter(looks, s, input);
          hold(s, layout.input, input, machine.controls.length);
          watch.see(tick, looks.facts);
        }
        const moment = moments[tick % 2 === 0 ? 0 : 1];
        moment.x = x;
        moment.y = y;
        moment.vx = present(s[place.VX]);
        moment.vy = present(s[place.VY]);
        moment.grounded = s[place.GROUND] === 1;
        for (let i = 0; i < moment.leaves.length; i++) moment.leaves[i] = present(s[layout.leaves + i]);
        for (let i = 0; i < moment.charges.length; i++) moment.charges[i] = present(s[layout.charges + i]);
        moment.input = input;
        measures.see(moment);
        trail[2 * tick] = x;
        trail[2 * tick + 1] = y;
        tick++;
        if (isOutside(world, x, y)) break;
      }
      return {
        measures: measures.result(),
        expectations: watch.results(),
        trail: trail.subarray(0, 2 * tick),
      };
    },
  };
}

/** What a tape asks of every setting: it is made once where no dial is in it. */
interface Prepared {
  inputs: number[][];
  expectations: Expectations;
  /** What finds the facts that the expectations look at, and its code. */
  looking: Program;
  looks: Code;
}

/** Puts what is held into a situation. Setting a few numbers one by one is quicker than as a list. */
function hold(s: Float64Array, at: number, input: readonly number[], count: number): void {
  for (let i = 0; i < count; i++) s[at + i] = input[i] ?? 0;
}

const NO_INPUT: readonly number[] = [];

type OwnMoment = Moment & { leaves: number[]; charges: number[] };

const createMoment = ({ lanes, cooldowns }: Machine): OwnMoment => ({
  x: 0,
  y: 0,
  vx: 0,
  vy: 0,
  grounded: false,
  leaves: lanes.map(() => 0),
  charges: cooldowns.map(() => 0),
  input: NO_INPUT,
});
