import { present } from '../../present.js';
import type { Path } from '../../model/index.js';
import type { Dimension, Expression, SymbolKind, TextSpan } from '../../notation/index.js';
import type { Core, GroundRule, Part } from '../../world/index.js';
import type { FactTable } from './facts.js';

/**
 * A moveset made ready to run at one tick rate: names are indexes, dials are folded, lengths of time are ticks.
 * Everything keeps the path of the document it came from, so that a finding or an error can point there.
 */
export interface Machine {
  name: string;
  /** Ticks a second, and the length of one tick in seconds. */
  rate: number;
  dt: number;
  /** The ticks a second that the file asks for. */
  nominalRate: number;
  /** m/s², downward. */
  gravity: number;
  plane: 'side' | 'above';
  integration: Integration;
  dials: Dial[];
  controls: Control[];
  /** The axes that move the body sideways, by place: `pushing` is about them. */
  steering: number[];
  /** Named ones first, then those without some parts, then the steps of blends. */
  stances: Stance[];
  /** The first step of the blend from one stance to another, by `from>to`; the others follow it. */
  blends: Map<string, number>;
  probes: Probe[];
  variables: Variable[];
  timers: Timer[];
  cooldowns: Cooldown[];
  abilities: Ability[];
  tethers: Tether[];
  /** Shapes that probes cast, beside the ray: what `buildWorld` must prepare. */
  casts: Core[];
  events: string[];
  /** Tags of zones that some guard asks for. */
  zoneTags: string[];
  /** Probes with tags that some guard asks for. */
  tagHits: { probe: string; tag: string }[];
  lanes: Lane[];
  /** All states and groups of all lanes; indexes elsewhere are into this list. */
  states: State[];
  /** What `within` and `for` remember; inner ones come first. */
  memories: Memory[];
  facts: FactTable;
  /** Every text of the document that has names in it. */
  texts: NotationPlace[];
  /** Fields that have no effect where they stand. */
  idle: IdleField[];
  /** Every use of a name, its declaration apart. */
  references: Reference[];
  limits: Limits;
  /** Settings of dials to keep, in the order of the file. */
  settings: KeptSetting[];
  /** How a log of the game is to be read. */
  gameLog: GameLog;
  /** Findings that the author accepts, by fingerprint, with the reason. */
  accepted: { fingerprint: string; reason: string; path: Path }[];
}

/**
 * By which velocity the body moves in a tick, of that before the rules of motion changed it and that after them:
 * `semi-implicit` by the one after, `explicit` by the one before, `trapezoid` by the mean of both. What a rule sets (a
 * hold, an instant drive, a tether) counts from the start of the tick, so that a dash is as long with each.
 */
export type Integration = 'semi-implicit' | 'explicit' | 'trapezoid';

/** How a log of the game names and measures what is here. */
export interface GameLog {
  /** What the game's columns are, with the unit that they are in, by the game's name. */
  columns: ReadonlyMap<string, { is: string; unit: string | undefined }>;
  /** By lane, what the game's names of states are here: one of these. */
  states: ReadonlyMap<string, ReadonlyMap<string, readonly string[]>>;
  /** How far a column may be off, in base units, by our name of it. */
  within: ReadonlyMap<string, number>;
  /** The length of one px (m), where the file says it. */
  pixel: number | undefined;
}

/** From where on the findings about runs call something a fault. */
export interface Limits {
  /** Two states that alternate twice within so many ticks flicker. */
  flicker: number;
  /** How often a held button may launch before it is a repeat. */
  repeats: number;
  /** How often a crossing may be taken in one flight, higher each time. */
  climbs: number;
  /** How much a change of state may take from the speed in one tick (m/s). */
  momentum: number;
  /** How much height may be won on ground steeper than walkable (m). */
  steepGain: number;
}

/** A field that has no effect where it stands, and why, as the end of a sentence. */
export interface IdleField {
  field: string;
  because: string;
  path: Path;
}

/** A text of the document that has names in it: a piece of notation, or a column of a log. */
export interface NotationPlace {
  path: Path;
  text: string;
}

/**
 * A use of a name: `read` by an expression, `written` by an effect, `named` as a whole value of the document, as a
 * state's stance is, or the `key` of a mapping, as a dial in a setting is.
 */
export interface Reference {
  kind: SymbolKind;
  name: string;
  use: 'read' | 'written' | 'named' | 'key';
  path: Path;
  /** The stretch of the text at `path`; undefined when the name is the whole value. */
  span: TextSpan | undefined;
}

export interface Dial {
  name: string;
  dimension: Dimension;
  value: number;
  /** What the file says it may be turned to, infinite where it says nothing; `step` of turning, when it says. */
  min: number;
  max: number;
  step: number | undefined;
  /** True for a dial that is worked out from others and cannot be turned itself. */
  derived: boolean;
  path: Path;
}

/** Values of dials, and of gravity, under a name: to be compared, and taken in one step. */
export interface KeptSetting {
  name: string;
  /** By the name of the dial, in base units. */
  values: Record<string, number>;
  path: Path;
}

export interface Control {
  name: string;
  kind: 'button' | 'axis' | 'aim';
  /** Key codes: of a button, or of the two ends of an axis. */
  keys: string[];
  negative: string[];
  positive: string[];
  pad: string[];
  path: Path;
}

export interface Stance {
  name: string;
  parts: Part[];
  anchor: 'feet' | 'middle' | 'head';
  /** How many ticks a change into it takes. */
  blend: number;
  /** Made by the compiler: a stance without some parts, or a step of a blend. */
  hidden: boolean;
  /** A step of a blend: no state asks for it, and no fact tells of it. */
  step: boolean;
  /** Extent of all parts together, from the feet (metres). */
  bottom: number;
  top: number;
  path: Path;
}

export interface Probe {
  name: string;
  x: number;
  y: number;
  /** A unit vector, x mirrored with facing; or the control whose aim it follows. */
  direction: { x: number; y: number } | { aim: string };
  /** Index of what it casts among the world's casts: 0 is a ray. */
  cast: number;
  reach: number;
  sees: string[] | undefined;
  path: Path;
}

export interface Variable {
  name: string;
  kind: 'flag' | 'count' | 'number';
  dimension: Dimension;
  initial: number;
  /** Most a count can be; infinite for the others. */
  max: number;
  /** While it holds, the variable goes back to `max` (a count) or to `initial`. */
  refill: Expression | undefined;
  path: Path;
}

export interface Timer {
  name: string;
  ticks: number;
  runs: Expression | undefined;
  again: 'restart' | 'ignore' | 'extend';
  path: Path;
}

export interface Cooldown {
  name: string;
  charges: number;
  ticks: number;
  order: 'oneByOne' | 'together';
  refill: Expression | undefined;
  from: 'spend' | 'exit';
  path: Path;
}

export interface Ability {
  name: string;
  locked: boolean;
  path: Path;
}

export interface Tether {
  name: string;
  reach: number;
  /** The aim it is cast along, or undefined when it takes the nearest anchor. */
  aim: string | undefined;
  sees: string[];
  most: number;
  path: Path;
}

export interface Memory {
  mode: 'within' | 'for';
  of: Expression;
  ticks: number;
  slot: number;
  /** Controls whose press it remembers for a crossing: once the press was used it is forgotten. */
  presses: readonly string[];
}

export interface Lane {
  index: number;
  name: string;
  /** Members in file order, groups before what is in them; indexes into `Machine.states`. */
  states: number[];
  initial: number;
  /** Channels that it leaves to others that write them in the same tick. */
  yields: Channel[];
  crossings: Crossing[];
  path: Path;
}

/** What moves the body in a state; gives the state its mark and colour. */
export type StateKind = 'footed' | 'aloft' | 'braced' | 'slung' | 'committed';

export interface State {
  index: number;
  name: string;
  lane: number;
  /** The group it is in, −1 at the top of the lane. */
  parent: number;
  /** Members of a group in file order; empty for a state. */
  members: number[];
  initial: number;
  resumes: boolean;
  home: boolean;
  final: boolean;
  passing: boolean;
  /** Inherited from the group; −1 when neither says. */
  stance: number;
  ifBlocked: 'refuse' | 'wait';
  ability: number;
  /** Tags for the animation, each until so many ticks in the state; the last one stays. */
  tags: { tag: string; until: number }[];
  /** Merged field by field with the groups'. */
  motion: Motion;
  enter: Effect[];
  exit: Effect[];
  each: Effect[];
  kind: StateKind;
  path: Path;
}

export interface Crossing {
  /** Position in the lane's list, from 0. */
  index: number;
  lane: number;
  /** States and groups it leaves; empty for everywhere. */
  from: number[];
  /** Whether the file writes `from` as a list. */
  fromList: boolean;
  to: number;
  when: Expression | undefined;
  do: Effect[];
  rank: number;
  ability: number;
  reenter: boolean;
  path: Path;
}

export type Channel = 'vx' | 'vy' | 'gravity' | 'facing' | 'stance';

export type Effect = { text: string; path: Path } & (
  | { kind: 'velocity'; channel: 'vx' | 'vy'; op: ':=' | '+=' | '-='; value: Expression }
  | { kind: 'variable'; variable: number; op: ':=' | '+=' | '-='; value: Expression }
  | { kind: 'spend' | 'refill'; what: 'count' | 'cooldown'; index: number }
  | { kind: 'start' | 'stop'; timer: number }
  | { kind: 'face'; way: 'left' | 'right' | 'turn' | 'away' | 'axis'; slot: number }
  | { kind: 'lock' | 'unlock'; ability: number }
  | { kind: 'raise'; event: number }
  | { kind: 'cast' | 'release'; tether: number }
  | { kind: 'drop' }
);

export interface Motion {
  drive: Drive | undefined;
  gravity: GravityRule | undefined;
  hold: { vx: Expression | undefined; vy: Expression | undefined } | undefined;
  push:
    { x: Expression | undefined; y: Expression | undefined; downhill: Expression | undefined } | undefined;
  drag: Expression | undefined;
  ground: (GroundRule & { slip: Expression | undefined; inherit: boolean }) | undefined;
  tether: TetherRule | undefined;
  directions: 'free' | '8' | '4' | undefined;
}

export interface Drive {
  to: Expression;
  /** From above: the target speed in y. */
  toY: Expression | undefined;
  gain: Expression | undefined;
  brake: Expression | undefined;
  turn: Expression | undefined;
  instant: boolean;
  carry: { above: Expression; fade: Expression; slope: Expression | undefined } | undefined;
}

export interface TetherRule {
  reel: Expression | undefined;
  climb: Expression | undefined;
  /** A length; or the tangent of an angle, times how far the anchor is above. */
  sideways: { length: Expression } | { tangent: number } | undefined;
}

export interface GravityRule {
  rising: Expression | undefined;
  falling: Expression | undefined;
  cut: { scale: Expression; when: Expression } | undefined;
  terminal: Expression | undefined;
}

/** A state and the groups around it, innermost first. */
export function chainOf({ states }: Pick<Machine, 'states'>, state: number): number[] {
  const chain: number[] = [];
  for (let s = state; s >= 0; s = present(states[s]).parent) chain.push(s);
  return chain;
}

/** Whether a state is, or lies in, a group. */
export const isWithin = (machine: Machine, state: number, group: number): boolean =>
  chainOf(machine, state).includes(group);

/** The leaves of a state or group: itself, or all states in it. */
export function leavesOf(machine: Machine, state: number): number[] {
  const { members } = present(machine.states[state]);
  return members.length === 0 ? [state] : members.flatMap((m) => leavesOf(machine, m));
}

/** The guard of a crossing as the moveset has it, and where it stands; undefined for one without. */
export function guardOf({ texts }: Pick<Machine, 'texts'>, { path }: Crossing): NotationPlace | undefined {
  const key = [...path, 'when'].join('/');
  return texts.find(({ path: at }) => at.length === path.length + 1 && at.join('/') === key);
}
