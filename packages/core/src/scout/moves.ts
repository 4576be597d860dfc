import { LONGEST } from './arena.js';
import type { CrossingRecipe, Recipe } from './recipes.js';
import { exitsOf, type Machine, readAlways, readBy, readIn } from '../machine/index.js';

/** A move that lasts until the body touches or lets go of something, or a crossing is taken. */
export const UNTIL_CHANGE = 0;

/** How long a move may hold its controls, in ticks. */
const HOLDS = [1, 2, 4, 8, 16, UNTIL_CHANGE];

/** Directions that an aim is tried in (degrees). */
const AIMS = [0, 45, 90, 135, 180, -135, -90, -45];

/** The controls that matter in each leaf, by their places: what its ways out, its effects and its motion read. */
export function controlsOf(machine: Machine): number[][] {
  const always = readAlways(machine);
  return machine.states.map((state) => {
    if (state.members.length > 0) return [];
    const byExits = exitsOf(machine, state.index).flatMap(({ crossing }) =>
      readBy(machine, crossing, state.index),
    );
    const found = new Set([...always, ...readIn(machine, state.index), ...byExits]);
    return [...found].filter((c) => isBound(machine, c)).sort((a, b) => a - b);
  });
}

/** A control that nothing drives cannot be moved by anybody. */
function isBound(machine: Machine, control: number): boolean {
  const { kind, keys, negative, positive, pad } = machine.controls[control]!;
  return kind === 'aim' || keys.length + negative.length + positive.length + pad.length > 0;
}

/** What leads on from a situation. */
export interface Ways {
  /** The controls that matter, and what all are held at now. */
  matter: readonly number[];
  before: ArrayLike<number>;
  /** What ways out ask for; `open` are those of crossings that were never taken yet. */
  recipes: readonly CrossingRecipe[];
  open: readonly CrossingRecipe[];
  /** How many of eight moves are taken from what a guard asks for. */
  guided: number;
}

/** For how many ticks controls are held, or `UNTIL_CHANGE`, and whether a guard asks for it. */
export interface Move {
  hold: number;
  isGuided: boolean;
}

/**
 * Draws a move: fills `input` with what the controls are held at, and gives for how long. A guided one does what some way out asks for, as long as it says; of the others most are a small change to what is held
 * now, and some anything. Controls that do not matter are let go.
 */
export function drawMove(
  machine: Machine,
  ways: Ways,
  input: Float64Array,
  random: (below: number) => number,
): Move {
  const { matter, before, recipes, open, guided } = ways;
  input.fill(0);
  if (recipes.length > 0 && random(8) < guided) {
    for (const control of matter) input[control] = before[control]!;
    const among = open.length > 0 && random(2) === 0 ? open : recipes;
    return { hold: follow(among[random(among.length)]!, ways, input, random), isGuided: true };
  }
  const anything = random(4) === 0;
  const changed = matter.length === 0 ? -1 : matter[random(matter.length)]!;
  for (const control of matter) {
    const { kind } = machine.controls[control]!;
    const old = before[control]!;
    const isChanged = anything || control === changed;
    if (kind === 'button') input[control] = isChanged ? (anything ? random(2) : old === 0 ? 1 : 0) : old;
    else if (kind === 'axis') input[control] = isChanged ? random(3) - 1 : old;
    else input[control] = isChanged ? AIMS[random(AIMS.length)]! : old;
  }
  return { hold: HOLDS[random(HOLDS.length)]!, isGuided: false };
}

/** Sets controls as a recipe says. A press of what is held, or a release of what is not, is prepared for one tick. */
function follow(
  { controls, ticks }: Recipe,
  { matter, before }: Ways,
  input: Float64Array,
  random: (below: number) => number,
): number {
  for (const { control, value, isEdge } of controls) {
    // Nobody can move a control that nothing drives.
    if (!matter.includes(control)) continue;
    if (isEdge && before[control] === value) {
      input[control] = 1 - value;
      return 1;
    }
    input[control] = value;
  }
  return ticks > 0 ? Math.min(ticks, LONGEST) : HOLDS[random(HOLDS.length)]!;
}
