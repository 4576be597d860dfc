import { present } from '../present.js';
import { readMoveset, type State } from '../machine/index.js';
import type { LaneFile, MovesetFile, Path, StateFile } from '../model/index.js';
import type { Steps } from '../steps.js';
import { buildWorld, readCourse } from '../world/index.js';
import { createPlayer } from './player.js';

/** How a state answers its controls, by real ticks on flat ground or in the air. */
export interface Response {
  /** Seconds a tick. */
  dt: number;
  /** m/s over time: the axis held, let go, held the other way. */
  speed: number[];
  /** Ticks at which the axis is let go, and at which it is turned. */
  letGo: number;
  turned: number;
  /** m over time, thrown up at `LAUNCH`; empty for what stands. */
  height: number[];
  /** What the axis does; undefined when it does not move the body. */
  drive: DriveFigures | undefined;
  /** How far the throw goes; undefined for what stands, `apex` 0 for what does not rise. */
  rise: RiseFigures | undefined;
}

/** Times in seconds; undefined for what does not come about within a second. */
export interface DriveFigures {
  /** The speed that is reached (m/s), and how soon 98 % of it. */
  full: number;
  up: number;
  /** How soon it stands (2 % of the speed) once the axis is let go, and how far it slides (m). */
  stop: number | undefined;
  slide: number;
  /** How soon it has 90 % of the speed the other way. */
  turn: number | undefined;
}

/** The apex (m), and the seconds up to it and down from it. */
export interface RiseFigures {
  apex: number;
  up: number;
  down: number;
}

/** How fast a body in the air is thrown up (m/s). */
export const LAUNCH = 10;
/** What is slower than this does not move (m/s). */
export const MIN_SPEED = 0.01;

/** Ticks after which the work may be left. */
const STEP = 20;
/** Seconds for which each position of the axis is held. */
const HOLD = 1;

const FIELD = `glenmark: 1
kind: course
name: field
solids: [{ box: [[-500 m, -2 m], [500 m, 0 m]] }]
spawns: { ground: { at: [0 m, 0 m] }, sky: { at: [0 m, 400 m] } }
`;

/** A state to be played all by itself, and where. */
export interface LoneState {
  state: string;
  moveset: string;
  isAirborne: boolean;
}

/** A state all by itself: no lane has a crossing, its own begins in it, the others stay where they begin. */
export function loneState(file: MovesetFile, lane: LaneFile, { name, kind, path }: State): LoneState {
  const lanes = file.lanes.map((l) => ({ ...(l === lane ? beginningIn(l, path) : l), crossings: [] }));
  return {
    state: name,
    moveset: JSON.stringify({ ...file, lanes, accept: undefined }),
    isAirborne: kind === 'aloft' || kind === 'braced',
  };
}

/** Plays a state all by itself: its axis held, let go, turned. Undefined for a moveset that does not load. */
export function* responding({ moveset, isAirborne }: LoneState): Steps<Response | undefined> {
  const { machine } = readMoveset(moveset);
  if (machine === undefined) return undefined;
  yield;
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  const ticks = Math.round(HOLD * machine.rate);
  const course = present(readCourse(FIELD).course);
  const world = buildWorld(course, machine.stances, machine.casts);
  const at = present(course.spawns[isAirborne ? 1 : 0]);
  const input = (value: number): number[] => machine.controls.map((_, i) => (i === steering ? value : 0));
  const player = createPlayer(machine, world, at);
  const speed: number[] = [];
  for (const value of [1, 0, 1, -1]) {
    for (let t = 0; t < ticks; t++) {
      speed.push(player.step(input(value)).body.vx);
      if (t % STEP === 0) yield;
    }
  }
  const height: number[] = [];
  if (isAirborne) {
    const free = createPlayer(machine, world, at);
    free.situation.body = { ...free.situation.body, vy: LAUNCH };
    for (let t = 0; t < 4 * ticks; t++) {
      const above = free.step(input(0)).body.y - at.y;
      height.push(above);
      if (above < 0) break;
    }
  }
  return {
    dt: machine.dt,
    speed: speed.filter((_, t) => t < 2 * ticks || t >= 3 * ticks - 1),
    letGo: ticks,
    turned: 2 * ticks,
    height,
    drive: driveFigures(speed, ticks, machine.dt),
    rise: riseFigures(height, machine.dt),
  };
}

/** Figures of the axis held, let go, held and turned, for so many ticks each. */
function driveFigures(speed: readonly number[], ticks: number, dt: number): DriveFigures | undefined {
  const full = speed.slice(0, ticks).reduce((max, v) => (Math.abs(v) > Math.abs(max) ? v : max));
  if (Math.abs(full) < MIN_SPEED) return undefined;
  const coasting = speed.slice(ticks, 2 * ticks);
  const soon = (list: readonly number[], isMet: (v: number) => boolean): number | undefined => {
    const tick = list.findIndex(isMet);
    return tick < 0 ? undefined : (tick + 1) * dt;
  };
  return {
    full,
    up: present(soon(speed, (v) => Math.abs(v) >= 0.98 * Math.abs(full))),
    stop: soon(coasting, (v) => Math.abs(v) < 0.02 * Math.abs(full)),
    slide: Math.abs(coasting.reduce((sum, v) => sum + v * dt, 0)),
    turn: soon(speed.slice(3 * ticks), (v) => v * full < 0 && Math.abs(v) >= 0.9 * Math.abs(full)),
  };
}

function riseFigures(height: readonly number[], dt: number): RiseFigures | undefined {
  if (height.length === 0) return undefined;
  const apex = Math.max(0, ...height);
  const up = apex === 0 ? 0 : height.indexOf(apex) + 1;
  return { apex, up: up * dt, down: (height.length - up) * dt };
}

/** The lane as it begins in a state: its initial one, and that of each group on the way, lead there. */
function beginningIn(lane: LaneFile, path: Path): LaneFile {
  const keys = path.slice(3).filter((step) => step !== 'states') as string[];
  const states = structuredClone(lane.states);
  let level: Record<string, StateFile> = states;
  keys.slice(0, -1).forEach((key, i) => {
    const group = present(level[key]);
    group.initial = present(keys[i + 1]);
    delete group.resume;
    level = present(group.states);
  });
  return { ...lane, initial: present(keys[0]), states };
}
