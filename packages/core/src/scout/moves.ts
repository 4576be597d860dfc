import { exitsOf, type Fast, type Machine, readAlways, readBy, readIn } from '../machine/index.js';
import type { Goal } from './expand.js';
import { createLeafCodes } from './leaf-codes.js';
import { type CrossingRecipe, recipesOf } from './recipes.js';

/** Directions that an aim is tried in (degrees). */
const AIMS = [0, 45, 90, 135, 180, -135, -90, -45];

/** The values that a control of each kind is tried at. */
const VALUES = { button: [0, 1], axis: [-1, 0, 1], aim: AIMS };

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

/** What was tried from a situation: which of the likely inputs, a bit each; and how many of all others. */
export interface Tried {
  likely: number;
  others: number;
}

/** How to draw: with what chance, and for which crossings. */
export interface Drawing {
  random: (below: number) => number;
  /** How many of eight inputs do what a guard asks for. */
  guided: number;
  /** Crossings that were never taken: what their guards ask for is tried more often. */
  open: readonly Goal[];
}

/** An input that was drawn, as a number that stands for it among those of a situation, and why. */
export interface Drawn {
  code: number;
  isGuided: boolean;
}

/** The inputs that can be tried from a situation, each once. */
export interface Moves {
  /** How many different inputs there are. */
  count(s: Float64Array): number;
  /** Fills an input by its number, from 0 to below `count`. */
  put(s: Float64Array, code: number, into: Float64Array): void;
  /**
   * Draws an input that was not tried from a situation yet, and notes that it is now; undefined when none is left. Some do
   * what a way out asks for; of the others most are a small change to what is held, and some anything.
   */
  draw(s: Float64Array, tried: Tried, how: Drawing): Drawn | undefined;
}

/** Likely inputs of one situation at most: what was tried of them is kept in as many bits. */
const LIKELY = 30;

/** What the inputs of a situation are made of, for one combination of leaves. */
interface Combination {
  matter: readonly number[];
  values: readonly (readonly number[])[];
  count: number;
  recipes: readonly CrossingRecipe[];
}

/** An input that is likely to lead on: a small change, or what ways out ask for; `isFor` lists those. */
interface Likely {
  code: number;
  isFor: readonly CrossingRecipe[];
}

/** Prepares the drawing of inputs. Controls that do not matter in a situation are let go. */
export function createMoves(fast: Fast): Moves {
  const { machine, layout } = fast;
  const matter = controlsOf(machine);
  const recipes = recipesOf(machine);
  const codeOf = createLeafCodes(fast);
  const combinations = new Map<number, Combination>();
  const combinationOf = (s: Float64Array): Combination => {
    const code = codeOf(s);
    let known = combinations.get(code);
    if (known === undefined) {
      const leaves = machine.lanes.map((_, i) => s[layout.leaves + i]!);
      const controls = [...new Set(leaves.flatMap((leaf) => matter[leaf]!))].sort((a, b) => a - b);
      const values = controls.map((c) => VALUES[machine.controls[c]!.kind]);
      known = {
        matter: controls,
        values,
        count: values.reduce((n, list) => n * list.length, 1),
        recipes: leaves.flatMap((leaf) => recipes[leaf]!),
      };
      combinations.set(code, known);
    }
    return known;
  };
  const put = (s: Float64Array, code: number, into: Float64Array): void => {
    const { matter: controls, values } = combinationOf(s);
    into.fill(0);
    let rest = code;
    for (let i = 0; i < controls.length; i++) {
      const list = values[i]!;
      into[controls[i]!] = list[rest % list.length]!;
      rest = Math.floor(rest / list.length);
    }
  };
  return {
    count: (s) => combinationOf(s).count,
    put,
    draw(s, tried, how) {
      const combination = combinationOf(s);
      const before = s.subarray(layout.input, layout.input + machine.controls.length);
      return drawAmong(likelyOf(combination, before), combination.count, tried, how);
    },
  };
}

function drawAmong(
  likely: readonly Likely[],
  count: number,
  tried: Tried,
  { random, guided, open }: Drawing,
): Drawn | undefined {
  const untried = (wanted: (l: Likely) => boolean): number[] =>
    likely.flatMap((l, i) => (((tried.likely >>> i) & 1) === 0 && wanted(l) ? [i] : []));
  const pick = (among: readonly number[], isGuided: boolean): Drawn => {
    const i = among[random(among.length)]!;
    tried.likely |= 1 << i;
    return { code: likely[i]!.code, isGuided };
  };
  const isOpen = ({ isFor }: Likely): boolean =>
    isFor.some((r) => open.some((g) => g.lane === r.lane && g.crossing === r.crossing));
  if (random(8) < guided) {
    const forOpen = random(2) === 0 ? untried(isOpen) : [];
    const asked = forOpen.length > 0 ? forOpen : untried(({ isFor }) => isFor.length > 0);
    if (asked.length > 0) return pick(asked, true);
  }
  const hasOthers = tried.others < count - likely.length;
  const near = untried(() => true);
  if (near.length > 0 && (!hasOthers || random(4) > 0)) return pick(near, false);
  return hasOthers ? { code: otherInput(count, likely, tried.others++), isGuided: false } : undefined;
}

/** The inputs that differ little from what is held, and those that ways out ask for, each once. */
function likelyOf({ matter, values, recipes }: Combination, before: ArrayLike<number>): Likely[] {
  const radix: number[] = [];
  matter.reduce((factor, _, i) => ((radix[i] = factor), factor * values[i]!.length), 1);
  const digit = (i: number, value: number): number => Math.max(0, values[i]!.indexOf(value));
  const held = matter.map((control, i) => digit(i, before[control]!));
  const now = held.reduce((code, d, i) => code + d * radix[i]!, 0);
  const found = new Map<number, CrossingRecipe[]>([[now, []]]);
  for (let i = 0; i < matter.length; i++)
    for (let d = 0; d < values[i]!.length; d++) found.set(now + (d - held[i]!) * radix[i]!, []);
  for (const recipe of recipes) {
    let code = now;
    for (const { control, value, isEdge } of recipe.controls) {
      const i = matter.indexOf(control);
      // Nobody can move a control that nothing drives.
      if (i < 0) continue;
      // A press of what is held, or a release of what is not, is prepared first.
      const isPrepared = !isEdge || before[control] !== value;
      code +=
        (digit(i, isPrepared ? value : 1 - value) - (Math.floor(code / radix[i]!) % values[i]!.length)) *
        radix[i]!;
      if (!isPrepared) break;
    }
    const list = found.get(code);
    if (list === undefined) found.set(code, [recipe]);
    else list.push(recipe);
  }
  return [...found].slice(0, LIKELY).map(([code, isFor]) => ({ code, isFor }));
}

/** One of the inputs that are not among the likely ones, by its place in an order that leaps from one end to the other. */
function otherInput(count: number, likely: readonly Likely[], place: number): number {
  let step = Math.floor(count * 0.618) | 1;
  while (gcd(step, count) !== 1) step += 2;
  const codes = new Set(likely.map(({ code }) => code));
  let code = 0;
  for (let left = place; ; code = (code + step) % count) {
    if (codes.has(code)) continue;
    if (left-- === 0) return code;
  }
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
