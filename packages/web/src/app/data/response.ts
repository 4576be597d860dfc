import { readMoveset, type State } from '@glenmark/core/machine';
import type { LaneFile, MovesetFile, Path, StateFile } from '@glenmark/core/model';
import { createPlayer } from '@glenmark/core/run';
import { buildWorld, readCourse } from '@glenmark/core/world';
import type { Steps } from '@glenmark/core/steps';

/** How a state answers its controls, by real ticks on flat ground or in the air: what the sheet draws. */
export interface Response {
  /** Seconds a tick. */
  dt: number;
  /** m/s over time: the axis held, let go, held the other way. */
  speed: number[];
  /** Ticks at which the axis is let go, and at which it is turned. */
  letGo: number;
  turned: number;
  /** m over time, thrown up at 10 m/s; empty for what stands. */
  height: number[];
  says: string[];
}

/** Ticks after which the work may be left. */
const STEP = 20;

const HOLD = 1;
const LAUNCH = 10;

const FIELD = `glenmark: 1
kind: course
name: field
solids: [{ box: [[-500 m, -2 m], [500 m, 0 m]] }]
spawns: { ground: { at: [0 m, 0 m] }, sky: { at: [0 m, 400 m] } }
`;
const course = readCourse(FIELD).course!;

/** A state to be played all by itself, and where. */
export interface StateAlone {
  state: string;
  moveset: string;
  isAirborne: boolean;
}

/** A state all by itself: no lane has a crossing, its own begins in it, the others stay where they begin. */
export function stateAlone(file: MovesetFile, lane: LaneFile, { name, kind, path }: State): StateAlone {
  const lanes = file.lanes.map((l) => ({ ...(l === lane ? beginningIn(l, path) : l), crossings: [] }));
  return {
    state: name,
    moveset: JSON.stringify({ ...file, lanes, accept: undefined }),
    isAirborne: kind === 'aloft' || kind === 'braced',
  };
}

/** Plays a state all by itself: its axis held, let go, turned. Undefined for a moveset that does not load. */
export function* responding({ moveset, isAirborne }: StateAlone): Steps<Response | undefined> {
  const { machine } = readMoveset(moveset);
  if (machine === undefined) return undefined;
  yield;
  const steering = machine.controls.findIndex((c) => c.kind === 'axis');
  const ticks = Math.round(HOLD * machine.rate);
  const world = buildWorld(course, machine.stances, machine.casts);
  const at = course.spawns[isAirborne ? 1 : 0]!;
  const input = (value: number): number[] => machine.controls.map((_, i) => (i === steering ? value : 0));
  const player = createPlayer(machine, world, at);
  const speed: number[] = [];
  for (const value of [1, 0, 1, -1]) {
    for (let t = 0; t < ticks; t++) {
      speed.push(player.step(input(value)).body.vx);
      if (t % STEP === 0) yield;
    }
  }
  const shown = speed.filter((_, t) => t < 2 * ticks || t >= 3 * ticks - 1);
  const height = isAirborne ? thrown() : [];
  return {
    dt: machine.dt,
    speed: shown,
    letGo: ticks,
    turned: 2 * ticks,
    height,
    says: [...speedWords(speed, ticks, machine.dt), ...heightWords(height, machine.dt)],
  };

  function thrown(): number[] {
    const free = createPlayer(machine!, world, at);
    free.situation.body = { ...free.situation.body, vy: LAUNCH };
    const path: number[] = [];
    for (let t = 0; t < 4 * ticks; t++) {
      path.push(free.step(input(0)).body.y - at.y);
      if (path.at(-1)! < 0) break;
    }
    return path;
  }
}

/** What is slower than this does not move (m/s). */
export const MIN_SPEED = 0.01;

function speedWords(speed: readonly number[], ticks: number, dt: number): string[] {
  const full = speed.slice(0, ticks).reduce((max, v) => (Math.abs(v) > Math.abs(max) ? v : max));
  if (Math.abs(full) < MIN_SPEED) return [$localize`the axis does not move it`];
  const up = speed.findIndex((v) => Math.abs(v) >= 0.98 * Math.abs(full)) + 1;
  const stop = speed.slice(ticks, 2 * ticks).findIndex((v) => Math.abs(v) < 0.02 * Math.abs(full)) + 1;
  const turn =
    speed.slice(3 * ticks).findIndex((v) => v * full < 0 && Math.abs(v) >= 0.9 * Math.abs(full)) + 1;
  const slid = speed.slice(ticks, 2 * ticks).reduce((sum, v) => sum + v * dt, 0);
  const s = (n: number): string => `${(n * dt).toFixed(2)}\u00a0s`;
  return [
    $localize`${full.toFixed(1)}\u00a0m/s in ${s(up)}`,
    stop === 0
      ? $localize`does not stop within a second`
      : $localize`stops in ${s(stop)}, ${Math.abs(slid).toFixed(2)}\u00a0m`,
    ...(turn === 0 ? [] : [$localize`turns in ${s(turn)}`]),
  ];
}

function heightWords(height: readonly number[], dt: number): string[] {
  if (height.length === 0) return [];
  const apex = Math.max(...height);
  if (apex <= 0) return [$localize`does not rise`];
  const up = height.indexOf(apex) + 1;
  const down = height.length - up;
  return [
    $localize`thrown up at ${LAUNCH}\u00a0m/s: ${apex.toFixed(2)}\u00a0m in ${(up * dt).toFixed(2)}\u00a0s, down in ${(down * dt).toFixed(2)}\u00a0s`,
  ];
}

/** The lane as it begins in a state: its initial one, and that of each group on the way, lead there. */
function beginningIn(lane: LaneFile, path: Path): LaneFile {
  const keys = path.slice(3).filter((step) => step !== 'states') as string[];
  const states = structuredClone(lane.states);
  let level: Record<string, StateFile> = states;
  keys.slice(0, -1).forEach((key, i) => {
    const group = level[key]!;
    group.initial = keys[i + 1]!;
    delete group.resume;
    level = group.states!;
  });
  return { ...lane, initial: keys[0]!, states };
}
