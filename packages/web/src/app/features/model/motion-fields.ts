import type { Machine, State } from '@glenmark/core/machine';
import type { MotionFile, Path } from '@glenmark/core/model';
import { type Expression, formatValue } from '@glenmark/core/notation';

/** One line of a state's motion as the sheet shows it. */
export interface MotionField {
  label: string;
  text: string;
  path: Path;
  /** What the text comes to, when it does not say so itself. */
  hint: string;
  removes: Path;
}

const LABELS: Record<string, string> = {
  'drive.to': $localize`drive to`,
  'drive.gain': 'gain',
  'drive.brake': 'brake',
  'drive.turn': 'turn',
  'drive.instant': 'instant',
  'drive.carry.above': $localize`carry above`,
  'drive.carry.fade': $localize`carry fades`,
  gravity: 'gravity',
  'gravity.rising': $localize`gravity rising`,
  'gravity.falling': $localize`gravity falling`,
  'gravity.cut.scale': $localize`gravity cut`,
  'gravity.cut.when': $localize`cut when`,
  'gravity.terminal': $localize`terminal speed`,
  'hold.vx': $localize`hold vx`,
  'hold.vy': $localize`hold vy`,
  'push.x': $localize`push x`,
  'push.y': $localize`push y`,
  'push.downhill': $localize`push downhill`,
  drag: 'drag',
  'ground.walkable': 'walkable',
  'ground.snap': 'snap',
};

/** The fields that a state's own motion sets, in file order. */
export function motionFields(machine: Machine, state: State, motion: MotionFile | undefined): MotionField[] {
  const fields: MotionField[] = [];
  const base: Path = [...state.path, 'motion'];
  const walk = (value: unknown, steps: string[]): void => {
    if (typeof value === 'object' && value !== null) {
      for (const [key, inner] of Object.entries(value)) walk(inner, [...steps, key]);
      return;
    }
    const key = steps.join('.');
    const path = [...base, ...steps];
    // A drive without a target, or half a pair, would not load: those go together.
    const whole = key === 'drive.to' ? path.slice(0, -1) : steps.length === 3 ? path.slice(0, -1) : path;
    const alone =
      steps.length === 2 && Object.keys((motion as Record<string, object>)[steps[0]!]!).length === 1;
    const removes = alone ? path.slice(0, -1) : whole;
    fields.push({
      label: LABELS[key] ?? key,
      text: String(value),
      path,
      hint: hintOf(machine, state, steps),
      removes,
    });
  };
  walk(motion ?? {}, []);
  return fields;
}

function hintOf(machine: Machine, state: State, steps: readonly string[]): string {
  const found = steps.reduce<unknown>(
    (at, step) => (at as Record<string, unknown> | undefined)?.[step],
    state.motion,
  ) as Expression | undefined;
  if (found?.kind !== 'constant' || found.syntax.kind === 'number' || found.syntax.kind === 'truth')
    return '';
  return formatValue(found.value, found.dimension, machine.rate);
}

/** What can be added to a motion: a label, where it goes, and a first value that loads. */
export function addableFields(
  motion: MotionFile | undefined,
): { label: string; steps: string[]; value: unknown }[] {
  const m = motion ?? {};
  const gravity = typeof m.gravity === 'object' ? m.gravity : undefined;
  const candidates: [boolean, string, string[], unknown][] = [
    [m.drive === undefined, 'drive', ['drive'], { to: '0 m/s', gain: '60 m/s2' }],
    [m.drive !== undefined && m.drive.brake === undefined, 'brake', ['drive', 'brake'], '60 m/s2'],
    [m.drive !== undefined && m.drive.turn === undefined, 'turn', ['drive', 'turn'], '60 m/s2'],
    [
      m.drive !== undefined && m.drive.carry === undefined,
      'carry',
      ['drive', 'carry'],
      { above: '3 m/s', fade: '7 m/s2' },
    ],
    [m.gravity === undefined, 'gravity', ['gravity'], { rising: 1, falling: 1 }],
    [
      gravity !== undefined && gravity.terminal === undefined,
      $localize`terminal speed`,
      ['gravity', 'terminal'],
      '18 m/s',
    ],
    [
      gravity !== undefined && gravity.cut === undefined,
      $localize`gravity cut`,
      ['gravity', 'cut'],
      { scale: 2, when: 'vy > 0 m/s' },
    ],
    [m.hold?.vx === undefined, $localize`hold vx`, ['hold', 'vx'], '0 m/s'],
    [m.hold?.vy === undefined, $localize`hold vy`, ['hold', 'vy'], '0 m/s'],
    [m.push?.x === undefined, $localize`push x`, ['push', 'x'], '0 m/s2'],
    [m.push?.y === undefined, $localize`push y`, ['push', 'y'], '0 m/s2'],
    [m.push?.downhill === undefined, $localize`push downhill`, ['push', 'downhill'], '0 m/s2'],
    [m.drag === undefined, 'drag', ['drag'], '1 1/s'],
    [m.ground?.walkable === undefined, 'walkable', ['ground', 'walkable'], '50 deg'],
    [m.ground?.snap === undefined, 'snap', ['ground', 'snap'], '0.15 m'],
  ];
  return candidates
    .filter(([missing]) => missing)
    .map(([, label, steps, value]) => ({ label, steps, value }));
}
